/** The state of a form of readings: what is typed, what it reads as, and what must be asked about. */
import { useState } from 'react';
import { parseReading, type ReadingSpec } from '@cork-ember/core/units/reading.ts';

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

export type TypedById = Readonly<Record<string, Typed>>;

const BLANK: Typed = { text: '' };

export interface Readings {
  readonly typed: (id: string) => Typed;
  readonly type: (id: string, text: string) => void;
  readonly fill: (id: string, text: string, source: string) => void;
  readonly keep: (id: string) => void;
  /** Reads every field; undefined when something must be put right first. */
  readonly take: () => { values: Record<string, number>; source: string } | undefined;
}

function judged(field: ReadingField, now: Typed): { typed: Typed; value?: number } {
  if (now.text.trim() === '' && field.isOptional) return { typed: { text: '' } };
  const parsed = parseReading(now.text, field.spec);
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

export function useReadings(fields: readonly ReadingField[], initial: TypedById = {}): Readings {
  const [all, setAll] = useState<TypedById>(initial);
  const typed = (id: string): Typed => all[id] ?? BLANK;
  const put = (id: string, next: Typed): void => setAll((before) => ({ ...before, [id]: next }));
  return {
    typed,
    type: (id, text) => {
      const field = fields.find((one) => one.id === id);
      const parsed = field && /[,a-z°]/i.test(text) ? parseReading(text, field.spec) : undefined;
      put(id, { text, ...(parsed?.kind === 'value' && parsed.readAs ? { sentence: parsed.readAs } : {}) });
    },
    fill: (id, text, source) => put(id, { text, source }),
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
