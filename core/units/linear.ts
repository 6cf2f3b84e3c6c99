/** Straight lines between published points; outside the table its end value is kept. */
import { bisectRight } from 'd3-array';

type Points = readonly (readonly [x: number, y: number])[];

/** @param points x rising or falling */
export function linearThrough(points: Points): (x: number) => number {
  const rising = (points.at(-1)?.[0] ?? 0) >= (points[0]?.[0] ?? 0) ? points : [...points].reverse();
  const xs = rising.map(([x]) => x);
  return (x) => {
    const after = Math.min(xs.length - 1, Math.max(1, bisectRight(xs, x)));
    const [x0, y0] = rising[after - 1] ?? [0, Number.NaN];
    const [x1, y1] = rising[after] ?? [x0, y0];
    const share = x1 === x0 ? 0 : Math.min(1, Math.max(0, (x - x0) / (x1 - x0)));
    return y0 * (1 - share) + y1 * share;
  };
}

/** Straight between the points on paper that is logarithmic both ways: what a power law is between any two of them. */
export function logLogThrough(points: Points): (x: number) => number {
  const through = linearThrough(points.map(([x, y]) => [Math.log(x), Math.log(y)]));
  return (x) => Math.exp(through(Math.log(x)));
}
