/** A series string of lead-acid cells: what they are, the state they are in, and what they show. */
import { acidConductance } from './conductance.ts';
import type { BatteryParameters, CellParameters } from './parameters.ts';
import { CASE_C, StringState } from './state.ts';

/** Parameters of a cell that are one number. */
type Single = {
  [Name in keyof CellParameters]: CellParameters[Name] extends number ? Name : never;
}[keyof CellParameters];

/**
 * Columns are written out as literals: every string then has the same shape of object, which the solver's
 * speed rests on.
 */
function parameterColumns(groups: number) {
  const column = (): Float64Array => new Float64Array(groups);
  return {
    ratedAh: column(),
    convertibleAh: column(),
    acidG: column(),
    waterG: column(),
    crankingA: column(),
    metalOhm: column(),
    /** As a cell constant: ohms at full charge and 25 °C times the conductivity they were found at. */
    acidOhm: column(),
    filmOhm: column(),
    jointOhm: column(),
    gassingA: column(),
    recombination: column(),
    selfDischargePerDay: column(),
    shortS: column(),
    wetG: column(),
    pulseGain: column(),
  } satisfies Record<Single, Float64Array>;
}

type ParameterColumns = Readonly<ReturnType<typeof parameterColumns>>;

/** One group's row of them, written out as well: strings are filled by the thousand. */
function fillRow(p: ParameterColumns, g: number, cell: CellParameters): void {
  p.ratedAh[g] = cell.ratedAh;
  p.convertibleAh[g] = cell.convertibleAh;
  p.acidG[g] = cell.acidG;
  p.waterG[g] = cell.waterG;
  p.crankingA[g] = cell.crankingA;
  p.metalOhm[g] = cell.metalOhm;
  p.acidOhm[g] = cell.acidOhm * acidConductance(cell.acidG / (cell.acidG + cell.waterG), 25);
  p.filmOhm[g] = cell.filmOhm;
  p.jointOhm[g] = cell.jointOhm;
  p.gassingA[g] = cell.gassingA;
  p.recombination[g] = cell.recombination;
  p.selfDischargePerDay[g] = cell.selfDischargePerDay;
  p.shortS[g] = cell.shortS;
  p.wetG[g] = cell.wetG;
  p.pulseGain[g] = cell.pulseGain;
}

/** What each group shows at the end of a stage. */
function shownColumns(groups: number) {
  return {
    overpotential: new Float64Array(groups),
    mainA: new Float64Array(groups),
    gasA: new Float64Array(groups),
    shortA: new Float64Array(groups),
    cellV: new Float64Array(groups),
    emf: new Float64Array(groups),
    molality: new Float64Array(groups),
    resistance: new Float64Array(groups),
    /** Of the cells above their case, K/s. */
    warming: new Float64Array(groups),
  };
}

type ShownColumns = Readonly<ReturnType<typeof shownColumns>>;
const PARAMETERS = Object.keys(parameterColumns(0)) as readonly Single[];
const SHOWN = Object.keys(shownColumns(0)) as readonly (keyof ShownColumns)[];

/** Set once per stage, see stage.ts. */
export function stageColumns(groups: number) {
  return {
    ratesC: new Float64Array(groups).fill(Number.NaN),
    doubling: new Float64Array(groups),
    exchangeRate: new Float64Array(groups),
    transportRate: new Float64Array(groups),
    dissolving: new Float64Array(groups),
    gasRate: new Float64Array(groups),
    diffusionRate: new Float64Array(groups),
    halfVolt: new Float64Array(groups),
    plainOhm: new Float64Array(groups),
    exchange: new Float64Array(groups),
    transport: new Float64Array(groups),
    softRate: new Float64Array(groups),
    hardRate: new Float64Array(groups),
    gas: new Float64Array(groups),
    ventedShare: new Float64Array(groups),
    lostNow: new Float64Array(groups),
    layeredNow: new Float64Array(groups),
    selfA: new Float64Array(groups),
    hardened: new Float64Array(groups),
    wetted: new Float64Array(groups),
    deficit: new Float64Array(groups),
    deficitPerA: new Float64Array(groups),
    surfaceA: new Float64Array(groups),
    emfPerK: new Float64Array(groups),
    reversedShare: new Float64Array(groups),
    x0: new Float64Array(groups),
    xPerA: new Float64Array(groups),
    main0: new Float64Array(groups),
    mainPerA: new Float64Array(groups),
    surfaceNow: new Float64Array(groups),
    emfPerA: new Float64Array(groups),
    gasPerV: new Float64Array(groups),
    gasPerX: new Float64Array(groups),
    ohmPerA: new Float64Array(groups),
    hardPart: new Float64Array(groups),
  };
}

export type StageColumns = Readonly<ReturnType<typeof stageColumns>>;
const NOT_LENT: StageColumns = stageColumns(0);
const NOTHING_YET: BatteryParameters = {
  construction: 'flooded',
  rating: { construction: 'flooded', duty: 'starter', cells: 0, capacityAh: 0, hourRate: 20 },
  cells: [],
  heatCapacityJPerK: 1,
  heatLossWPerK: 0,
  leadsOhm: 0,
};

/** Strings given back, by their groups: made by the thousand, their columns would be most of the work of making one. */
const idle: CellString[][] = [];

/** A string to fill: one that was given back, or a new one. */
function blank(groups: number): CellString {
  return idle[groups]?.pop() ?? new CellString(groups);
}

