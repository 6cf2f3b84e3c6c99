/** A series string of lead-acid cells: what they are, the state they are in, and what they show. */
import { acidConductance } from './conductance.ts';
import type { BatteryParameters, CellParameters } from './parameters.ts';
import { CASE_C, StringState } from './state.ts';

/** Parameters of a cell that are one number. */
type Single = {
  [Name in keyof CellParameters]: CellParameters[Name] extends number ? Name : never;
}[keyof CellParameters];

/** Filled by a plain loop: strings are made by the thousand, and a column from a mapping costs ten times as much. */
function columnOf(first: readonly CellParameters[], name: Single): Float64Array {
  const column = new Float64Array(first.length);
  for (let g = 0; g < column.length; g++) column[g] = (first[g] as CellParameters)[name];
  return column;
}

function acidConstants(first: readonly CellParameters[]): Float64Array {
  const column = columnOf(first, 'acidOhm');
  first.forEach(({ acidG, waterG }, g) => {
    column[g] = (column[g] as number) * acidConductance(acidG / (acidG + waterG), 25);
  });
  return column;
}

/** By mode of diffusion, the slowest first. */
function diffusionColumn(first: readonly CellParameters[], mode: 0 | 1 | 2): Float64Array {
  const column = new Float64Array(first.length);
  first.forEach(({ diffusion }, g) => (column[g] = diffusion[mode]));
  return column;
}

/**
 * Columns are written out as literals: every string then has the same shape of object, which the solver's
 * speed rests on.
 */
function parameterColumns(first: readonly CellParameters[]) {
  return {
    ratedAh: columnOf(first, 'ratedAh'),
    convertibleAh: columnOf(first, 'convertibleAh'),
    acidG: columnOf(first, 'acidG'),
    waterG: columnOf(first, 'waterG'),
    crankingA: columnOf(first, 'crankingA'),
    metalOhm: columnOf(first, 'metalOhm'),
    /** As a cell constant: ohms at full charge and 25 °C times the conductivity they were found at. */
    acidOhm: acidConstants(first),
    filmOhm: columnOf(first, 'filmOhm'),
    jointOhm: columnOf(first, 'jointOhm'),
    gassingA: columnOf(first, 'gassingA'),
    recombination: columnOf(first, 'recombination'),
    selfDischargePerDay: columnOf(first, 'selfDischargePerDay'),
    shortS: columnOf(first, 'shortS'),
    wetG: columnOf(first, 'wetG'),
    pulseGain: columnOf(first, 'pulseGain'),
  };
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

export class CellString {
  readonly parameters: BatteryParameters;
  readonly groups: number;
  /** Cells in each group. */
  readonly counts: Float64Array;
  /** Group of each cell, from the positive post. */
  readonly groupOf: readonly number[];
  readonly state: StringState;
  readonly p: Readonly<ReturnType<typeof parameterColumns>>;
  readonly diffusion: readonly [Float64Array, Float64Array, Float64Array];
  readonly canLayer: readonly boolean[];
  /** Charge the plates lost while dry, which turns to sulfate on soaking, Ah; and the heat of soaking, J. */
  readonly birthAh: Float64Array;
  readonly wettingJ: Float64Array;
  readonly shown: Readonly<ReturnType<typeof shownColumns>>;
  /** Where a stage is worked out: lent by the stepper, and meaningless between its steps. */
  stage: StageColumns;

  ambientC = 25;
  /** Share of the present current that comes in pulses, 0–1: only an assumed gain makes it matter. */
  pulsing = 0;
  /** Mean square of the current over the square of its mean: the heat of pulses too fast to resolve. */
  squareRatio = 1;
  /** What changes with every pass, in an array: a number in a field of its own is allocated at each change. */
  private readonly live = new Float64Array(6);

  /** @param groupOf group of each cell; cells of a group share parameters and state */
  constructor(parameters: BatteryParameters, groupOf: readonly number[]) {
    const groups = Math.max(...groupOf) + 1;
    const first = Array.from({ length: groups }, (_, group) => {
      const cell = parameters.cells[groupOf.indexOf(group)];
      if (!cell) throw new RangeError(`Group ${group} of the string has no cell.`);
      return cell;
    });
    this.parameters = parameters;
    this.groups = groups;
    this.groupOf = groupOf;
    this.counts = new Float64Array(groups);
    for (const group of groupOf) this.counts[group] = (this.counts[group] as number) + 1;
    this.state = new StringState(groups);
    this.p = parameterColumns(first);
    this.diffusion = [diffusionColumn(first, 0), diffusionColumn(first, 1), diffusionColumn(first, 2)];
    this.canLayer = first.map((cell) => cell.canLayer);
    this.birthAh = new Float64Array(groups);
    this.wettingJ = new Float64Array(groups);
    this.shown = shownColumns(groups);
    this.stage = NOT_LENT;
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

  /** The largest move of the last pass, as a voltage; see stage.ts. */
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
