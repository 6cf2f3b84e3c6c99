/** Runs the plans of a question and says what would come of each. */
import { percentText } from '../units/percent.ts';
import { onSix } from '../battery/types.ts';
import { massFractionAt } from '../electrolyte/density.ts';
import { freezingPointC } from '../electrolyte/freezing.ts';
import { chargerById, misfit, shapeOf } from '../charge/chargers.ts';
import { ChargeEngine, type Ending } from '../charge/engine.ts';
import { planFor } from '../charge/library.ts';
import { ModelRun } from '../charge/modelRun.ts';
import { ProfileError, type Profile } from '../charge/profile.ts';
import type { TraceColumn } from '../charge/trace.ts';
import { HYDROGEN_LIMIT } from '../electrolyte/ventilation.ts';
import { get } from '../model/state.ts';
import { batteryFor, type Question } from './question.ts';
import { keptRows } from '../charge/thin.ts';

/** What is drawn, in this order. */
export const DRAWN = [
  'volts',
  'amps',
  'hottestC',
  'chargeShare',
  'density',
  'gasL',
  'waterLostG',
] as const satisfies readonly TraceColumn[];
export type Drawn = (typeof DRAWN)[number];

export interface Risk {
  readonly level: 'caution' | 'danger';
  readonly atS: number;
  readonly words: string;
}

export interface Outcome {
  readonly seconds: readonly number[];
  readonly columns: Readonly<Record<Drawn, readonly number[]>>;
  readonly stages: readonly { readonly atS: number; readonly name: string }[];
  readonly ended: Ending | 'running';
  readonly because: string;
  /** When it was over, or the longest looked at, s. */
  readonly atS: number;
  readonly chargedAh: number;
  /** From the mains, Wh, and what that costs. */
  readonly mainsWh: number;
  readonly cost: number;
  readonly waterG: number;
  readonly hottestC: number;
  /** Share of what the battery can still hold. */
  readonly endCharge: number;
  /** Hard sulfate left, as a share of the rated capacity, and at the start. */
  readonly hardLeft: number;
  readonly hardAtStart: number;
  readonly risks: readonly Risk[];
}

export interface PlanAnswer {
  readonly name: string;
  readonly charger: string;
  readonly reason: string;
  readonly isAttended: boolean;
  /** Current and voltage of the first stage, for whoever sets the knobs. */
  readonly setA: number;
  readonly setV: number;
  /** Why it cannot be run at all. */
  readonly refusal?: string;
  readonly outcome?: Outcome;
}

/** Denser acid than this does not freeze in any shop. */
const FROZEN_TABLE_TO = 1.25;
const HOUR = 3600;
const STRETCHES = 36;
const SLICE_S = 6 * HOUR;
/** A sound battery within this of its limit late in a charge; a dead cell leaves about 2 V on 12 V. */
const SHORT_OF_LIMIT_V = 1;
/** A plan that ends below this is not a full charge. */
const NOT_FULL_BELOW = 0.9;
/** Water a flooded cell may lose before its level is looked at, g per Ah of capacity and cell (practice). */
const WATER_LOOK_G_PER_AH = 0.25;

