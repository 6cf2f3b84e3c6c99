/** A charger as a run sheet sets it: a current, a ceiling, and a clock. */
import type { Profile, Purpose } from './profile.ts';

/**
 * @param amps not exceeded, A
 * @param volts not exceeded, at 25 °C, V
 * @param seconds until it is off
 * @param isCompensated whether the voltage follows warmth
 */
export function heldPlan(
  amps: number,
  volts: number,
  seconds: number,
  purpose: Purpose,
  isCompensated: boolean,
): Profile {
  return {
    id: 'tenth-timed',
    name: 'Charger of the bay',
    purpose,
    reason: 'As set on the run sheet.',
    isAttended: true,
    stages: [
      {
        id: 'on',
        name: 'On',
        amps,
        volts,
        isCompensated,
        exits: [{ on: 'time', seconds, next: 'stop' }],
      },
    ],
  };
}
