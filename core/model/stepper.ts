/**
 * Moves strings of cells forward in time by a singly diagonally implicit Runge-Kutta method of order two
 * (γ = 1 − 1/√2: L-stable, so that shorted and exhausted cells do not force tiny steps).
 * @see Alexander 1977, Diagonally implicit Runge-Kutta methods for stiff O.D.E.'s, SIAM J. Numer. Anal. 14
 */
import { stageColumns, type CellString, type StageColumns } from './cellString.ts';
import { changeFor, type Source } from './source.ts';
import { move, pass } from './newton.ts';
import { prepareStage } from './stage.ts';
import { finishStage } from './stageEnd.ts';
import { CASE_C, StringState } from './state.ts';

const GAMMA = 1 - Math.SQRT1_2;
const MOST_PASSES = 40;
/** The first guess of a stage moves no overpotential further than this, V. */
const LONGEST_GUESS_V = 0.05;
/**
 * A stage is solved when no cell moves further than this, V: the error left is half of F/2RT times its
 * square, ten microvolts, and the last move is carried into every current.
 */
const SOLVED_V = 1e-3;
/** Warmth a stage was solved at may differ from what it led to, K; and how often that is mended. */
const SAME_WARMTH_K = 0.005;
const MOST_ROUNDS = 12;

/** Where Newton's passes begin: overpotentials and currents carried on as they were going. */
class Guess {
  private readonly cells: CellString;
  private readonly startX: Float64Array;
  private readonly startMain: Float64Array;
  private readonly rateX: Float64Array;
  private readonly rateMain: Float64Array;
  private startA = 0;
  private rateA = 0;

  constructor(cells: CellString) {
    const { groups } = cells;
    this.cells = cells;
    this.startX = new Float64Array(groups);
    this.startMain = new Float64Array(groups);
    this.rateX = new Float64Array(groups);
    this.rateMain = new Float64Array(groups);
  }

  remember(): void {
    this.startX.set(this.cells.shown.overpotential);
    this.startMain.set(this.cells.shown.mainA);
    this.startA = this.cells.currentA;
  }

  restore(): void {
    this.cells.shown.overpotential.set(this.startX);
    this.cells.shown.mainA.set(this.startMain);
    this.cells.currentA = this.startA;
  }

  /** After a jump nothing goes on as it was going. */
  forget(): void {
    this.rateX.fill(0);
    this.rateMain.fill(0);
    this.rateA = 0;
  }

  /** For the first stage, by how the last step went. */
  goOn(seconds: number): void {
    const { cells } = this;
    const { overpotential, mainA } = cells.shown;
    for (let g = 0; g < cells.groups; g++) {
      const wanted = (this.rateX[g] as number) * seconds;
      const part = Math.abs(wanted) > LONGEST_GUESS_V ? LONGEST_GUESS_V / Math.abs(wanted) : 1;
      overpotential[g] = (this.startX[g] as number) + part * wanted;
      mainA[g] = (this.startMain[g] as number) + part * (this.rateMain[g] as number) * seconds;
    }
    cells.currentA = this.startA + this.rateA * seconds;
  }

  /** For the second stage, by how the first went. */
  goFurther(): void {
    const { cells } = this;
    const { overpotential, mainA } = cells.shown;
    for (let g = 0; g < cells.groups; g++) {
      const start = this.startX[g] as number;
      const wanted = ((overpotential[g] as number) - start) / GAMMA;
      const part = Math.abs(wanted) > LONGEST_GUESS_V ? LONGEST_GUESS_V / Math.abs(wanted) : 1;
      overpotential[g] = start + part * wanted;
      const main = this.startMain[g] as number;
      mainA[g] = main + (part * ((mainA[g] as number) - main)) / GAMMA;
    }
    cells.currentA = this.startA + (cells.currentA - this.startA) / GAMMA;
  }

  learn(seconds: number): void {
    const { cells } = this;
    for (let g = 0; g < cells.groups; g++) {
      this.rateX[g] = ((cells.shown.overpotential[g] as number) - (this.startX[g] as number)) / seconds;
      this.rateMain[g] = ((cells.shown.mainA[g] as number) - (this.startMain[g] as number)) / seconds;
    }
    this.rateA = (cells.currentA - this.startA) / seconds;
  }
}

/** Room to work a step out in, shared by all strings of so many groups: a battery is made by the thousand, and its room would be most of it. */
interface Room {
  readonly columns: StageColumns;
  readonly base: StringState;
  owner: Stepper | undefined;
}

/** By place in the stepper, by groups: two strings that are moved together work in two rooms. */
const rooms: Room[][] = [[], []];

function roomFor(place: number, groups: number): Room {
  const row = rooms[place] ?? [];
  const known = row[groups];
  if (known) return known;
  const room = { columns: stageColumns(groups), base: new StringState(groups), owner: undefined };
  row[groups] = room;
  return room;
}

/** One string, or two in parallel, moved together. */
export class Stepper {
  private readonly first: CellString;
  private readonly second: CellString | undefined;
  private readonly strings: readonly CellString[];
  private readonly start: Float64Array[];
  private readonly rooms: readonly Room[];
  private readonly base: readonly StringState[];
  private readonly guesses: readonly Guess[];
  /** Newton passes so far: how hard the equations were. */
  passes = 0;

