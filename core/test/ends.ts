/** How a way ends, for tests of what is made of it. */
import type { Outcome } from '../advice/outcome.ts';

/** An outcome of a grade, all else alike. */
export const ends = (grade: Outcome['grade']): Outcome => ({
  grade,
  capacity: 0.7,
  cranking: 0.7,
  hours: 26,
  chargedH: [{ route: 'slow-charge', hours: 24 }],
  mainsWh: 1000,
  waterMl: 0,
  isStopped: false,
});
