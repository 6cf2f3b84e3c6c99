/** A recovery's proof run on a battery of the model: charged, rested, tested, drawn, charged again, held, graded. */
import { ChargeEngine } from '../charge/engine.ts';
import { heldPlan } from '../charge/held.ts';
import { ModelRun } from '../charge/modelRun.ts';
import { conductanceA, read } from '../instruments/modelView.ts';
import { SOUND, type CellCondition } from '../model/battery.ts';
import type { CellString } from '../model/cellString.ts';
import { draw, postVolts, rest } from '../model/discharge.ts';
import { makeBattery, type Fault } from '../model/faults.ts';
import { ratingOf, subjectOfType } from '../model/fromType.ts';
import { soundBattery, twentyHourAh } from '../model/parameters.ts';
import { CASE_C, get } from '../model/state.ts';
import { contextOf } from '../runsheet/state.ts';
import { gradedFrom, holdIn } from '../runsheet/procedures/recovery/prove.ts';
import type { Grade } from '../runsheet/grade.ts';
import { TestJob } from './testJob.ts';
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
  /** What the weakest cell truly gives, as a share of the rating. */
  readonly trueCapacity: number;
  /** Charge the battery truly lost in the week's hold, share of the rating. */
  readonly lostInWeek: number;
  readonly why: string;
}

const DAY_S = 86_400;
const LOOK_H = 1;
const MOST_CHARGE_H = 24;

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

  /** Ah drawn at C/20 to the end voltage. */
  drawAh(): number {
    const { type } = this.sheet.job.state.opened;
    const amps = type.capacityAh / 20;
    const { seconds } = draw(this.cells, amps, 1.75 * type.cells, 40 * 3600);
    this.sheet.wait(seconds / 60);
    return (amps * seconds) / 3600;
  }
}

/** The whole of it; a charge that a stop rule ends is R for the cell it names. */
export function proofTrial(subject: ProofSubject, seed: string): ProofResult {
  const { typeId, condition, faults = [], capacityFactor = 1, roomC } = subject;
  const type = typeOf(typeId);
  const rating = ratingOf(type);
  const cells = makeBattery({
    parameters: soundBattery({ ...rating, capacityAh: rating.capacityAh * capacityFactor }),
    condition: { ...SOUND, charge: 0.4, ...condition },
    faults,
    tempC: roomC,
  });
  cells.ambientC = roomC;
  rest(cells, DAY_S / 4);
  const kind = typeId.includes('-F') ? 'flooded' : 'agm';
  const sheet = new TestJob(typeId, {}, undefined, `recover-${kind}`);
  sheet.triage(Math.max(0, Number(postVolts(cells).toFixed(2))));
  const bench = new Bench(sheet, cells, roomC, seed);
  const stopped = (): ProofResult => ({
    grade: 'R',
    saysLeak: false,
    trueCapacity: 0,
    lostInWeek: 0,
    why: sheet.current.why ?? '',
  });
  sheet.route('slow-charge', 'as it stands');
  if (!bench.charge()) return stopped();
  bench.clipsOff('slow-clips').rest(1 / 12);
  sheet.measure('after-charge', bench.rested()).route('prove', 'as far as it goes').affirm('prove-off');
  bench.rest(1.05);
  sheet.measure('prove-ocv', bench.rested());
  if (sheet.current.status === 'held') return stopped();
  sheet.measure('prove-load', { method: 'tester', testerA: bench.testerA() });
  const drawnAh = bench.drawAh();
  sheet.measure('prove-capacity', { method: 'slow', drawnAh });
  if (!bench.charge()) return stopped();
  bench.clipsOff('prove-clips').rest(1.05);
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
    trueCapacity: drawnAh / twentyHourAh(type),
    lostInWeek: (before - chargeAh(cells)) / twentyHourAh(type),
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
