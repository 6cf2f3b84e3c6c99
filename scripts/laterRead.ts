/** What an instrument makes of a check that is made after a charge. */
import type { LaterCheck } from '@cork-ember/core/advice/later.ts';
import { seededNormal } from '@cork-ember/core/chance/chance.ts';
import { read } from '@cork-ember/core/observation/modelView.ts';

const INSTRUMENTS = {
  early: 'meterV',
  charge: 'shuntA',
  rest: 'meterV',
  tester: 'conductanceA',
  bubbles: undefined,
  warmth: 'thermometerC',
  crank: 'loadV',
  hold: 'meterV',
  capacity: undefined,
} as const satisfies Readonly<Record<LaterCheck, Parameters<typeof read>[1] | undefined>>;

/** A capacity test is off by its current and its end, as a share. */
const CAPACITY_SHARE = 0.015;

/** @param seed the same seed errs the same */
export function laterRead(check: LaterCheck, values: readonly number[], seed: string): number[] {
  const instrument = INSTRUMENTS[check];
  return values.map((value, place) => {
    if (instrument !== undefined) return read(value, instrument, `${seed} later ${check} ${place}`);
    return check === 'capacity' ? value + CAPACITY_SHARE * seededNormal(`${seed} later ${check}`) : value;
  });
}
