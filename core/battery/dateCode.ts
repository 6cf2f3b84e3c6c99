/** How old a battery is by its date code: year and month, "2026-01". */

/** The date code of a battery whose age nobody knows. */
export const AGE_UNKNOWN = '';

/** Whole and part months from a date code to a moment; undefined where nobody knows when it was made. */
export function ageInMonths(dateCode: string, at: number): number | undefined {
  if (dateCode === AGE_UNKNOWN) return undefined;
  const made = Date.parse(`${dateCode}-01T00:00:00Z`);
  return Math.max(0, (at - made) / (30.44 * 24 * 3_600_000));
}
