/** What stands in the fields of a step. */

/** A field’s figure; undefined where it was left empty or holds a word. */
export const numberOf = (value: unknown): number | undefined =>
  typeof value === 'number' ? value : undefined;
