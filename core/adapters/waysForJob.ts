/** Ways open to the battery of a recovery, by its run sheet: what safety, the house and its chargers forbid is sorted out first. */
import { STEP } from '../runsheet/definition/stepIds.ts';
import { onSix } from '../battery/types.ts';
import type { Charger } from '../charge/charger.ts';
import { chargerMisfit } from '../runsheet/verdict/chargerFit.ts';
import { restedV } from '../runsheet/definition/restedSteps.ts';
import { applicableSteps, procedureOf } from '../runsheet/state/sheet.ts';
import { contextOf } from '../runsheet/state/context.ts';
import type { JobState } from '../runsheet/state/jobState.ts';
import type { Route, StepContext, Veto } from '../runsheet/definition/step.ts';
import { isWake, waysFrom, type Course, type Ways } from '../advice/courses.ts';
import type { Found } from '../advice/recommend.ts';
import type { Valued } from '../advice/worth.ts';

/** A charger sees nothing below this, V on six cells. */
const ASLEEP_BELOW = 10.5;
/** What a donor stands at, before it is read, V on six cells (handbook 3.4). */
const DONOR_V = 12.4;

/**
 * Why no charger of the shop gives a charge of this route, by the judge that refuses it at the run sheet too.
 * @param standsV what a charger would see as the route begins; an asleep battery is woken first
 */
function withoutCharger(
  route: Route,
  context: StepContext,
  chargers: readonly Charger[],
  standsV: number | undefined,
): Veto | undefined {
  const seen: StepContext = { ...context, standingV: () => standsV };
  for (const step of applicableSteps(route, context.opened)) {
    if (step.kind !== 'charge' || !step.treatment) continue;
    const treatment = step.treatment(seen);
    const refusals = chargers.map((charger) => chargerMisfit(charger, treatment, seen, step.id));
    if (refusals.length === 0 || refusals.every((one) => one !== undefined))
      return {
        why: `No charger of this shop gives it${refusals[0] === undefined ? '' : `. ${refusals[0]}`}`,
        canOverride: false,
      };
  }
  return undefined;
}

/** A route of the procedure, and what speaks against it for this battery with the chargers of this shop. */
export interface JudgedRoute {
  readonly route: Route;
  readonly veto: Veto | undefined;
}

interface Judgement {
  readonly judged: readonly JudgedRoute[];
  /** Below what a charger sees. */
  readonly isAsleep: boolean;
}

function judge(state: JobState, chargers: readonly Charger[] = []): Judgement {
  const round = state.steps[state.cursor]?.round ?? 1;
  const context = contextOf(state, round);
  const { type } = state.opened;
  const volts = restedV(context);
  const wakesAt = onSix(ASLEEP_BELOW, type);
  const isAsleep = volts !== undefined && volts < wakesAt;
  const standsFor = ({ id }: Route): number | undefined => {
    if (id === 'donor-wake') return onSix(DONOR_V, type);
    return isAsleep && !isWake(id) ? wakesAt : context.standingV();
  };
  const judged = (procedureOf(state).routes ?? []).map((route) => {
    const veto = route.veto(context);
    const isShut = veto !== undefined && !veto.canOverride;
    // A shop that listed none yet has some all the same.
    const misfit =
      chargers.length > 0 && !isShut ? withoutCharger(route, context, chargers, standsFor(route)) : undefined;
    return { route, veto: misfit ?? veto };
  });
  return { judged, isAsleep };
}

/** @param chargers of the shop; what none of them gives is no way; not asked where none is listed */
export function waysOf(state: JobState, chargers?: readonly Charger[]): Ways {
  const { judged, isAsleep } = judge(state, chargers);
  return waysFrom(judged, state.opened.type.construction === 'agm', isAsleep);
}

/** A way as it is chosen at the run sheet: the route taken next, and the course it begins, where that is compared. */
export interface WayOn {
  readonly key: string;
  readonly title: string;
  readonly route: Route;
  /** What a reason has to pass over before the route is taken. */
  readonly veto: Veto | undefined;
  readonly course: Course | undefined;
}

export interface WaysOn {
  readonly open: readonly WayOn[];
  readonly closed: readonly { readonly title: string; readonly why: string }[];
}

const isHard = (veto: Veto | undefined): boolean => veto !== undefined && !veto.canOverride;

/** Before anything is compared: what wants a reason after what does not, then the proof, then the end. */
function placeOf({ route, veto }: WayOn): number {
  if (route.id === 'prove') return 2;
  if (route.id === 'retire') return 3;
  return veto === undefined ? 0 : 1;
}

/**
 * Every way the run sheet lets this battery go on: courses, and routes that are open but begin none of them.
 * @param chargers as for `waysOf`
 */
export function waysOn(state: JobState, chargers?: readonly Charger[]): WaysOn {
  const { judged, isAsleep } = judge(state, chargers);
  const { courses } = waysFrom(judged, state.opened.type.construction === 'agm', isAsleep);
  const byId = new Map(judged.map((one) => [one.route.id, one]));
  const begun = courses.flatMap((course): WayOn[] => {
    const first = byId.get(course.routes[0] ?? course.id);
    if (!first || isHard(first.veto)) return [];
    return [{ key: `course ${course.id}`, title: course.title, ...first, course }];
  });
  const alone = judged
    .filter(({ route, veto }) => !isHard(veto) && begun.every((way) => way.route !== route))
    .map(({ route, veto }): WayOn => ({ key: route.id, title: route.title, route, veto, course: undefined }));
  return {
    open: [...begun, ...alone].sort((a, b) => placeOf(a) - placeOf(b)),
    // What only wakes is no news to one that is awake.
    closed: judged.flatMap(({ route, veto }) =>
      veto && isHard(veto) && (isAsleep || !isWake(route.id)) ? [{ title: route.title, why: veto.why }] : [],
    ),
  };
}

/** Charges that only wake: after one it is as uncharged as before. */
const WAKING: readonly string[] = [STEP.supplyCharge, STEP.donorHour, STEP.forcedCharge];

/** What was found that a forecast cannot outweigh. */
export function foundOf(state: JobState): Found {
  const context = contextOf(state, state.steps[state.cursor]?.round ?? 1);
  const charges = state.steps.filter(
    ({ charge, stepId }) => charge !== undefined && !WAKING.includes(stepId),
  );
  const isCharged = charges.some(({ doneAt, status }) => doneAt !== undefined && status === 'done');
  const came = context.valuesOf(STEP.firstOcv)['ocvV'];
  const cameCharged = typeof came === 'number' && came >= context.threshold('passOcvV').value;
  const stopped = state.steps.findLast(({ charge }) =>
    ['dead-cell', 'short-heating', 'not-rising'].includes(charge?.stopped?.rule ?? ''),
  )?.charge?.stopped;
  return {
    isUncharged: !isCharged && !cameCharged,
    ...(stopped ? { hardStop: `Its charge was stopped. ${stopped.why}` } : {}),
  };
}

/** Whose battery it is, and what a new one costs. */
export function valuedOf({ opened: { type, told } }: JobState): Valued {
  return {
    construction: type.construction,
    capacityAh: type.capacityAh,
    ...(type.newPrice === undefined ? {} : { newPrice: type.newPrice }),
    ...(told?.whose === undefined ? {} : { whose: told.whose }),
  };
}
