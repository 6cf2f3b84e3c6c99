/**
 * Moves strings of cells forward in time by a singly diagonally implicit Runge-Kutta method of order two
 * (γ = 1 − 1/√2: L-stable, so that shorted and exhausted cells do not force tiny steps).
 * @see Alexander 1977, Diagonally implicit Runge-Kutta methods for stiff O.D.E.'s, SIAM J. Numer. Anal. 14
 */
import type { CellString } from './cellString.ts';
import { changeFor, type Source } from './source.ts';
import { finishStage, move, pass, prepareStage } from './stage.ts';
import { CASE_C, get, StringState } from './state.ts';

const GAMMA = 1 - Math.SQRT1_2;
const MOST_PASSES = 40;
/**
 * A stage is solved when no cell moves further than this, V: Newton's next move would be its square, and
 * the last one is carried into every current.
 */
const SOLVED_V = 2e-5;
/** Warmth a stage was solved at may differ from what it led to, K; and how often that is mended. */
const SAME_WARMTH_K = 0.005;
const MOST_ROUNDS = 12;

/** One string, or two in parallel, moved together. */
export class Stepper {
  private readonly first: CellString;
  private readonly second: CellString | undefined;
  private readonly start: StringState[];
  private readonly base: StringState[];
  /** Newton passes so far: how hard the equations were. */
  passes = 0;

  /** @param second a battery clamped across the first, leads included in its own resistance */
  constructor(first: CellString, second?: CellString) {
    const strings = second ? [first, second] : [first];
    this.first = first;
    this.second = second;
    this.start = strings.map((string) => new StringState(string.groups));
    this.base = strings.map((string) => new StringState(string.groups));
  }

  /**
   * Moves forward. On failure the state is left as it was.
   * @param source clamped to the first string's posts
   * @param seconds above 0
   * @returns whether the equations could be solved at this step
   */
  step(source: Source, seconds: number): boolean {
    this.remember();
    const part = GAMMA * seconds;
    this.setBases(0);
    if (!this.solve(source, part)) return this.giveUp();
    this.setBases((1 - GAMMA) / GAMMA);
    if (!this.solve(source, part)) return this.giveUp();
    return true;
  }

  /** Puts the strings back to where the last step began. */
  undo(): void {
    this.each((string, index) => {
      const start = this.start[index];
      if (start) string.state.copyFrom(start);
    });
  }

  private each(act: (string: CellString, index: number) => void): void {
    act(this.first, 0);
    if (this.second) act(this.second, 1);
  }

  private remember(): void {
    this.each((string, index) => this.start[index]?.copyFrom(string.state));
  }

  private setBases(factor: number): void {
    this.each((string, index) => {
      const base = this.base[index];
      const start = this.start[index];
      if (base && start) base.extrapolate(start, string.state, factor);
    });
  }

  private giveUp(): boolean {
    this.undo();
    this.each((string) => {
      string.shown.overpotential.fill(0);
      string.shown.mainA.fill(0);
      string.stage.warming.fill(0);
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
      let off = finishStage(first, base, seconds);
      if (second && otherBase) off = Math.max(off, finishStage(second, otherBase, seconds));
      if (off < SAME_WARMTH_K) return true;
    }
    return false;
  }

  /** Newton's passes over all cells, until nothing moves. */
  private iterate(source: Source, seconds: number): boolean {
    const { first, second } = this;
    const [base, otherBase] = this.base;
    if (!base) return false;
    const caseC = get(first.state.shared, CASE_C);
    for (let passes = 1; passes <= MOST_PASSES; passes++) {
      pass(first, base, seconds);
      let largest: number;
      if (second && otherBase) {
        pass(second, otherBase, seconds);
        largest = this.moveBoth(source, caseC, first, second);
      } else {
        const change = changeFor(source, caseC, first.currentA, first.terminalV, first.slopeOhm);
        largest = move(first, change);
      }
      if (!Number.isFinite(largest)) return false;
      if (largest < SOLVED_V) {
        this.passes += passes;
        return true;
      }
    }
    return false;
  }

  /** Both strings share their posts' voltage; the source's current divides between them. */
  private moveBoth(source: Source, caseC: number, first: CellString, second: CellString): number {
    const slopes = first.slopeOhm + second.slopeOhm;
    // As one string: the current of both, and the voltage they would share.
    const together = (first.slopeOhm * second.slopeOhm) / slopes;
    const gap = second.terminalV - first.terminalV;
    const shared = first.terminalV + (gap * first.slopeOhm) / slopes;
    const change = changeFor(source, caseC, first.currentA + second.currentA, shared, together);
    const posts = shared + together * change;
    const moved = move(first, (posts - first.terminalV) / first.slopeOhm);
    return Math.max(moved, move(second, (posts - second.terminalV) / second.slopeOhm));
  }
}
