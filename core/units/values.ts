/** What was read, by the name of its field. */

/** A figure in the field’s unit, or a chosen word. */
export type StepValue = number | string;
export type StepValues = Readonly<Record<string, StepValue>>;

/** A field’s figure; undefined where it was left empty or holds a word. */
export const numberOf = (value: unknown): number | undefined =>
  typeof value === 'number' ? value : undefined;
