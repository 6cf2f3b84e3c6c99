/** Straight lines between published points; outside the table its end value is kept. */
import { scaleLinear, scaleLog } from 'd3-scale';

type Points = readonly (readonly [x: number, y: number])[];

/** @param points x rising or falling */
export function linearThrough(points: Points): (x: number) => number {
  const scale = scaleLinear()
    .domain(points.map(([x]) => x))
    .range(points.map(([, y]) => y))
    .clamp(true);
  return (x) => scale(x);
}

/** Straight between the points on paper that is logarithmic both ways: what a power law is between any two of them. */
export function logLogThrough(points: Points): (x: number) => number {
  const scale = scaleLog()
    .domain(points.map(([x]) => x))
    .range(points.map(([, y]) => Math.log(y)))
    .clamp(true);
  return (x) => Math.exp(scale(x));
}
