/** What one ended recovery teaches the shop that brought it back, or could not. */
import type { CauseId, History } from '../candidate/causes.ts';

/** Raised when what is drawn from a job is drawn otherwise: lessons of before are drawn anew. */
export const LESSON_VERSION = 1;

/** A way that was gone to its end, in the order they were gone. */
export interface Attempt {
  readonly way: string;
  /** Odds that it comes back this way, by what was believed as it was chosen, 0–1. */
  readonly expected: number;
  /** Graded by it: no further way was needed, and it is no core. */
  readonly isBack: boolean;
}

/** A step done by hands in one go. */
export interface Timed {
  readonly step: string;
  readonly minutes: number;
  /** What the handbook gives it. */
  readonly usualMin: number;
}

export interface Lesson {
  readonly job: string;
  readonly endedAt: number;
  /** Came to no grade: taken back, or let go as it was. */
  readonly isWithdrawn: boolean;
  readonly history: History;
  /** What it was by all that was read of it, the handbook's odds as the prior; they sum to 1. */
  readonly causes: Readonly<Record<CauseId, number>>;
  readonly attempts: readonly Attempt[];
  readonly minutes: readonly Timed[];
  /** Logarithm of what the tester showed over what all else says it should have shown; of each time it was read charged. */
  readonly tester: readonly number[];
}
