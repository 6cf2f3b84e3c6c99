/** Guards: conditions on time rather than on the battery that stand before a step. */
import { openSpanFrom } from '../schedule/shopHours.ts';
import { clockText } from '../schedule/clockText.ts';
import { forecast } from './forecast.ts';
import type { JobState } from './state.ts';
import type { GuardId, Hold } from './step.ts';

type Guard = (state: JobState, at: number) => Hold | undefined;

/** Fill-to-charge the same day; a filled, uncharged battery is never left overnight (handbook 2.3, 10). */
const fillAndChargeSameDay: Guard = (state, at) => {
  const { hours } = state.opened;
  const span = openSpanFrom(hours, at);
  const begin = Math.max(at, span.from);
  const chargeEnd = forecast(state, begin).segments.find((segment) => segment.kind === 'charge')?.to;
  if (chargeEnd === undefined || chargeEnd <= span.to) return undefined;
  const filled = clockText(begin, hours.timeZone);
  const closes = clockText(span.to, hours.timeZone);
  const opens = clockText(openSpanFrom(hours, span.to).from, hours.timeZone);
  return {
    why: `Filled at ${filled} it cannot finish charging before the shop closes at ${closes}; fill it at ${opens} on the next day open.`,
    canOverride: true,
  };
};

const GUARDS: Record<GuardId, Guard> = { 'fill-and-charge-same-day': fillAndChargeSameDay };

export function guardHold(guard: GuardId, state: JobState, at: number): Hold | undefined {
  return GUARDS[guard](state, at);
}
