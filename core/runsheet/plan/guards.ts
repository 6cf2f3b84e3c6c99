/** Guards: conditions on time rather than on the battery that stand before a step. */
import { clockText, whenText } from '../../clock/clockText.ts';
import { openSpanFrom } from '../../clock/shopHours.ts';
import { chargedAtIfFilled, fillingFrom } from './forecast.ts';
import type { JobState } from '../state/jobState.ts';
import type { GuardId, Hold } from '../definition/step.ts';

const HOUR = 3_600_000;

type Guard = (state: JobState, index: number, at: number) => Hold | undefined;

/** Fill-to-charge the same day; a filled, uncharged battery is never left overnight (handbook 2.3, 10). */
const fillAndChargeSameDay: Guard = (state, index, at) => {
  const { hours } = state.opened;
  const span = openSpanFrom(hours, at);
  const fillAt = Math.max(at, span.from);
  const filling = fillingFrom(state, index, at);
  if (filling.at === fillAt && !filling.isTooLong) return undefined;
  if (filling.isTooLong) {
    const hoursLong = ((chargedAtIfFilled(state, index, fillAt) - fillAt) / HOUR).toFixed(1);
    return {
      why: `From filled to charged it takes ${hoursLong} h, longer than any day here is open. Open longer for it; or record why it charges on after closing.`,
      canOverride: true,
    };
  }
  const filled = whenText(fillAt, at, hours.timeZone);
  const closes = clockText(span.to, hours.timeZone);
  return {
    why: `Filled at ${filled} it cannot be charged before the shop closes at ${closes}; fill it ${whenText(filling.at, at, hours.timeZone)}.`,
    canOverride: true,
  };
};

const GUARDS: Record<GuardId, Guard> = { 'fill-and-charge-same-day': fillAndChargeSameDay };

/**
 * What stands in the way of a guarded step at a moment.
 * @param index of the step in the job's steps
 */
export function guardHold(guard: GuardId, state: JobState, index: number, at: number): Hold | undefined {
  return GUARDS[guard](state, index, at);
}
