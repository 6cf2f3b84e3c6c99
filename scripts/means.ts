/** Means of what trials brought. */

export const meanOf = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

/** Standard error of their mean. */
export function errorOf(values: readonly number[]): number {
  const mean = meanOf(values);
  const squares = values.reduce((sum, value) => sum + (value - mean) ** 2, 0);
  return Math.sqrt(squares / (values.length - 1) / values.length);
}

/** The value below which that share of them lies; 0 of none. */
export const quantileOf = (values: readonly number[], share: number): number =>
  values.toSorted((a, b) => a - b)[Math.floor(share * values.length)] ?? 0;
