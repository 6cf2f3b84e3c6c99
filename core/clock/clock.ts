/**
 * Shop time. Everything in Cork Ember that asks "when" asks a `Clock`; a demo or a test runs the same
 * code as a working day, only faster. Times are milliseconds since 1970-01-01 UTC.
 */
export interface Clock {
  /** The present moment of the shop. */
  now(): number;
}

export const PACES = [1, 60, 600] as const;
/** How many shop seconds pass in one real second. */
export type Pace = (typeof PACES)[number];

/** A clock's hands at one real moment; with the pace it gives shop time at any later one. */
export interface ClockFace {
  readonly realMs: number;
  readonly shopMs: number;
  readonly pace: Pace;
}

/** Shop time at a real moment. */
export function shopTimeAt(face: ClockFace, realMs: number): number {
  return face.shopMs + (realMs - face.realMs) * face.pace;
}

/** The same shop time, running on at another pace. */
export function repaced(face: ClockFace, realMs: number, pace: Pace): ClockFace {
  return { realMs, shopMs: shopTimeAt(face, realMs), pace };
}

/**
 * Moves the shop forward to a later moment.
 * @throws RangeError when asked to go back: recorded events would lie in the future
 */
export function jumpedTo(face: ClockFace, realMs: number, shopMs: number): ClockFace {
  const nowMs = shopTimeAt(face, realMs);
  if (shopMs < nowMs) throw new RangeError('The shop clock cannot go back.');
  return { realMs, shopMs, pace: face.pace };
}
