/** What a candidate shows to the instruments, as it was found and after whatever was done to it since. */
import {
  analyse,
  bubblesOf,
  conductanceA,
  dipProbes,
  hydrometerAt,
  levelOf,
  meterV,
  type Bubbles,
  type Level,
} from '../instruments/modelView.ts';
import type { Trace, TraceColumn } from '../charge/trace.ts';
import type { CellString } from '../model/cellString.ts';
import { postVolts } from '../model/discharge.ts';
import { Stepper } from '../model/stepper.ts';
import { goThrough } from './passages.ts';
import { settled, type Setting } from './traits.ts';

/** Two minutes, in steps that lengthen as the current settles, s. */
const ACCEPTANCE_STEPS_S = [5, 20, 40, 55] as const;

/** Current a battery takes after two minutes at a voltage, from a supply of C/5 at most, A. */
export function acceptedA(cells: CellString, volts: number, mostA: number): number {
  const stepper = new Stepper(cells);
  let amps = mostA;
  for (const seconds of ACCEPTANCE_STEPS_S) {
    if (!stepper.step({ hold: 'voltage', voltsAt: () => volts }, seconds)) return 0;
    amps = cells.currentA;
    if (amps <= mostA) continue;
    stepper.undo();
    if (!stepper.step({ hold: 'current', amps: mostA }, seconds)) return 0;
    amps = mostA;
  }
  return amps;
}

/** Steps of a load test, as shares of its length: the first second falls fastest. */
const LOAD_STEPS = [0.005, 0.03, 0.1, 0.25, 0.615] as const;

/**
 * Lowest voltage of a load test in a few long steps: within 20 mV of the fine ones where a battery holds, which
 * is a tenth of what the model itself may be off by.
 */
export function quickLoadV(cells: CellString, amps: number, seconds: number): number {
  const stepper = new Stepper(cells);
  let lowest = Number.POSITIVE_INFINITY;
  for (const share of LOAD_STEPS) {
    if (!stepper.step({ hold: 'current', amps: -amps }, share * seconds)) return 0;
    lowest = Math.min(lowest, postVolts(cells));
    if (lowest <= 0) return 0;
  }
  return lowest;
}

/** End of a capacity test, V per cell, and longest looked at. */
const END_CELL_V = 1.75;
const MOST_RESERVE_S = 30 * 3600;

/** What a candidate shows, remembered: a reading does not change with the others. */
export class Shown {
  private readonly make: () => CellString;
  private readonly setting: Setting;
  private readonly stage: number;
  private readonly still: CellString;
  private readonly known = new Map<string, number | readonly number[] | string>();
  private next: { readonly shown: Shown; readonly trace: Trace | undefined } | undefined;

  /**
   * @param make the candidate anew, for what a test would change
   * @param setting with the passages it goes through
   * @param stage how many of them lie behind it
   */
  constructor(make: () => CellString, setting: Setting, stage = 0) {
    this.make = make;
    this.setting = setting;
    this.stage = stage;
    this.still = make();
  }

  /** Through the next passage, worked out when first asked for. */
  private onward(): { readonly shown: Shown; readonly trace: Trace | undefined } {
    if (this.next) return this.next;
    const { rating, tempC, passages = [] } = this.setting;
    const passage = passages[this.stage];
    if (!passage)
      throw new RangeError(`Nothing is known of what was done to it after passage ${this.stage}.`);
    const cells = this.make();
    const trace = goThrough(cells, passage, rating, tempC);
    const make = (): CellString => {
      const again = this.make();
      again.state.copyFrom(cells.state);
      return settled(again);
    };
    this.next = { shown: new Shown(make, this.setting, this.stage + 1), trace };
    return this.next;
  }

  /** The same candidate after so many passages. */
  after(stage: number): Shown {
    return stage <= this.stage ? this : this.onward().shown.after(stage);
  }

  /** What it shows on the charge that comes next, so many minutes into it. */
  onCharge(minute: number, column: TraceColumn): number {
    return this.onward().trace?.at(minute * 60, column) ?? Number.NaN;
  }

  get cells(): CellString {
    return this.still;
  }

  private once<T extends number | readonly number[] | string>(key: string, work: () => T): T {
    const known = this.known.get(key);
    if (known !== undefined) return known as T;
    const value = work();
    this.known.set(key, value);
    return value;
  }

  ocvV(): number {
    return this.once('ocv', () => meterV(this.still));
  }

  loadV(amps: number, seconds: number): number {
    return this.once(`load ${amps} ${seconds}`, () => quickLoadV(this.make(), amps, seconds));
  }

  /** Minutes to 1.75 V a cell at a current. */
  reserveMin(amps: number): number {
    return this.once(`reserve ${amps}`, () => {
      const cells = this.make();
      return analyse(cells, amps, END_CELL_V * cells.groupOf.length, MOST_RESERVE_S).seconds / 60;
    });
  }

  testerA(): number {
    return this.once('tester', () => conductanceA(this.still));
  }

  density(cell: number): number {
    return this.once(`density ${cell}`, () => hydrometerAt(this.still, cell));
  }

  level(cell: number): Level {
    return this.once<Level>(`level ${cell}`, () => levelOf(this.still, cell));
  }

  bubbles(cell: number): Bubbles {
    return this.once<Bubbles>(`bubbles ${cell}`, () => bubblesOf(this.still, cell));
  }

  dips(): readonly number[] {
    return this.once<readonly number[]>('dips', () => dipProbes(this.still));
  }

  acceptedA(volts: number, mostA: number): number {
    return this.once(`accepts ${volts} ${mostA}`, () => acceptedA(this.make(), volts, mostA));
  }
}
