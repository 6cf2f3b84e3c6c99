/** A candidate battery to test with, and everything a shop could read of it. */
import { exactly, OPENED, type Check } from '../observation/checks.ts';
import type { Reading } from '../observation/readings.ts';
import { shownOf } from '../observation/shown.ts';
import type { Setting, Traits } from '../candidate/traits.ts';

/** Empty, sound and ordinary, but for what a test is about. */
export const candidate = (more: Partial<Traits> = {}): Traits => ({
  cause: 'empty',
  charge: 0.5,
  hardShare: 0.05,
  film: 1e-4,
  left: 0.95,
  capacityFactor: 1,
  crankingFactor: 1,
  acidFactor: 1,
  dryShare: 0.02,
  layering: more.cause === 'layered' ? 0.16 : 0,
  cell: 3,
  severity: 0.3,
  low: more.cause === 'weak-cell' ? 0.2 : 0,
  lowHard: 0.8,
  ...more,
});

/** Its rested voltage and what the checks show, without the instruments' errors. */
export function readingsOf(truth: Traits, setting: Setting, checks: readonly Check[]): Reading[] {
  const shown = shownOf(truth, setting);
  return [
    { kind: 'ocv', volts: shown.ocvV(), isRested: true },
    ...checks.flatMap((check) => exactly(check, shown, setting)),
  ];
}

/** Every check that can be made of a battery of this kind. */
export const everyCheck = ({ rating: { construction } }: Setting): Check[] => [
  'load',
  'tester',
  'acceptance',
  ...(construction === 'flooded' ? OPENED : []),
];
