/** The state of a form of readings: what is typed, what it reads as, and what must be asked about. */
import { useState } from 'react';
import { parseReading, type ReadingSpec } from '@cork-ember/core/units/reading.ts';
import { shopRegion, typedHere } from '../region/shopRegion.ts';

export interface ReadingField {
  readonly id: string;
  readonly spec: ReadingSpec;
  readonly isOptional: boolean;
}

interface Typed {
  readonly text: string;
  /** The sentence under the field. */
  readonly sentence?: string;
  readonly isProblem?: boolean;
  readonly suggestion?: number;
  /** The unusual value the person may keep. */
  readonly keepable?: number;
  /** Confirmed as typed. */
  readonly isKept?: boolean;
  readonly source?: string;
}

type TypedById = Readonly<Record<string, Typed>>;
/** Values to begin with, in the core's units. */
export type ValuesById = Readonly<Record<string, number>>;

const BLANK: Typed = { text: '' };

export interface Readings {
  readonly typed: (id: string) => Typed;
  readonly type: (id: string, text: string) => void;
  /** Puts a value of the core's unit into a field as it would be typed; with nothing the field is emptied. */
  readonly put: (id: string, value: number | undefined, source?: string) => void;
  readonly keep: (id: string) => void;
  /** Reads every field; undefined when something must be put right first. */
  readonly take: () => { values: Record<string, number>; source: string } | undefined;
}

function judged(field: ReadingField, now: Typed): { typed: Typed; value?: number } {
  if (now.text.trim() === '' && field.isOptional) return { typed: { text: '' } };
  const parsed = parseReading(now.text, field.spec, shopRegion());
  if (parsed.kind === 'value')
    return { typed: { ...now, ...(parsed.readAs ? { sentence: parsed.readAs } : {}) }, value: parsed.value };
  if (parsed.kind === 'refused') return { typed: { ...now, sentence: parsed.sentence, isProblem: true } };
  if (now.isKept && parsed.value !== undefined) return { typed: now, value: parsed.value };
  return {
    typed: {
      ...now,
      sentence: parsed.question,
      isProblem: true,
      ...(parsed.suggestion === undefined ? {} : { suggestion: parsed.suggestion }),
      ...(parsed.value === undefined ? {} : { keepable: parsed.value }),
    },
  };
}

const textOf = (value: number, { spec }: Pick<ReadingField, 'spec'>): string =>
  typedHere(value, spec.unit, spec.decimals);

/**
 * @param initial what stands in the fields to begin with
 * @param isAsKept whether it stands there with every digit it was recorded with, for a correction of another field
 */
export function useReadings(
  fields: readonly ReadingField[],
  initial: ValuesById = {},
  isAsKept = false,
): Readings {
  const [all, setAll] = useState<TypedById>(() =>
    Object.fromEntries(
      fields.flatMap((field) => {
        const value = initial[field.id];
        return value === undefined
          ? []
          : [[field.id, { text: isAsKept ? typedHere(value, field.spec.unit) : textOf(value, field) }]];
      }),
    ),
  );
  const typed = (id: string): Typed => all[id] ?? BLANK;
  const put = (id: string, next: Typed): void => setAll((before) => ({ ...before, [id]: next }));
  return {
    typed,
    type: (id, text) => {
      const field = fields.find((one) => one.id === id);
      const parsed =
        field && /[,a-z°]/i.test(text) ? parseReading(text, field.spec, shopRegion()) : undefined;
      put(id, { text, ...(parsed?.kind === 'value' && parsed.readAs ? { sentence: parsed.readAs } : {}) });
    },
    put: (id, value, source) => {
      const field = fields.find((one) => one.id === id);
      const text = value === undefined || !field ? '' : textOf(value, field);
      put(id, { text, ...(source === undefined ? {} : { source }) });
    },
    keep: (id) => put(id, { text: typed(id).text, isKept: true }),
    take: () => {
      const results = fields.map((field) => ({ id: field.id, ...judged(field, typed(field.id)) }));
      setAll((before) => ({
        ...before,
        ...Object.fromEntries(results.map(({ id, typed: next }) => [id, next])),
      }));
      if (results.some((result) => result.typed.isProblem)) return undefined;
      const values: Record<string, number> = {};
      for (const { id, value } of results) if (value !== undefined) values[id] = value;
      const sources = new Set(fields.map(({ id }) => typed(id).source ?? 'keypad'));
      return { values, source: [...sources].join(' and ') };
    },
  };
}