export function hoursAndMinutes(seconds: number): string {
  const minutes = Math.round(seconds / 60);
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`;
}

/** Called between slices of work; false gives the work up. */
export type Keep = (doneShare: number) => Promise<boolean>;

function hardShare(run: ModelRun): number {
  const { cells } = run;
  let sum = 0;
  for (let g = 0; g < cells.groups; g++)
    sum += (get(cells.counts, g) * get(cells.state.hard, g)) / get(cells.p.ratedAh, g);
  return sum / cells.groupOf.length;
}

function firstRow(
  { trace }: ModelRun,
  column: TraceColumn,
  isPast: (value: number) => boolean,
): number | undefined {
  for (let row = 0; row < trace.length; row++) if (isPast(trace.value(row, column))) return row;
  return undefined;
}

function firstPassing(
  run: ModelRun,
  column: TraceColumn,
  isPast: (value: number) => boolean,
): number | undefined {
  const row = firstRow(run, column, isPast);
  return row === undefined ? undefined : run.trace.seconds(row);
}

/** The lowest cell of a moment by its number, counted from the positive post: "Cell 4". */
function lowestCellOf({ trace, cells }: ModelRun, row: number): string {
  const cell = trace.value(row, 'lowestCell');
  const group = cells.groupOf[cell - 1] ?? 0;
  const alike = cells.groupOf.flatMap((each, index) => (each === group ? [index + 1] : []));
  return alike.length === 1 ? `Cell ${cell}` : `One of cells ${alike.join(', ')}`;
}

function reversalOf(run: ModelRun): Risk | undefined {
  const row = firstRow(run, 'lowestCellV', (volts) => volts < 0);
  if (row === undefined) return undefined;
  const atS = run.trace.seconds(row);
  const cell = lowestCellOf(run, row);
  const words =
    row === 0
      ? `${cell} stands the wrong way round from the start.`
      : `${cell} reverses at ${hoursAndMinutes(atS)}.`;
  return { level: 'danger', atS, words };
}

/** Ice in the cell with the thinnest acid when the charge begins: then nothing is charged. */
function frozenCell({ trace }: ModelRun): Risk | undefined {
  const thinnest = trace.value(0, 'density');
  const tempC = trace.value(0, 'tempC');
  const freezesC = freezingPointC(massFractionAt(Math.min(FROZEN_TABLE_TO, thinnest), 25));
  return tempC < freezesC
    ? {
        level: 'danger',
        atS: 0,
        words: `At ${tempC.toFixed(0)} °C acid of ${thinnest.toFixed(3)} freezes (${freezesC.toFixed(0)} °C): never charge it frozen, warm it right through first.`,
      }
    : undefined;
}

function risksOf(run: ModelRun, question: Question): Risk[] {
  const { trace, engine, engineState } = run;
  const risks: Risk[] = [];
  const add = (level: Risk['level'], atS: number | undefined, words: (at: string) => string): void => {
    if (atS !== undefined) risks.push({ level, atS, words: words(hoursAndMinutes(atS)) });
  };
  const last = trace.length - 1;
  const { pauseC } = engine.ceilings;
  if (engineState.ended === 'runaway')
    add('danger', run.atS, (at) => `Runs away at ${at}: the current rises while the voltage is held.`);
  add(
    'danger',
    firstPassing(run, 'hottestC', (tempC) => tempC > pauseC),
    (at) => `Above ${pauseC} °C at ${at}: the charge is paused until it has cooled.`,
  );
  add(
    'danger',
    firstPassing(run, 'gasL', (litres) => litres / 1000 / question.room.volumeM3 > HYDROGEN_LIMIT),
    (at) => `Hydrogen above 1 % at ${at} with the doors shut (${question.room.volumeM3} m³).`,
  );
  const frozen = frozenCell(run);
  if (frozen) risks.push(frozen);
  const reversal = reversalOf(run);
  if (reversal) risks.push(reversal);
  const asked = run.engine.heldVolts(run.engine.stageOf(engineState), 25);
  const most = trace.value(last, 'volts');
  const perSix = onSix(1, question.rating);
  const isIn = run.atS > 4 * HOUR && trace.value(last, 'amps') > question.rating.capacityAh / 50;
  const lowest = trace.value(last, 'lowestCellV');
  if (isIn && most < asked - SHORT_OF_LIMIT_V * perSix && lowest < trace.value(last, 'highestCellV') - 1)
    add(
      'danger',
      run.atS,
      () => `Stays ${(asked - most).toFixed(1)} V below its limit. ${lowestCellOf(run, last)} is shorted.`,
    );
  if (
    engineState.ended === undefined &&
    run.trace.value(last, 'amps') < question.rating.capacityAh / 500 &&
    trace.value(last, 'chargeShare') < 0.8
  )
    add('caution', run.atS, () => 'Takes almost no current: an open cell or a poor joint.');
  const endCharge = trace.value(last, 'chargeShare');
  if (engineState.ended === 'full' && endCharge < NOT_FULL_BELOW)
    add(
      'caution',
      run.atS,
      () => `Ends at ${percentText(endCharge)} charged: this plan alone does not fill it.`,
    );
  const { construction, capacityAh, cells } = question.rating;
  const waterLimit = WATER_LOOK_G_PER_AH * capacityAh * cells;
  if (construction === 'flooded')
    add(
      'caution',
      firstPassing(run, 'waterLostG', (grams) => grams > waterLimit),
      (at) => `Past ${at} more than ${waterLimit.toFixed(0)} mL of water are gone: look at the level.`,
    );
  return risks.sort((a, b) => a.atS - b.atS);
}

function outcomeOf(run: ModelRun, question: Question, efficiency: number, hardAtStart: number): Outcome {
  const { trace, cells, engineState } = run;
  const rows = keptRows(trace, DRAWN, STRETCHES);
  const column = (name: Drawn): number[] => rows.map((row) => trace.value(row, name));
  let hottestC = -100;
  for (let row = 0; row < trace.length; row++) hottestC = Math.max(hottestC, trace.value(row, 'hottestC'));
  const last = trace.length - 1;
  const mainsWh = get(cells.state.shared, 2) / HOUR / efficiency;
  return {
    seconds: rows.map((row) => trace.seconds(row)),
    columns: {
      volts: column('volts'),
      amps: column('amps'),
      hottestC: column('hottestC'),
      chargeShare: column('chargeShare'),
      density: column('density'),
      gasL: column('gasL'),
      waterLostG: column('waterLostG'),
    },
    stages: run.stages.map(({ atS, name }) => ({ atS, name })),
    ended: engineState.ended ?? 'running',
    because: engineState.because,
    atS: run.atS,
    chargedAh: get(cells.state.shared, 1),
    mainsWh,
    cost: (mainsWh / 1000) * question.room.pricePerKwh,
    waterG: trace.value(last, 'waterLostG'),
    hottestC,
    endCharge: trace.value(last, 'chargeShare'),
    hardLeft: hardShare(run),
    hardAtStart,
    risks: risksOf(run, question),
  };
}

/**
 * One plan of a question.
 * @param keep asked between slices; when it says no, nothing is returned
 * @throws RangeError in one sentence when the battery is impossible
 */
export async function answerPlan(
  question: Question,
  index: number,
  keep: Keep,
): Promise<PlanAnswer | undefined> {
  const choice = question.plans[index];
  if (!choice) return undefined;
  const charger = chargerById(choice.charger);
  let profile: Profile;
  try {
    profile = planFor(choice.plan, question.subject);
  } catch (error) {
    if (!(error instanceof ProfileError)) throw error;
    const { plan } = choice;
    return {
      name: plan,
      charger: charger.name,
      reason: '',
      isAttended: false,
      setA: 0,
      setV: 0,
      refusal: error.message,
    };
  }
  const first = profile.stages[0];
  const cells = batteryFor(question);
  const engine = new ChargeEngine(profile, question.subject);
  const run = new ModelRun(cells, engine, {
    supply: shapeOf(charger, question.rating.cells),
    ambientC: question.condition.tempC,
  });
  const common = {
    name: profile.name,
    charger: charger.name,
    reason: profile.reason,
    isAttended: profile.isAttended,
    setA: Math.min(engine.command(run.engineState).amps, charger.mostA),
    setV: first ? engine.heldVolts(first, 25) : 0,
  };
  const refusal = misfit(charger, profile, question.subject, run.volts());
  if (refusal !== undefined) return { ...common, refusal };
  const hardAtStart = hardShare(run);
  const untilS = question.hours * HOUR;
  for (let atS = SLICE_S; ; atS += SLICE_S) {
    run.runUntil(Math.min(atS, untilS));
    if (run.hasEnded || atS >= untilS) break;
    if (!(await keep(atS / untilS))) return undefined;
  }
  return { ...common, outcome: outcomeOf(run, question, charger.efficiency, hardAtStart) };
}

/** Charged from here on counts as full, whatever ended the plan. */
const FULL_FROM = 0.95;
/** A win by less than this share, or by next to nothing, is none. */
const CLEAR_WIN = 0.03;
const LEAST_WIN = 1e-3;

export interface Win {
  readonly on: string;
  /** Index of the plan. */
  readonly plan: number;
  readonly by: string;
}

/** Which plan is best on what. One that is stopped wins nothing; one that is not done, only gentleness. */
export function winsOf(answers: readonly PlanAnswer[]): Win[] {
  const ran = answers.flatMap(({ outcome }, plan) =>
    outcome && outcome.ended !== 'stop' && outcome.ended !== 'runaway' ? [{ outcome, plan }] : [],
  );
  const full = ran.filter(({ outcome }) => outcome.ended === 'full' && outcome.endCharge >= FULL_FROM);
  const best = (
    among: typeof ran,
    on: string,
    figure: (outcome: Outcome) => number,
    by: (outcome: Outcome) => string,
  ): Win[] => {
    if (among.length < 2) return [];
    const ranked = [...among].sort((a, b) => figure(a.outcome) - figure(b.outcome));
    const [first, second] = ranked;
    const isClear =
      first && second && figure(second.outcome) > figure(first.outcome) * (1 + CLEAR_WIN) + LEAST_WIN;
    return first && isClear ? [{ on, plan: first.plan, by: by(first.outcome) }] : [];
  };
  return [
    ...best(
      full,
      'Soonest full',
      (o) => o.atS,
      (o) => hoursAndMinutes(o.atS),
    ),
    ...best(
      ran,
      'Coolest',
      (o) => o.hottestC,
      (o) => `${o.hottestC.toFixed(0)} °C`,
    ),
    ...best(
      full,
      'Least water',
      (o) => o.waterG,
      (o) => `${o.waterG.toFixed(1)} mL`,
    ),
    ...best(
      full,
      'Cheapest',
      (o) => o.cost,
      (o) => `${(o.mainsWh / 1000).toFixed(2)} kWh`,
    ),
    ...(ran.some(({ outcome }) => outcome.hardAtStart > 0.05)
      ? best(
          ran,
          'Most sulfate back',
          (o) => o.hardLeft,
          (o) => `${percentText(o.hardAtStart - o.hardLeft)} of rating`,
        )
      : []),
  ];
}