  /** @param second a battery clamped across the first, leads included in its own resistance */
  constructor(first: CellString, second?: CellString) {
    const strings = second ? [first, second] : [first];
    this.strings = strings;
    this.first = first;
    this.second = second;
    this.guesses = strings.map((string) => new Guess(string));
    this.start = strings.map(({ state }) => state.keeper());
    this.rooms = strings.map(({ groups }, place) => roomFor(place, groups));
    this.base = this.rooms.map(({ base }) => base);
  }

  /**
   * Moves forward. On failure the state is left as it was.
   * @param source clamped to the first string's posts
   * @param seconds above 0
   * @returns whether the equations could be solved at this step
   */
  step(source: Source, seconds: number): boolean {
    this.moveIn();
    this.remember();
    const part = GAMMA * seconds;
    this.setBases(0);
    for (const guess of this.guesses) guess.goOn(part);
    if (!this.solve(source, part)) return this.giveUp();
    this.setBases((1 - GAMMA) / GAMMA);
    for (const guess of this.guesses) guess.goFurther();
    if (!this.solve(source, part)) return this.giveUp();
    for (const guess of this.guesses) guess.learn(seconds);
    return true;
  }

  /** What another string left in the room is not this one's: its rates are worked out anew. */
  private moveIn(): void {
    const { rooms: own, strings } = this;
    for (let place = 0; place < strings.length; place++) {
      const room = own[place];
      const string = strings[place];
      if (!room || !string) continue;
      if (room.owner !== this) room.columns.ratesC.fill(Number.NaN);
      room.owner = this;
      string.stage = room.columns;
    }
  }

  /** Puts the strings back to where the last step began. */
  undo(): void {
    this.strings.forEach((string, index) => {
      const start = this.start[index];
      if (start) string.state.takeBack(start);
      this.guesses[index]?.restore();
      this.guesses[index]?.forget();
    });
  }

  /** Something jumped: what the last step learned is of no use. */
  forget(): void {
    for (const guess of this.guesses) guess.forget();
  }

  private remember(): void {
    const { start, guesses, strings } = this;
    for (let index = 0; index < strings.length; index++) {
      const string = strings[index];
      const keeper = start[index];
      if (string && keeper) string.state.keepIn(keeper);
      guesses[index]?.remember();
    }
  }

  private setBases(factor: number): void {
    const { start, base, strings } = this;
    for (let index = 0; index < strings.length; index++) {
      const from = start[index];
      const string = strings[index];
      if (from && string) base[index]?.extrapolate(from, string.state, factor);
    }
  }

  private giveUp(): boolean {
    this.undo();
    this.strings.forEach((string) => {
      string.shown.overpotential.fill(0);
      string.shown.mainA.fill(0);
      string.shown.gasA.fill(0);
      string.shown.warming.fill(0);
      string.warmingKPerS = 0;
      string.currentA = 0;
    });
    return false;
  }

  /** Solves a stage, again while the warmth it was solved at is not the warmth it led to. */
  private solve(source: Source, seconds: number): boolean {
    const { first, second } = this;
    const [base, otherBase] = this.base;
    if (!base) return false;
    for (let round = 0; round < MOST_ROUNDS; round++) {
      prepareStage(first, base, seconds);
      if (second && otherBase) prepareStage(second, otherBase, seconds);
      if (!this.iterate(source, seconds)) return false;
      finishStage(first, base, seconds);
      if (second && otherBase) finishStage(second, otherBase, seconds);
      const isSecondOff = second !== undefined && second.warmthOff >= SAME_WARMTH_K;
      if (first.warmthOff < SAME_WARMTH_K && !isSecondOff) return true;
    }
    return false;
  }

  /** Newton's passes over all cells, until nothing moves. */
  private iterate(source: Source, seconds: number): boolean {
    const { first, second } = this;
    const [base, otherBase] = this.base;
    if (!base) return false;
    const caseC = first.state.shared[CASE_C] as number;
    for (let passes = 1; passes <= MOST_PASSES; passes++) {
      pass(first, base, seconds);
      if (second && otherBase) {
        pass(second, otherBase, seconds);
        this.moveBoth(source, caseC, first, second);
      } else {
        const change = changeFor(source, caseC, first.currentA, first.terminalV, first.slopeOhm);
        move(first, change);
      }
      const largest = second ? Math.max(first.moved, second.moved) : first.moved;
      if (!Number.isFinite(largest)) return false;
      if (largest < SOLVED_V) {
        this.passes += passes;
        return true;
      }
    }
    return false;
  }

  /** Both strings share their posts' voltage; the source's current divides between them. */
  private moveBoth(source: Source, caseC: number, first: CellString, second: CellString): void {
    const slopes = first.slopeOhm + second.slopeOhm;
    // As one string: the current of both, and the voltage they would share.
    const together = (first.slopeOhm * second.slopeOhm) / slopes;
    const gap = second.terminalV - first.terminalV;
    const shared = first.terminalV + (gap * first.slopeOhm) / slopes;
    const change = changeFor(source, caseC, first.currentA + second.currentA, shared, together);
    const posts = shared + together * change;
    move(first, (posts - first.terminalV) / first.slopeOhm);
    move(second, (posts - second.terminalV) / second.slopeOhm);
  }
}

const own = new WeakMap<CellString, Stepper>();

/** A string's own stepper, for a few steps by itself: what a former one learned is forgotten. Not to be held while another one moves it. */
export function stepperOf(string: CellString): Stepper {
  const known = own.get(string);
  const stepper = known ?? new Stepper(string);
  if (known) known.forget();
  else own.set(string, stepper);
  return stepper;
}
