/** What a candidate shows to the instruments, as it was found and after whatever was done to it since. */
import {
  bubblesOf,
  conductanceA,
  dipProbes,
  hydrometerAt,
  levelOf,
  meterV,
  probeC,
  type Bubbles,
  type Level,
} from './modelView.ts';
import { postsOhm } from '../charge/donor.ts';
import type { Trace, TraceColumn } from '../charge/trace.ts';
import type { CellString } from '../model/cellString.ts';
import { CASE_C } from '../model/state.ts';
import { goThrough } from './passages.ts';
import type { Passage } from '../candidate/passage.ts';
import { acceptedA, discharge, quickLoad, type Discharge, type UnderLoad } from './quickTests.ts';
import type { Reading } from './readings.ts';
import { atReference, batteryFrom, settled, type Perturb } from '../candidate/piece.ts';
import { roomOf, type Setting, type Traits } from '../candidate/traits.ts';

type Remembered = number | readonly number[] | string | UnderLoad | Discharge;

interface Onward {
  readonly shown: Shown;
  readonly trace: Trace | undefined;
}

interface Kept {
  readonly still?: CellString;
  readonly known?: Map<string, Remembered>;
}

/** What a candidate shows, remembered: a reading does not change with the others. */
export class Shown {
  private readonly make: () => CellString;
  private readonly setting: Setting;
  private readonly stage: number;
  private readonly still: CellString;
  private readonly known: Map<string, Remembered>;
  private next: Onward | undefined;
  private readonly onTheWay = new Map<number, Shown>();

  /**
   * @param make the candidate anew, for what a test would change
   * @param setting with the passages it goes through
   * @param stage how many of them lie behind it
   * @param kept as it stands, and what it has shown of that already
   */
  constructor(make: () => CellString, setting: Setting, stage = 0, kept: Kept = {}) {
    this.make = make;
    this.setting = setting;
    this.stage = stage;
    this.still = kept.still ?? make();
    this.known = kept.known ?? new Map<string, Remembered>();
  }

  /** The same candidate with something else done to it from some passage on: what it went through alike is kept. */
  under(setting: Setting): Shown {
    const { still, known } = this;
    const again = new Shown(this.make, setting, this.stage, { still, known });
    const passageOf = ({ passages = [] }: Setting): string => JSON.stringify(passages[this.stage]);
    if (this.next && passageOf(this.setting) === passageOf(setting))
      again.next = { shown: this.next.shown.under(setting), trace: this.next.trace };
    return again;
  }

  /** Through the next passage, worked out when first asked for. */
  private onward(): Onward {
    if (this.next) return this.next;
    const { make, trace } = this.through(this.passage);
    this.next = { shown: new Shown(make, this.setting, this.stage + 1), trace };
    return this.next;
  }

  private get passage(): Passage {
    const passage = this.setting.passages?.[this.stage];
    if (passage) return passage;
    throw new RangeError(`Nothing is known of what was done to it after passage ${this.stage}.`);
  }

  /** @returns the cells as they are at the passage's end, and how to make the same at rest */
  private through(passage: Passage) {
    const cells = this.make();
    const trace = goThrough(cells, passage, this.setting.rating, roomOf(this.setting));
    const make = (): CellString => {
      const again = this.make();
      again.state.copyFrom(cells.state);
      return settled(again);
    };
    return { cells, make, trace };
  }

  /** The same candidate so many minutes into the charge that comes next, its charger on. */
  private midway(minutes: number): Shown {
    const before = this.onTheWay.get(minutes);
    if (before) return before;
    const { cells, make } = this.through({ ...this.passage, minutes });
    // Its open-circuit voltage is read with the charger off for a moment.
    const known = new Map<string, Remembered>([['ocv', meterV(make())]]);
    const shown = new Shown(make, this.setting, this.stage, { still: cells, known });
    this.onTheWay.set(minutes, shown);
    return shown;
  }

  /** The same candidate where a reading was taken. */
  at({ stage = 0, midway }: Pick<Reading, 'stage' | 'midway'>): Shown {
    const stands = this.after(stage);
    return midway === undefined ? stands : stands.midway(midway);
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

  private once<T extends Remembered>(key: string, work: () => T): T {
    const known = this.known.get(key);
    if (known !== undefined) return known as T;
    const value = work();
    this.known.set(key, value);
    return value;
  }

  ocvV(): number {
    return this.once('ocv', () => meterV(this.still));
  }

  load(amps: number, seconds: number): UnderLoad {
    return this.once(`load ${amps} ${seconds}`, () => quickLoad(this.make(), amps, seconds));
  }

  discharge(amps: number): Discharge {
    return this.once(`discharge ${amps}`, () => discharge(this.make(), amps));
  }

  /** Minutes to 1.75 V a cell at a current. */
  reserveMin(amps: number): number {
    return this.discharge(amps).endMin;
  }

  testerA(): number {
    return this.once('tester', () => conductanceA(this.still));
  }

  ohm(): number {
    return this.once('ohm', () => postsOhm(this.still));
  }

  /** The same at 25 °C: a tester of a cold battery sees its cold as well. */
  referenceA(): number {
    return this.once('tester at 25', () => conductanceA(atReference(this.make())));
  }

  referenceOhm(): number {
    return this.once('ohm at 25', () => postsOhm(atReference(this.make())));
  }

  /** Of the case, °C. */
  caseC(): number {
    return this.still.state.shared[CASE_C] as number;
  }

  warmthC(cell: number): number {
    return this.once(`warmth ${cell}`, () => probeC(this.still, cell));
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

/** A candidate on the bench of the model, as it was found. */
export const shownOf = (traits: Traits, setting: Setting, perturb?: Perturb): Shown =>
  new Shown(() => batteryFrom(traits, setting, perturb), setting);
