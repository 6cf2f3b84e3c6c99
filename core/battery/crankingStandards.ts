/** Cranking ratings under the standards that rate them: compared only by labelled rules of thumb, never silently. */
import type { CrankingStandard } from './types.ts';

/**
 * Share of the SAE figure each standard prints for the same battery, since they differ in voltage, seconds and
 * temperature. Rules of thumb, handbook 3.2; JIS has no fixed ratio and is taken as EN.
 */
export const OF_SAE: Readonly<Record<CrankingStandard, number>> = {
  SAE: 1,
  EN: 0.9,
  IEC: 0.66,
  DIN: 0.57,
  JIS: 0.9,
};

/** The same battery's figure on the SAE scale, A; a rule of thumb but for SAE itself. */
export function onSaeScaleA({
  amps,
  standard,
}: {
  readonly amps: number;
  readonly standard: CrankingStandard;
}): number {
  return amps / OF_SAE[standard];
}
