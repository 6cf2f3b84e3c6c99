/** What an instrument makes of a check that is made after a charge. */
import type { LaterCheck } from '@cork-ember/core/advice/later.ts';
import { read } from '@cork-ember/core/observation/modelView.ts';

type Instrument = Parameters<typeof read>[1];

/** Of each value of a check, in their order; the last reads all that follow. What is only seen is seen, and a clock does not err. */
const INSTRUMENTS: Readonly<Record<LaterCheck, readonly (Instrument | undefined)[]>> = {
  early: ['meterV', 'shuntA', 'thermometerC'],
  charge: ['shuntA', undefined],
  rest: ['meterV'],
  tester: ['conductanceA'],
  bubbles: [undefined],
  warmth: ['thermometerC'],
  crank: ['loadV'],
  hold: ['meterV'],
  capacity: [undefined],
};
/** A capacity test is read in minutes: those of a whole one at the twenty-hour rate. */
const WHOLE_MIN = 20 * 60;

/** @param seed the same seed errs the same */
export function laterRead(check: LaterCheck, values: readonly number[], seed: string): number[] {
  if (check === 'capacity')
    return values.map(
      (value) => read(value * WHOLE_MIN, 'analyserMin', `${seed} later capacity`) / WHOLE_MIN,
    );
  const instruments = INSTRUMENTS[check];
  return values.map((value, place) => {
    const instrument = instruments[Math.min(place, instruments.length - 1)];
    if (instrument === undefined) return value;
    const once = read(value, instrument, `${seed} later ${check} ${place}`);
    // What was lost lies between two readings, and each errs.
    return check === 'hold' ? read(once, instrument, `${seed} later ${check} before`) : once;
  });
}
