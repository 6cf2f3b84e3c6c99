/** What a job takes: by its run sheet, and by what was done so far. */
import { waterMl } from '../runsheet/definition/fields.ts';
import { minutesOnCharge, readingsFrom } from '../runsheet/state/looks.ts';
import { definitionOf } from '../runsheet/state/sheet.ts';
import { contextOf } from '../runsheet/state/context.ts';
import type { JobState, StepState } from '../runsheet/state/jobState.ts';
import type { ChargeStep } from '../runsheet/definition/step.ts';
import type { Spent } from '../advice/worth.ts';

/** Minutes of hands for one look at a running charge (practice). */
const LOOK_MIN = 1;
/** Mains to battery (chargers' data; practice). */
const EFFICIENCY = 0.85;
/** What a meter tells from nothing, A. */
const LEAST_A = 0.01;
/** Share of its limit a charge draws, averaged over its time: it tapers (practice). */
const TAPERED = 0.6;

interface Charged {
  readonly minutes: number;
  readonly looks: number;
  readonly wh: number;
}

function planned(state: JobState, step: StepState, definition: ChargeStep): Charged {
  const context = contextOf(state, step.round);
  const treatment = definition.treatment?.(context);
  const minutes = treatment?.dueMin ?? step.charge?.dueMin ?? context.chargeSetting().totalMin;
  const amps = treatment?.setA ?? context.chargeSetting().current.value;
  const volts = treatment?.ceilingV ?? context.threshold('ceilingV').value;
  return {
    minutes,
    looks: Math.ceil(minutes / definition.lookEveryMin),
    wh: (TAPERED * amps * volts * minutes) / 60,
  };
}

/** Mean of a current that fell from one to the other as a taper does, by a share at a time: the logarithmic mean, A. */
function between(before: number, after: number): number {
  const [high, low] = [Math.max(before, after), Math.max(LEAST_A, Math.min(before, after))];
  return high <= low * 1.001 ? high : (high - low) / Math.log(high / low);
}

/** By its readings, each current between two of them as it tapers. */
function actual(state: JobState, step: StepState, now: number): Charged {
  const { charge } = step;
  if (!charge) return { minutes: 0, looks: 0, wh: 0 };
  const looks = readingsFrom(state.readings, step.key);
  const minutes = minutesOnCharge(charge, now);
  const [first] = looks;
  let wh = first
    ? between(charge.currentA, first.currentA) * first.voltageV * (minutesOnCharge(charge, first.at) / 60)
    : 0;
  looks.slice(1).forEach((look, index) => {
    const before = looks[index] ?? look;
    const watts = (between(before.currentA, look.currentA) * (before.voltageV + look.voltageV)) / 2;
    wh += (watts * (minutesOnCharge(charge, look.at) - minutesOnCharge(charge, before.at))) / 60;
  });
  return { minutes, looks: looks.length, wh };
}

function add(spent: Spent, handsMin: number, charged: Charged | undefined, waterMl: number): Spent {
  return {
    handsMin: spent.handsMin + handsMin + (charged?.looks ?? 0) * LOOK_MIN,
    bayH: spent.bayH + (charged?.minutes ?? 0) / 60,
    mainsWh: spent.mainsWh + (charged?.wh ?? 0) / EFFICIENCY,
    waterMl: spent.waterMl + waterMl,
  };
}

const NOTHING: Spent = { handsMin: 0, bayH: 0, mainsWh: 0, waterMl: 0 };

/** What the run sheet asks for, all its steps done as planned. */
export function plannedFor(state: JobState): Spent {
  return state.steps.reduce((spent, step) => {
    const definition = definitionOf(state, step);
    const charged = definition.kind === 'charge' ? planned(state, step, definition) : undefined;
    return add(spent, definition.handsMin, charged, waterMl(step.values));
  }, NOTHING);
}

/** What it has taken so far: steps done, looks taken, time on charge and the energy the readings tell of. */
export function spentOn(state: JobState, now: number): Spent {
  return state.steps.reduce((spent, step) => {
    const isDone = step.status === 'done' || step.status === 'overridden';
    if (!isDone && !step.charge) return spent;
    const definition = definitionOf(state, step);
    return add(spent, definition.handsMin, actual(state, step, now), waterMl(step.values));
  }, NOTHING);
}
