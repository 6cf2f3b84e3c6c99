/**
 * Smooth reading between published points. Published tables are read with a monotone cubic, so that what
 * rises in print rises between the lines of print as well.
 */

export interface Curve {
  readonly from: number;
  readonly to: number;
  /** Value at x; outside the table the end value is kept. */
  readonly at: (x: number) => number;
}

/** Slopes at the knots that keep the cubic monotone wherever the points are. */
function monotoneSlopes(xs: Float64Array, ys: Float64Array): Float64Array {
  const n = xs.length;
  const secants = Float64Array.from(
    { length: n - 1 },
    (_, i) => (at(ys, i + 1) - at(ys, i)) / (at(xs, i + 1) - at(xs, i)),
  );
  return Float64Array.from({ length: n }, (_, i) => {
    if (i === 0) return at(secants, 0);
    if (i === n - 1) return at(secants, n - 2);
    const before = at(secants, i - 1);
    const after = at(secants, i);
    if (before * after <= 0) return 0;
    const h0 = at(xs, i) - at(xs, i - 1);
    const h1 = at(xs, i + 1) - at(xs, i);
    return (3 * (h0 + h1)) / ((2 * h1 + h0) / before + (h1 + 2 * h0) / after);
  });
}

/** An element known to be in range. */
export function at(values: Float64Array, index: number): number {
  return values[index] ?? 0;
}

/**
 * A monotone cubic through published points.
 * @param points x rising
 * @see Fritsch & Butland 1984, A method for constructing local monotone piecewise cubic interpolants
 */
export function curveThrough(points: readonly (readonly [x: number, y: number])[]): Curve {
  const xs = Float64Array.from(points, ([x]) => x);
  const ys = Float64Array.from(points, ([, y]) => y);
  const slopes = monotoneSlopes(xs, ys);
  const last = xs.length - 1;
  return {
    from: at(xs, 0),
    to: at(xs, last),
    at: (x) => {
      if (x <= at(xs, 0)) return at(ys, 0);
      if (x >= at(xs, last)) return at(ys, last);
      let i = 0;
      while (x > at(xs, i + 1)) i += 1;
      const h = at(xs, i + 1) - at(xs, i);
      const t = (x - at(xs, i)) / h;
      const u = 1 - t;
      return (
        u * u * (1 + 2 * t) * at(ys, i) +
        t * t * (3 - 2 * t) * at(ys, i + 1) +
        h * t * u * (u * at(slopes, i) - t * at(slopes, i + 1))
      );
    },
  };
}

/**
 * The x at which a rising function reaches a value, by bisection.
 * @param tolerance in x
 */
export function solveRising(
  value: number,
  from: number,
  to: number,
  rising: (x: number) => number,
  tolerance = 1e-9,
): number {
  let low = from;
  let high = to;
  while (high - low > tolerance) {
    const middle = (low + high) / 2;
    if (rising(middle) < value) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
