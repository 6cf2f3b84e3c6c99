/** A recovery's proof run on a battery of the model: charged, rested, tested, drawn, charged again, held, graded. */
import { ChargeEngine } from '../charge/engine.ts';
import { heldPlan } from '../charge/held.ts';
import { ModelRun } from '../charge/modelRun.ts';
import { conductanceA, read } from '../observation/modelView.ts';
import { SOUND, type CellCondition } from '../model/battery.ts';
import type { CellString } from '../model/cellString.ts';
import { draw, postVolts, rest } from '../model/discharge.ts';
import { makeBattery, type Fault } from '../model/faults.ts';
import { ratingOf } from '../model/fromType.ts';
import { subjectOfType } from '../charge/subject.ts';
import { soundBattery, twentyHourAh } from '../model/parameters.ts';
import { CASE_C, get } from '../model/state.ts';
import type { BatteryType } from '../battery/types.ts';
import { contextOf } from '../runsheet/state/context.ts';
import { gradedFrom, holdIn } from '../runsheet/verdict/proof.ts';
import type { Grade } from '../grading/grade.ts';
import { TestJob } from './testJob.ts';
import { trialChance } from './trialChance.ts';
import { typeOf } from './chargeTrial.ts';

export interface ProofSubject {
  readonly typeId: string;
  readonly condition?: Partial<CellCondition>;
  readonly faults?: readonly Fault[];
  readonly capacityFactor?: number;
  readonly roomC: number;
}

export interface ProofResult {
  readonly grade: Grade;
  /** Whether a leak was said. */
  readonly saysLeak: boolean;
  /** What it truly gives, full and at 25 °C, as a share of the rating. */
  readonly trueCapacity: number;
  /** Charge the battery truly lost in the week's hold, share of the rating. */
  readonly lostInWeek: number;
  readonly why: string;
}

const DAY_S = 86_400;
const LOOK_H = 1;
const MOST_CHARGE_H = 24;
const REFERENCE_C = 25;
const USUAL_CHARGE = 0.4;

/** Ah at C/20 to the end voltage. */
function drawnFrom(cells: CellString, { capacityAh, cells: count }: BatteryType): number {
  const amps = capacityAh / 20;
  return (amps * draw(cells, amps, 1.75 * count, 40 * 3600).seconds) / 3600;
}

/** Charged and looked at as on the run sheet, until it is proven full or its day is over. */
class Bench {
  readonly sheet: TestJob;
  readonly cells: CellString;
  private readonly seed: string;
  private readonly roomC: number;

  constructor(sheet: TestJob, cells: CellString, roomC: number, seed: string) {
    this.sheet = sheet;
    this.cells = cells;
    this.roomC = roomC;
    this.seed = seed;
  }

  rest(days: number): this {
    rest(this.cells, days * DAY_S);
    this.sheet.wait(days * 24 * 60);
    return this;
  }

  private sees(what: 'meterV' | 'thermometerC' | 'conductanceA' | 'shuntA', truth: number): number {
    return read(truth, what, `${this.seed} ${what} ${this.sheet.now}`);
  }

  /** @returns false where a stop rule ended it */
  charge(): boolean {
    const { sheet, cells } = this;
    const { opened } = sheet.job.state;
    const { capacityAh } = opened.type;
    const step = sheet.current.key;
    sheet.put('chargeStarted', { step, currentA: capacityAh / 20 });
    const ceilingV = contextOf(sheet.job.state, sheet.current.round).threshold('ceilingV').value;
    const plan = heldPlan(capacityAh / 20, ceilingV, MOST_CHARGE_H * 3600, 'wake', true);
    const run = new ModelRun(cells, new ChargeEngine(plan, subjectOfType(opened.type)), {
      ambientC: this.roomC,
    });
    for (let hour = LOOK_H; hour <= MOST_CHARGE_H; hour += LOOK_H) {
      run.runUntil(hour * 3600);
      sheet.wait(LOOK_H * 60).put('chargeRead', {
        step,
        values: {
          voltageV: this.sees('meterV', run.volts()),
          currentA: Math.max(0, this.sees('shuntA', cells.currentA)),
          tempC: this.sees('thermometerC', get(cells.state.shared, CASE_C)),
        },
        source: 'meter',
      });
      if (sheet.current.status === 'held') return false;
      try {
        sheet.put('chargeEnded', { step, fullSignal: false });
        return true;
      } catch {
        // Not proven yet: it stays on.
      }
    }
    sheet.put('chargeEnded', { step, fullSignal: false });
    return true;
  }

  clipsOff(step: string): this {
    rest(this.cells, 360);
    this.sheet.wait(6).affirm(step);
    return this;
  }

  rested(): { ocvV: number; tempC: number } {
    return {
      ocvV: this.sees('meterV', postVolts(this.cells)),
      tempC: this.sees('thermometerC', get(this.cells.state.shared, CASE_C)),
    };
  }

  testerA(): number {
    return Math.max(0, this.sees('conductanceA', conductanceA(this.cells)));
  }

