/** Guards: conditions on time rather than on the battery that stand before a step. */
import { clockText, whenText } from '../schedule/clockText.ts';
import { openSpanFrom } from '../schedule/shopHours.ts';
import { chargedAtIfFilled, sameDayStart } from './forecast.ts';
import type { JobState } from './state.ts';
import type { GuardId, Hold } from './step.ts';

type Guard = (state: JobState, index: number, at: number) => Hold | undefined;

/** Fill-to-charge the same day; a filled, uncharged battery is never left overnight (handbook 2.3, 10). */
const fillAndChargeSameDay: Guard = (state, index, at) => {
  const { hours } = state.opened;
  const span = openSpanFrom(hours, at);
  const fillAt = Math.max(at, span.from);
  if (chargedAtIfFilled(state, index, fillAt) <= span.to) return undefined;
  const later = sameDayStart(state, index, span.to);
  const filled = whenText(fillAt, at, hours.timeZone);
  const closes = clockText(span.to, hours.timeZone);
  return {
    why: `Filled at ${filled} it cannot be charged before the shop closes at ${closes}; fill it ${whenText(later, at, hours.timeZone)}.`,
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
