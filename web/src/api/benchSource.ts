/** Where a page has the bench from. */
import type { BayPicture } from '@cork-ember/core/runsheet/plan/benchPicture.ts';
import type { Hand } from '@cork-ember/core/runsheet/plan/hand.ts';

export interface BenchSource {
  /** How many batteries stand there. */
  readonly count: number;
  /** What hands do next, by urgency: the same list while nothing of it has changed. @param at shop time, ms */
  readonly handsAt: (at: number) => readonly Hand[];
  /** By bay. */
  readonly baysAt: (at: number) => readonly BayPicture[];
}
