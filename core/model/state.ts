/** The state of a string of cells, held column by column so that a step touches plain numbers only. */

/** A column: one number per group of alike cells. */
type Column = Float64Array;

/** Reads an element that is there by construction; the compiler cannot know. */
export function get(column: Float64Array, index: number): number {
  return column[index] as number;
}

const CELL_COLUMNS = 15;
const SHARED = 6;
/** Bytes of a number. */
const WIDE = Float64Array.BYTES_PER_ELEMENT;

/**
 * Per group: sulfate and water, acid held back in three modes, surface charge, film, layers, warmth, soak,
 * reversal, and counters of where charge went. Shared: case temperature and the energy account.
 */
export class StringState {
  readonly groups: number;
  private readonly all: Float64Array;
  /** Lead sulfate that charges back easily, Ah. */
  readonly soft: Column;
  /** Lead sulfate grown hard, Ah. */
  readonly hard: Column;
  /** Water gone as gas, g. */
  readonly lostG: Column;
  /** Acid missing at the plates, g, by diffusion mode. */
  readonly slow: Column;
  readonly middle: Column;
  readonly fast: Column;
  /** Surface potential, V. */
  readonly surface: Column;
  /** Film on the plates, 0–1. */
  readonly film: Column;
  /** Acid sunk from the upper half to the lower, g. */
  readonly layered: Column;
  /** Warmth above the case, K. */
  readonly excess: Column;
  /** Share of the plates not yet wetted, 0–1. */
  readonly dry: Column;
  /** Charge held the wrong way round, Ah. */
  readonly reversed: Column;
  /** Counters, Ah: spent on gas, through a short, by standing. */
  readonly gasAh: Column;
  readonly shortAh: Column;
  readonly selfAh: Column;
  /** Case temperature °C; charge in Ah; energy in, lost to the room, stored, gone with gas, J. */
  readonly shared: Column;

  constructor(groups: number) {
    this.groups = groups;
    this.all = new Float64Array(groups * CELL_COLUMNS + SHARED);
    const { buffer } = this.all;
    const column = (index: number): Column => new Float64Array(buffer, index * groups * WIDE, groups);
    this.soft = column(0);
    this.hard = column(1);
    this.lostG = column(2);
    this.slow = column(3);
    this.middle = column(4);
    this.fast = column(5);
    this.surface = column(6);
    this.film = column(7);
    this.layered = column(8);
    this.excess = column(9);
    this.dry = column(10);
    this.reversed = column(11);
    this.gasAh = column(12);
    this.shortAh = column(13);
    this.selfAh = column(14);
    this.shared = new Float64Array(buffer, groups * CELL_COLUMNS * WIDE, SHARED);
  }

  clear(): void {
    this.all.fill(0);
  }

  copyFrom(other: StringState): void {
    this.all.set(other.all);
  }

  /** A place to keep a state in: numbers without their columns, which are dear to make. */
  keeper(): Float64Array {
    return new Float64Array(this.all.length);
  }

  keepIn(keeper: Float64Array): void {
    keeper.set(this.all);
  }

  takeBack(keeper: Float64Array): void {
    this.all.set(keeper);
  }

  /** this = from + factor · (to − from), for the next stage of a step; `from` as it was kept. */
  extrapolate(from: Float64Array, to: StringState, factor: number): void {
    const { all } = this;
    for (let i = 0; i < all.length; i++) {
      const start = from[i] as number;
      all[i] = start + factor * ((to.all[i] as number) - start);
    }
  }

  /** Plain numbers, for keeping; {@link restore} takes them back. */
  values(): number[] {
    return Array.from(this.all);
  }

  restore(values: readonly number[]): void {
    if (values.length !== this.all.length)
      throw new RangeError(`A kept state of ${this.all.length} numbers is needed; ${values.length} came.`);
    this.all.set(values);
  }
}

/** Places in {@link StringState.shared}. */
export const CASE_C = 0;
export const CHARGE_IN_AH = 1;
export const ENERGY_IN_J = 2;
export const HEAT_OUT_J = 3;
export const STORED_J = 4;
export const GAS_J = 5;