  /** Ah drawn in the capacity test. */
  drawAh(): number {
    const { type } = this.sheet.job.state.opened;
    const drawnAh = drawnFrom(this.cells, type);
    this.sheet.wait((drawnAh / (type.capacityAh / 20)) * 60);
    return drawnAh;
  }
}

const TYPES = ['BK-A12/55', 'BK-F12/70', 'LW-A12/9', 'TQ-A12/20', 'TQ-F12/14', 'LW-A12/12'] as const;
const ROOMS_C = [10, 21, 28] as const;

export const PROOF_KINDS = ['sound', 'leaking', 'worn', 'shorted'] as const;
export type ProofKind = (typeof PROOF_KINDS)[number];

/** Self-discharge of a soft short by its hours to empty a cell: from what shows in a day to what a month hides. */
const LEAK_H = [60, 1500] as const;
const CELL_V = 2.1;

/** A battery by its kind and number: the same whenever it is asked. */
export function randomProof(kind: ProofKind, index: number): ProofSubject {
  const between = trialChance(index * 7919 + 11 + PROOF_KINDS.indexOf(kind));
  const typeId = TYPES[Math.floor(between(0, TYPES.length))] ?? TYPES[0];
  const { capacityAh, cells } = typeOf(typeId);
  const cell = 1 + Math.floor(between(0, cells));
  const emptiesInH = Math.exp(between(Math.log(LEAK_H[0]), Math.log(LEAK_H[1])));
  const faults: Record<ProofKind, readonly Fault[]> = {
    sound: [],
    leaking: [{ kind: 'short', cell, ohms: (CELL_V * emptiesInH) / capacityAh }],
    worn: [{ kind: 'worn', share: between(0.35, 0.9) }],
    shorted: [{ kind: 'short', cell, ohms: between(0.01, 0.1) }],
  };
  return {
    typeId,
    faults: faults[kind],
    condition: { charge: between(0.2, 0.9), film: between(0, 0.05) },
    capacityFactor: between(0.95, 1.07),
    roomC: ROOMS_C[index % ROOMS_C.length] ?? 21,
  };
}

/** The whole of it; a charge that a stop rule ends is R for the cell it names. */
export function proofTrial(subject: ProofSubject, seed: string): ProofResult {
  const { typeId, condition, faults = [], capacityFactor = 1, roomC } = subject;
  const type = typeOf(typeId);
  const rating = ratingOf(type);
  const made = (charge: number, tempC: number): CellString => {
    const one = makeBattery({
      parameters: soundBattery({ ...rating, capacityAh: rating.capacityAh * capacityFactor }),
      condition: { ...SOUND, ...condition, charge },
      faults,
      tempC,
    });
    one.ambientC = tempC;
    return one;
  };
  const trueCapacity = drawnFrom(made(1, REFERENCE_C), type) / twentyHourAh(ratingOf(type));
  const cells = made(condition?.charge ?? USUAL_CHARGE, roomC);
  rest(cells, DAY_S / 4);
  const kind = typeId.includes('-F') ? 'flooded' : 'agm';
  const sheet = new TestJob(typeId, {}, undefined, `recover-${kind}`);
  sheet.triage(Math.max(0, Number(postVolts(cells).toFixed(2))));
  const bench = new Bench(sheet, cells, roomC, seed);
  const stopped = (): ProofResult => ({
    grade: 'R',
    saysLeak: false,
    trueCapacity,
    lostInWeek: 0,
    why: sheet.current.why ?? '',
  });
  sheet.route('slow-charge', 'as it stands');
  if (!bench.charge()) return stopped();
  bench.clipsOff('slow-clips').rest(1 / 12);
  sheet
    .closed('slow')
    .measure('after-charge', bench.rested())
    .route('prove', 'as far as it goes')
    .affirm('prove-off');
  bench.rest(1.05);
  sheet.measure('prove-ocv', bench.rested());
  if (sheet.current.status === 'held') return stopped();
  sheet.measure('prove-load', { method: 'tester', testerA: bench.testerA() });
  const drawnAh = bench.drawAh();
  sheet.measure('prove-capacity', { method: 'slow', drawnAh });
  if (!bench.charge()) return stopped();
  bench.clipsOff('prove-clips');
  sheet.closed('prove');
  bench.rest(1.05);
  const before = chargeAh(cells);
  sheet.measure('hold-ocv', bench.rested());
  bench.rest(1);
  sheet.measure('hold-read', bench.rested());
  bench.rest(6);
  sheet.measure('week-read', bench.rested());
  const context = contextOf(sheet.job.state, sheet.current.round);
  const { grade, because } = gradedFrom(context);
  return {
    grade,
    saysLeak: because.includes('leak'),
    trueCapacity,
    lostInWeek: (before - chargeAh(cells)) / twentyHourAh(ratingOf(type)),
    why: `${because} ${holdIn(context, 'week-read')?.sentence ?? ''}`.trim(),
  };
}

/** Ah the weakest cell still holds. */
function chargeAh(cells: CellString): number {
  let least = Number.POSITIVE_INFINITY;
  for (let group = 0; group < cells.groups; group++)
    least = Math.min(
      least,
      get(cells.p.convertibleAh, group) - get(cells.state.soft, group) - get(cells.state.hard, group),
    );
  return least;
}
