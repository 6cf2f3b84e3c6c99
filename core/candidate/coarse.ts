/**
 * Steps of a candidate's charges and rests. They are gone through by the thousand: ten times as coarse as the model's own, they are off by
 * two millivolts at rest, some hundredths of an ampere and a tenth of a kelvin on charge (`passages.test.ts`), a tenth of what a reading
 * of it may be.
 */
import type { StepOptions } from '../model/adaptive.ts';

export const COARSE: StepOptions = { longestS: 3600, coarseness: 10 };
/** Standing, what moves moves ever slower. */
export const COARSE_REST: StepOptions = { ...COARSE, longestS: 24 * 3600 };
