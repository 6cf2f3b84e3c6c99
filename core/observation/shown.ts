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
import type { TraceColumn } from '../charge/trace.ts';
import { giveBack, lend, type CellString } from '../model/cellString.ts';
import { CASE_C } from '../model/state.ts';
import { Way } from './passages.ts';
import type { Passage } from '../candidate/passage.ts';
import { acceptedA, discharge, quickLoad, type Discharge, type UnderLoad } from './quickTests.ts';
import type { Reading } from './readings.ts';
import { atReference, batteryFrom, settled, type Perturb } from '../candidate/piece.ts';
import { roomOf, type Setting, type Traits } from '../candidate/traits.ts';

type Remembered = number | readonly number[] | string | UnderLoad | Discharge;

interface Kept {
  readonly still?: CellString;
  readonly known?: Map<string, Remembered>;
}

/** What a candidate shows, remembered: a reading does not change with the others. */
export class Shown {
  /** As it stands at rest: what a test would change is done to a battery that is lent for it. */
  private readonly rested: CellString;
  private readonly setting: Setting;
  private readonly stage: number;
  private readonly still: CellString;
  private readonly known: Map<string, Remembered>;
  /** The passage that comes next, as far as it was gone, and what stands at its end. */
  private way: Way | undefined;
  private next: Shown | undefined;
  private readonly onTheWay = new Map<number, Shown>();

  /**
   * @param rested the candidate, settled at rest
   * @param setting with the passages it goes through
   * @param stage how many of them lie behind it
   * @param kept as it stands where that is not at rest, and what it has shown of that already
   */
  constructor(rested: CellString, setting: Setting, stage = 0, kept: Kept = {}) {
    this.rested = rested;
    this.setting = setting;
    this.stage = stage;
    this.still = kept.still ?? rested;
    this.known = kept.known ?? new Map<string, Remembered>();
  }

  /** The same candidate with something else done to it from some passage on: what it went through alike is kept. */
  under(setting: Setting): Shown {
    const { rested, still, known } = this;
    const again = new Shown(rested, setting, this.stage, { still, known });
    const passageOf = ({ passages = [] }: Setting): string => JSON.stringify(passages[this.stage]);
    if (passageOf(this.setting) === passageOf(setting)) {
      again.way = this.way;
      again.next = this.next?.under(setting);
    }
    return again;
  }

  /** Nobody will ask it again: its batteries may become others. */
  letGo(): void {
    giveBack(this.rested);
    if (this.still !== this.rested) giveBack(this.still);
    if (this.way) giveBack(this.way.cells);
    this.next?.letGo();
    for (const shown of this.onTheWay.values()) shown.letGo();
  }

  /** Into the next passage, worked out as far as it is asked for. */
  private setOut(): Way {
    this.way ??= this.wayThrough(this.passage);
    return this.way;
  }

  private onward(): Shown {
    if (this.next) return this.next;
    const way = this.setOut();
    way.toEnd();
    this.next = new Shown(settled(lend(way.cells)), this.setting, this.stage + 1);
    return this.next;
  }

  private get passage(): Passage {
    const passage = this.setting.passages?.[this.stage];
    if (passage) return passage;
    throw new RangeError(`Nothing is known of what was done to it after passage ${this.stage}.`);
  }

  private wayThrough(passage: Passage): Way {
    return new Way(lend(this.rested), passage, this.setting.rating, roomOf(this.setting));
  }

  /** The same candidate so many minutes into the charge that comes next, its charger on. */
  private midway(minutes: number): Shown {
    const before = this.onTheWay.get(minutes);
    if (before) return before;
    const way = this.wayThrough({ ...this.passage, minutes });
    way.toEnd();
    const rested = settled(lend(way.cells));
    // Its open-circuit voltage is read with the charger off for a moment.
    const known = new Map<string, Remembered>([['ocv', meterV(rested)]]);
    const shown = new Shown(rested, this.setting, this.stage, { still: way.cells, known });
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
    return stage <= this.stage ? this : this.onward().after(stage);
  }

  /** What it shows on the charge that comes next, so many minutes into it. */
  onCharge(minute: number, column: TraceColumn): number {
    return this.setOut().onCharge(minute, column);
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

  /** A test that changes the battery, done to one that is lent for it. */
  private tried<T extends Remembered>(key: string, test: (cells: CellString) => T): T {
    return this.once(key, () => {
      const cells = lend(this.rested);
      const value = test(cells);
      giveBack(cells);
      return value;
    });
  }

  ocvV(): number {
    return this.once('ocv', () => meterV(this.still));
  }

  load(amps: number, seconds: number): UnderLoad {
    return this.tried(`load ${amps} ${seconds}`, (cells) => quickLoad(cells, amps, seconds));
  }

  discharge(amps: number): Discharge {
    return this.tried(`discharge ${amps}`, (cells) => discharge(cells, amps));
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
    return this.tried('tester at 25', (cells) => conductanceA(atReference(cells)));
  }

  referenceOhm(): number {
    return this.tried('ohm at 25', (cells) => postsOhm(atReference(cells)));
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
    return this.tried(`accepts ${volts} ${mostA}`, (cells) => acceptedA(cells, volts, mostA));
  }
}

/** A candidate on the bench of the model, as it was found. */
export const shownOf = (traits: Traits, setting: Setting, perturb?: Perturb): Shown =>
  new Shown(batteryFrom(traits, setting, perturb), setting);
