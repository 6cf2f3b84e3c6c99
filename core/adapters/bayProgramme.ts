/**
 * A programme over days: what a bay goes on to by itself. It charges, waits, reads, draws down and charges again as the run sheet says, and ends where hands or
 * eyes are asked for.
 */
import type { Outfit } from '../devices/outfit.ts';
import { isStepAt } from './bayStep.ts';
import type { CapacityMethod } from '../grading/grade.ts';
import { SLOW_CHARGE } from '../runsheet/procedures/recovery/chargeRoutes.ts';
import { PROVE } from '../runsheet/procedures/recovery/prove.ts';
import { isDrawnDown, READ_RESTED } from '../runsheet/definition/restedSteps.ts';
import { isAsked, type MeasureStep } from '../runsheet/definition/step.ts';
import { STEP } from '../runsheet/definition/stepIds.ts';
import type { Entry } from '../runsheet/entries/events.ts';
import { atHand, treatmentOf, type AtHand } from '../runsheet/plan/atHand.ts';
import { drainAt } from '../runsheet/plan/capacityClock.ts';
import type { JobState } from '../runsheet/state/jobState.ts';
import { procedureOf } from '../runsheet/state/sheet.ts';

/** What a person says as a bay is switched on that goes on by itself then. */
export interface GoesOn {
  /** Cranking is not measured: no hands are waited for. It is not assumed either, and the grade says so. */
  readonly leavesTester: boolean;
  /** How a capacity is measured. */
  readonly method?: CapacityMethod;
}

export interface Programme extends Pick<GoesOn, 'leavesTester'> {
  /** Until what was drawn is put back, or until nothing is left that it can do. */
  readonly far: 'recharged' | 'as-far-as-it-can';
}

export type BayNext =
  /** Current: checked anew, and then on. */
  | { readonly does: 'charge' | 'drain' }
  /** Nothing flows. */
  | { readonly does: 'wait'; readonly untilMs: number; readonly title: string }
  /** Its cut-off stands open: nothing is connected, as with the clips off. */
  | { readonly does: 'part'; readonly entry: Entry }
  /** What it stands at, by its meter. */
  | { readonly does: 'read'; readonly step: string }
  | { readonly does: 'write'; readonly entry: Entry; readonly says: string }
  /** It is over. */
  | { readonly does: 'hands'; readonly why: string };

/** Figures a meter of the bay gives. */
const METERED = { volts: 'ocvV', warmth: 'tempC' } as const;

function isReadable({ fields }: MeasureStep, { readsVolts, readsWarmth }: Outfit): boolean {
  const given = [...(readsVolts ? [METERED.volts] : []), ...(readsWarmth ? [METERED.warmth] : [])] as const;
  return fields.every(
    (field) =>
      field.optional === true || !isAsked(field, {}) || (given as readonly string[]).includes(field.id),
  );
}

/** So often it is charged on where a day did not prove it full. */
const MOST_SLOW = 2;

/** What was said when it was switched on: it is charged until it is proven full, and proved. Every other way is chosen by a person. */
function wayOn({ state, context }: AtHand): { readonly route: string; readonly says: string } | undefined {
  const last = state.routes?.at(-1);
  if (last === undefined || last.leftFor !== undefined || last.route === PROVE.id) return undefined;
  const vetoOf = (id: string) =>
    procedureOf(state)
      .routes?.find((route) => route.id === id)
      ?.veto(context);
  const prove = vetoOf(PROVE.id);
  if (!prove)
    return { route: PROVE.id, says: 'It is full: it is proved, as it was said when it was switched on.' };
  const slow = context.routes.filter(({ route }) => route === SLOW_CHARGE.id).length;
  const mayGoOn = prove.canOverride && last.route === SLOW_CHARGE.id && slow < MOST_SLOW;
  return mayGoOn && !vetoOf(SLOW_CHARGE.id)
    ? { route: SLOW_CHARGE.id, says: 'It is not proven full yet: it is charged on.' }
    : undefined;
}

function chargeNext(hand: AtHand, { hasSupply }: Outfit): BayNext {
  const { state, step, phase, title } = hand;
  const isAlone = hasSupply && !treatmentOf(state, step)?.isAttended;
  return phase === 'ready' && isAlone ? { does: 'charge' } : { does: 'hands', why: title };
}

function measureNext(
  hand: AtHand & { readonly definition: MeasureStep },
  programme: Programme,
  outfit: Outfit,
  now: number,
): BayNext {
  const { definition, step, context, title, state } = hand;
  if (drainAt(step.stepId)) return outfit.hasLoad ? { does: 'drain' } : { does: 'hands', why: title };
  if (isStepAt(state, step.stepId) && outfit.hasLoad && outfit.readsVolts) return { does: 'drain' };
  if (step.stepId === STEP.proveLoad && programme.leavesTester)
    return {
      does: 'write',
      entry: { kind: 'skipped', payload: { step: step.key } },
      says: 'Cranking is left out, as it was said when it was switched on.',
    };
  const isRested = READ_RESTED.includes(step.stepId) || step.stepId === STEP.weekRead;
  if (!isRested || !isReadable(definition, outfit)) return { does: 'hands', why: title };
  // Not by the shop's hours: nobody has to be there.
  const untilMs = (step.openedAt ?? state.openedAt) + (definition.lookAfterMin?.(context) ?? 0) * 60_000;
  return untilMs > now ? { does: 'wait', untilMs, title } : { does: 'read', step: step.key };
}

/**
 * What comes next by itself.
 * @param now shop time, ms
 */
export function bayNext(state: JobState, programme: Programme, outfit: Outfit, now: number): BayNext {
  const hand = atHand(state, now);
  if (!hand) return { does: 'hands', why: 'The run sheet has ended.' };
  const { definition, step, title } = hand;
  const { rules } = state.opened;
  if (state.bay !== outfit.bay)
    return { does: 'hands', why: `It does not stand in bay ${outfit.bay} any more.` };
  if (hand.hold) return { does: 'hands', why: hand.hold.why };
  if (programme.far === 'recharged')
    return definition.kind === 'charge' && isDrawnDown(hand.context)
      ? chargeNext(hand, outfit)
      : { does: 'hands', why: title };
  switch (definition.kind) {
    case 'charge':
      return chargeNext(hand, outfit);
    case 'dwell':
      if (step.stepId === STEP.weekHold && rules.holdTest === 'fittedWeek')
        return { does: 'hands', why: title };
      return { does: 'wait', untilMs: hand.until ?? now, title };
    case 'act':
      return definition.partsIt && outfit.hasCutOff
        ? { does: 'part', entry: { kind: 'affirmed', payload: { step: step.key } } }
        : { does: 'hands', why: title };
    case 'measure':
      return measureNext({ ...hand, definition }, programme, outfit, now);
    case 'route': {
      const way = wayOn(hand);
      return way
        ? {
            does: 'write',
            entry: { kind: 'routed', payload: { step: step.key, route: way.route } },
            says: way.says,
          }
        : { does: 'hands', why: title };
    }
    default:
      return { does: 'hands', why: title };
  }
}
