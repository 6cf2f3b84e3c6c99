/** The state of a form of readings: what is typed, what it reads as, and what must be asked about. */
import { useState } from 'react';
import { useDraft, type DraftField } from '../store/drafts.ts';
import { parseReading, type ReadingSpec } from '@cork-ember/core/units/reading.ts';
import { shopRegion, typedHere } from '../region/shopRegion.ts';

export interface ReadingField {
  readonly id: string;
  readonly spec: ReadingSpec;
  readonly isOptional: boolean;
}

interface Typed extends DraftField {
  /** The sentence under the field. */
  readonly sentence?: string;
  readonly isProblem?: boolean;
  readonly suggestion?: number;
  /** The unusual value the person may keep. */
  readonly keepable?: number;
}

/** What was found when the form was pressed. */
type Found = Readonly<Record<string, Typed>>;
/** Values to begin with, in the core's units. */
export type ValuesById = Readonly<Record<string, number>>;

const BLANK: DraftField = { text: '' };

export interface TakenReadings {
  /** By field, in the core's units. */
  readonly values: Record<string, number>;
  readonly source: string;
}

export interface Readings {
  readonly typed: (id: string) => Typed;
  readonly type: (id: string, text: string) => void;
  /** Puts a value of the core's unit into a field as it would be typed; with nothing the field is emptied. */
  readonly put: (id: string, value: number | undefined, source?: string) => void;
  readonly keep: (id: string) => void;
  /** Reads every field, or some; undefined when something must be put right first. */
  readonly take: (only?: readonly ReadingField[]) => TakenReadings | undefined;
  /** Recorded: the form, or some fields of it, stand as they began. */
  readonly clear: (only?: readonly ReadingField[]) => void;
  /** What else stands in the form beside its numbers, such as what was chosen. */
  readonly choice: (id: string) => string | undefined;
  readonly choose: (id: string, option: string | undefined) => void;
}

function judged(field: ReadingField, now: DraftField): { typed: Typed; value?: number } {
  if (now.text.trim() === '' && field.isOptional) return { typed: now };
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

/** What is read while it is typed: a unit of its own, a mark that is not the shop's. */
function readAs(text: string, field: ReadingField | undefined): Pick<Typed, 'sentence'> {
  if (!field || !/[,a-z°]/i.test(text)) return {};
  const parsed = parseReading(text, field.spec, shopRegion());
  return parsed.kind === 'value' && parsed.readAs ? { sentence: parsed.readAs } : {};
}

/**
 * @param form its name: what is typed is kept under it until it is recorded
 * @param initial what stands in the fields to begin with
 * @param isAsKept whether it stands there with every digit it was recorded with, for a correction of another field
 */
export function useReadings(
  form: string,
  fields: readonly ReadingField[],
  initial: ValuesById = {},
  isAsKept = false,
): Readings {
  const draft = useDraft(form);
  const [found, setFound] = useState<Found>({});
  const fieldOf = (id: string): ReadingField | undefined => fields.find((one) => one.id === id);
  const stands = (id: string): DraftField => {
    const kept = draft.fields[id];
    const value = initial[id];
    const field = fieldOf(id);
    if (kept || value === undefined || !field) return kept ?? BLANK;
    return { text: isAsKept ? typedHere(value, field.spec.unit) : textOf(value, field) };
  };
  const typed = (id: string): Typed => {
    const now = stands(id);
    const judgement = found[id];
    // What was found of another text says nothing of this one.
    if (judgement?.text === now.text && judgement.isKept === now.isKept) return judgement;
    return { ...now, ...readAs(now.text, fieldOf(id)) };
  };
  const put = (id: string, next: DraftField): void => {
    draft.change({ [id]: next });
  };
  return {
    typed,
    type: (id, text) => put(id, { text }),
    put: (id, value, source) => {
      const field = fieldOf(id);
      const text = value === undefined || !field ? '' : textOf(value, field);
      put(id, { text, ...(source === undefined ? {} : { source }) });
    },
    keep: (id) => put(id, { text: stands(id).text, isKept: true }),
    take: (only = fields) => {
      const results = only.map((field) => ({ id: field.id, ...judged(field, stands(field.id)) }));
      const judgements = Object.fromEntries(results.map(({ id, typed: next }) => [id, next]));
      setFound((before) => ({ ...before, ...judgements }));
      if (results.some((result) => result.typed.isProblem)) return undefined;
      const values: Record<string, number> = {};
      for (const { id, value } of results) if (value !== undefined) values[id] = value;
      const sources = new Set(only.map(({ id }) => stands(id).source ?? 'keypad'));
      return { values, source: [...sources].join(' and ') };
    },
    clear: (only = fields) => {
      const those = new Set(only.map(({ id }) => id));
      setFound((before) => Object.fromEntries(Object.entries(before).filter(([id]) => !those.has(id))));
      if (only !== fields) draft.change(Object.fromEntries(only.map(({ id }) => [id, undefined])));
      else draft.clear();
    },
    choice: (id) => draft.fields[id]?.text,
    choose: (id, option) => draft.change({ [id]: option === undefined ? undefined : { text: option } }),
  };
}
