/** Weights kept as logarithms, and what is read off them. */

/** exp of logarithms, so that they sum to 1. */
export function normalised(logs: Float64Array): Float64Array {
  const most = logs.reduce((high, log) => Math.max(high, log), Number.NEGATIVE_INFINITY);
  const weights = logs.map((log) => Math.exp(log - most));
  const sum = weights.reduce((total, weight) => total + weight, 0);
  return weights.map((weight) => weight / sum);
}

/** How many candidates weights really rest on. @see Kish 1965 */
export function effectiveOf(weights: Float64Array): number {
  return 1 / weights.reduce((sum, weight) => sum + weight * weight, 0);
}

/** Weighted quantile. */
export function quantile(values: readonly number[], weights: Float64Array, share: number): number {
  const order = values.map((_, index) => index).sort((a, b) => (values[a] as number) - (values[b] as number));
  let sum = 0;
  for (const index of order) {
    sum += weights[index] as number;
    if (sum >= share) return values[index] as number;
  }
  return values[order.at(-1) ?? 0] ?? 0;
}
