/**
 * A candidate battery as a point in a unit cube: each coordinate is uniform before anything is known, and
 * history and prior shape what it means. That makes the prior flat where candidates are moved about, so a
 * move is judged by the readings alone.
 */

/** Coordinates of the cube. */
export const AXES = [
  'cause',
  'charge',
  'hard',
  'film',
  'wear',
  'capacity',
  'cranking',
  'cell',
  'severity',
  'water',
  'acid',
  'layers',
  'low',
  'second',
  'other',
  'force',
] as const;
export const DIMENSIONS = AXES.length;
export type Axis = (typeof AXES)[number];
export type Point = Float64Array;

export const at = (point: Point, axis: Axis): number => point[AXES.indexOf(axis)] as number;

export const between = ([low, high]: readonly [low: number, high: number], share: number): number =>
  low + (high - low) * share;

/**
 * What most have little of and a few have much: evenly up to what is usual, and from there on evenly in the rest of the axis.
 * @param usual share of the axis that lies in the usual range
 */
export function tailed(
  [low, usual, most]: readonly [low: number, usual: number, most: number],
  usually: number,
  share: number,
): number {
  return share < usually
    ? between([low, usual], share / usually)
    : between([usual, most], (share - usually) / (1 - usually));
}
