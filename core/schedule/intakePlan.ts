/** Can it be ready when promised? The plan of a battery before it is accepted. */
import { clockText, durationText, whenText } from '../clock/clockText.ts';
import { chargeAfterSoakByAge } from '../battery/stateOfCharge.ts';
import type { OpenedPayload } from '../runsheet/entries/events.ts';
import { forecast, reachedAt, type Forecast } from '../runsheet/plan/forecast.ts';
import { guardHold } from '../runsheet/plan/guards.ts';
import { openJob } from '../runsheet/log/reduce.ts';
import { ageInMonths } from '../battery/dateCode.ts';
import { definitionOf } from '../runsheet/state/sheet.ts';
import type { JobState } from '../runsheet/state/jobState.ts';

export interface PlanRisk {
  readonly isSerious: boolean;
  readonly sentence: string;
}

export interface IntakePlan {
  readonly state: JobState;
  readonly forecast: Forecast;
  readonly readyAt: number;
  /** When acid goes in; undefined where the battery came filled. */
  readonly fillAt: number | undefined;
  readonly risks: readonly PlanRisk[];
}

const MONTHS_TO_MENTION = 6;

/** Index of the step with which acid goes in, or -1. */
function guardedIndex(state: JobState): number {
  return state.steps.findIndex((step) => {
    const definition = definitionOf(state, step);
    return definition.kind === 'gate' && definition.guard !== undefined;
  });
}

function sameDayRisk(state: JobState, at: number): PlanRisk | undefined {
  const index = guardedIndex(state);
  const step = state.steps[index];
  const definition = step && definitionOf(state, step);
  if (definition?.kind !== 'gate' || !definition.guard) return undefined;
  // The run sheet asks the same function once hands are there.
  const held = guardHold(definition.guard, state, index, reachedAt(state, index, at));
  return held ? { isSerious: true, sentence: held.why } : undefined;
}

/**
 * Plans a battery that would be taken in at a moment.
 * @param opened what the job would be opened with
 * @param at shop time, ms
 */
export function planIntake(opened: OpenedPayload, at: number): IntakePlan {
  const state = openJob({ job: 'plan', seq: 1, key: '#1', at, by: '', kind: 'opened', payload: opened });
  const drawn = forecast(state, at);
  const { timeZone } = opened.hours;
  const risks: PlanRisk[] = [];
  const sameDay = sameDayRisk(state, at);
  if (sameDay) risks.push(sameDay);
  if (drawn.readyAt > opened.promisedAt)
    risks.push({
      isSerious: true,
      sentence: `Ready ${whenText(drawn.readyAt, at, timeZone)} at the earliest, ${durationText(drawn.readyAt - opened.promisedAt)} after the promise.`,
    });
  const ageMonths = ageInMonths(opened.battery.dateCode, at);
  if (ageMonths !== undefined && ageMonths > MONTHS_TO_MENTION && !drawn.isOpenEnded)
    risks.push({
      isSerious: false,
      sentence: `${Math.round(ageMonths)} months old: expect about ${chargeAfterSoakByAge(ageMonths).toFixed(0)} % after the soak and a longer charge.`,
    });
  const guarded = state.steps[guardedIndex(state)];
  const fillAt = drawn.knots.find(({ key }) => guarded?.key === key)?.at;
  return { state, forecast: drawn, readyAt: drawn.readyAt, fillAt, risks };
}

/** "fill 11:12, charge 14:02–18:17, ready 19:31" */
export function planText(plan: IntakePlan): string {
  const { timeZone } = plan.state.opened.hours;
  const charge = plan.forecast.segments.find((segment) => segment.kind === 'charge');
  const at = plan.state.openedAt;
  const charging = charge
    ? `, charge ${whenText(charge.from, at, timeZone)}–${clockText(charge.to, timeZone)}`
    : '';
  const filling =
    plan.fillAt === undefined ? 'Filled at the factory' : `Fill ${whenText(plan.fillAt, at, timeZone)}`;
  return `${filling}${charging}, ready ${whenText(plan.readyAt, at, timeZone)}`;
}