export class CellString {
  readonly groups: number;
  /** Cells in each group. */
  readonly counts: Float64Array;
  readonly state: StringState;
  readonly p: ParameterColumns;
  readonly diffusion: readonly [Float64Array, Float64Array, Float64Array];
  readonly canLayer: boolean[] = [];
  /** Charge the plates lost while dry, which turns to sulfate on soaking, Ah; and the heat of soaking, J. */
  readonly birthAh: Float64Array;
  readonly wettingJ: Float64Array;
  readonly shown: ShownColumns;
  /** Where a stage is worked out: lent by the stepper, and meaningless between its steps. */
  stage: StageColumns = NOT_LENT;

  ambientC = 25;
  /** Share of the present current that comes in pulses, 0–1: only an assumed gain makes it matter. */
  pulsing = 0;
  /** Mean square of the current over the square of its mean: the heat of pulses too fast to resolve. */
  squareRatio = 1;
  private made: BatteryParameters = NOTHING_YET;
  private places: readonly number[] = [];
  /** What changes with every pass, in an array: a number in a field of its own is allocated at each change. */
  private readonly live = new Float64Array(6);

  /** Room for so many groups; {@link stringOf} and {@link lend} fill it. */
  constructor(groups: number) {
    const column = (): Float64Array => new Float64Array(groups);
    this.groups = groups;
    this.counts = column();
    this.state = new StringState(groups);
    this.p = parameterColumns(groups);
    this.diffusion = [column(), column(), column()];
    this.birthAh = column();
    this.wettingJ = column();
    this.shown = shownColumns(groups);
  }

  get parameters(): BatteryParameters {
    return this.made;
  }

  /** Group of each cell, from the positive post. */
  get groupOf(): readonly number[] {
    return this.places;
  }

  /** A battery that nothing was done to yet: exhausted, at the warmth of the room, until its state is set. */
  become(parameters: BatteryParameters, groupOf: readonly number[]): void {
    this.made = parameters;
    this.places = groupOf;
    this.counts.fill(0);
    for (let index = groupOf.length - 1; index >= 0; index--) {
      const g = groupOf[index] as number;
      const cell = parameters.cells[index];
      if (!cell) throw new RangeError(`Group ${g} of the string has no cell.`);
      this.counts[g] = (this.counts[g] as number) + 1;
      // The first of a group comes last, and stands for it.
      fillRow(this.p, g, cell);
      for (let mode = 0; mode < 3; mode++)
        (this.diffusion[mode] as Float64Array)[g] = cell.diffusion[mode] as number;
      this.canLayer[g] = cell.canLayer;
    }
    this.birthAh.fill(0);
    this.wettingJ.fill(0);
    this.state.clear();
    for (const name of SHOWN) this.shown[name].fill(0);
    this.live.fill(0);
    this.ambientC = 25;
    this.pulsing = 0;
    this.squareRatio = 1;
  }

  /** The very battery another is, as it stands, with nothing done to it by pulses. */
  copyFrom(other: CellString): void {
    this.made = other.made;
    this.places = other.places;
    this.counts.set(other.counts);
    for (const name of PARAMETERS) this.p[name].set(other.p[name]);
    for (let mode = 0; mode < 3; mode++)
      (this.diffusion[mode] as Float64Array).set(other.diffusion[mode] as Float64Array);
    for (let g = 0; g < this.groups; g++) this.canLayer[g] = other.canLayer[g] as boolean;
    this.birthAh.set(other.birthAh);
    this.wettingJ.set(other.wettingJ);
    this.state.copyFrom(other.state);
    for (const name of SHOWN) this.shown[name].set(other.shown[name]);
    this.live.set(other.live);
    this.ambientC = other.ambientC;
    this.pulsing = 0;
    this.squareRatio = 1;
  }

  /** Terminal current, charging positive, A. */
  get currentA(): number {
    return this.live[0] as number;
  }

  set currentA(amps: number) {
    this.live[0] = amps;
  }

  /** Terminal voltage, and its answer to current, as the last pass of a stage found them. */
  get terminalV(): number {
    return this.live[1] as number;
  }

  set terminalV(volts: number) {
    this.live[1] = volts;
  }

  get slopeOhm(): number {
    return this.live[2] as number;
  }

  set slopeOhm(ohms: number) {
    this.live[2] = ohms;
  }

  /** Warming of the case as of the last stage, K/s. */
  get warmingKPerS(): number {
    return this.live[3] as number;
  }

  set warmingKPerS(rate: number) {
    this.live[3] = rate;
  }

  /** The largest move of the last pass, as a voltage; see newton.ts. */
  get moved(): number {
    return this.live[4] as number;
  }

  set moved(volts: number) {
    this.live[4] = volts;
  }

  /** How far the warmth the last stage was solved at was off, K. */
  get warmthOff(): number {
    return this.live[5] as number;
  }

  set warmthOff(kelvin: number) {
    this.live[5] = kelvin;
  }

  /** Temperature of a group's cells, °C. */
  tempOf(group: number): number {
    return (this.state.shared[CASE_C] as number) + (this.state.excess[group] as number);
  }
}

/**
 * A string of cells.
 * @param groupOf group of each cell, numbered from 0; cells of a group share parameters and state
 */
export function stringOf(parameters: BatteryParameters, groupOf: readonly number[]): CellString {
  const string = blank(Math.max(...groupOf) + 1);
  string.become(parameters, groupOf);
  return string;
}

/** The same battery once more, as it stands, to do something to: {@link giveBack} it when that is done. */
export function lend(like: CellString): CellString {
  const string = blank(like.groups);
  string.copyFrom(like);
  return string;
}

/** What nobody holds any more: its room is filled anew, so whoever gives it back must not look at it again. */
export function giveBack(string: CellString): void {
  (idle[string.groups] ??= []).push(string);
}
