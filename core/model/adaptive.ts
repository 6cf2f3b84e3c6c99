/**
 * Chooses how far to step. The voltage and current a step arrives at are held against a parabola through
 * the last three: where they agree the next step is longer, where they part it is taken again, shorter.
 */
import type { CellString } from './cellString.ts';

/** How steps are chosen. */
export interface StepOptions {
  /** Longest step, s. */
  readonly longestS?: number;
  /** How many times as far a step may be off as where it is left out: 1, the model's own care. */
  readonly coarseness?: number;
}

/** How well a step must agree, V per cell and as a share of the capacity in A. */
export const TOLERANCE_V = 0.6e-3;
const TOLERANCE_A_PER_AH = 3e-4;
const TOLERANCE_K = 0.35;
const FIRST_STEP_S = 2;
/** A step this short stands whatever the parabola says: something jumped. */
const SHORTEST_S = 0.5;
const UNSOLVABLE_S = 1e-6;
const LONGEST_GROWTH = 2.5;
/** Shortenings of one step before it is taken for a jump. */
const PATIENCE = 5;

export class StepControl {
  /** Step to try next, s. */
  nextS = FIRST_STEP_S;
  private readonly times = new Float64Array(3);
  private readonly history: Float64Array;
  private readonly now: Float64Array;
  private readonly scale: Float64Array;
  private readonly width: number;
  private known = 0;
  private rejections = 0;
  private readonly cells: CellString;
  private readonly longestS: number;

  constructor(cells: CellString, { longestS = 3600, coarseness = 1 }: StepOptions = {}) {
    const { groups } = cells;
    this.cells = cells;
    this.longestS = longestS;
    this.width = groups + 2;
    this.history = new Float64Array(3 * this.width);
    this.now = new Float64Array(this.width);
    this.scale = new Float64Array(this.width);
    this.scale.fill(coarseness * TOLERANCE_V, 0, groups);
    this.scale[groups] = coarseness * TOLERANCE_A_PER_AH * (cells.p.ratedAh[0] as number);
    this.scale[groups + 1] = coarseness * TOLERANCE_K;
  }

  /** After a jump: what came before says nothing of what comes. */
  restart(): void {
    this.known = 0;
    this.nextS = FIRST_STEP_S;
  }

  /** How far off a step to `atS` was, in tolerances. */
  private mismatch(atS: number): number {
    const { times, history, now, scale, width, known } = this;
    if (known === 0) return 0;
    const t0 = times[0] as number;
    const t1 = times[1] as number;
    const t2 = times[2] as number;
    let worst = 0;
    for (let i = 0; i < width; i++) {
      const y0 = history[i] as number;
      let guess = y0;
      if (known >= 2) {
        const slope = (y0 - (history[width + i] as number)) / (t0 - t1);
        guess += slope * (atS - t0);
        if (known >= 3) {
          const before = ((history[width + i] as number) - (history[2 * width + i] as number)) / (t1 - t2);
          guess += ((slope - before) / (t0 - t2)) * (atS - t0) * (atS - t1);
        }
      }
      worst = Math.max(worst, Math.abs((now[i] as number) - guess) / (scale[i] as number));
    }
    return worst;
  }

  /**
   * Judges a step just solved and sets the next.
   * @param atS moment it arrived at
   * @param seconds its length
   * @returns whether it stands; otherwise it is to be taken again with `nextS`
   */
  accepts(atS: number, seconds: number): boolean {
    const { cells, now } = this;
    for (let g = 0; g < cells.groups; g++) now[g] = cells.shown.cellV[g] as number;
    now[cells.groups] = cells.currentA;
    now[cells.groups + 1] = cells.tempOf(0);
    const off = this.mismatch(atS);
    const order = Math.min(3, Math.max(1, this.known));
    const factor = off > 0 ? 0.85 * off ** (-1 / order) : LONGEST_GROWTH;
    if (off > 1 && seconds > SHORTEST_S) {
      this.rejections += 1;
      // What will not agree however short has jumped: soon come down to the step that stands whatever is said of it.
      const most = this.rejections > PATIENCE ? 0.25 : 0.8;
      this.nextS = seconds * Math.max(0.2, Math.min(most, factor));
      return false;
    }
    this.rejections = 0;
    this.push(atS);
    const next = Math.min(this.longestS, seconds * Math.min(LONGEST_GROWTH, Math.max(0.5, factor)));
    // Past a jump the steps must not dwindle on: what jumped has jumped.
    this.nextS = off > 1 ? Math.max(next, SHORTEST_S) : next;
    return true;
  }

  /** After equations that could not be solved. */
  shorten(seconds: number): void {
    this.nextS = seconds / 4;
    if (this.nextS < UNSOLVABLE_S)
      throw new Error('The cell model found no solution; the battery’s condition is outside what it knows.');
  }

  /** Begins the record with the present state, at a known moment. */
  begin(atS: number): void {
    const { cells, now } = this;
    for (let g = 0; g < cells.groups; g++) now[g] = cells.shown.cellV[g] as number;
    now[cells.groups] = cells.currentA;
    now[cells.groups + 1] = cells.tempOf(0);
    this.push(atS);
  }

  private push(atS: number): void {
    const { times, history, width } = this;
    times[2] = times[1] as number;
    times[1] = times[0] as number;
    times[0] = atS;
    history.copyWithin(width, 0, 2 * width);
    history.set(this.now, 0);
    this.known = Math.min(3, this.known + 1);
  }
}
