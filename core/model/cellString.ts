/** A series string of lead-acid cells: what they are, the state they are in, and what they show. */
import { acidConductance } from './conductance.ts';
import type { BatteryParameters, CellParameters } from './parameters.ts';
import { CASE_C, StringState } from './state.ts';

/**
 * Columns are written out as literals: every string then has the same shape of object, which the solver's
 * speed rests on.
 */
function parameterColumns(first: readonly CellParameters[]) {
  const of = (read: (cell: CellParameters) => number): Float64Array => Float64Array.from(first, read);
  return {
    ratedAh: of((cell) => cell.ratedAh),
    convertibleAh: of((cell) => cell.convertibleAh),
    acidG: of((cell) => cell.acidG),
    waterG: of((cell) => cell.waterG),
    crankingA: of((cell) => cell.crankingA),
    metalOhm: of((cell) => cell.metalOhm),
    /** As a cell constant: ohms at full charge and 25 °C times the conductivity they were found at. */
    acidOhm: of((cell) => cell.acidOhm * acidConductance(cell.acidG / (cell.acidG + cell.waterG), 25)),
    filmOhm: of((cell) => cell.filmOhm),
    jointOhm: of((cell) => cell.jointOhm),
    gassingA: of((cell) => cell.gassingA),
    recombination: of((cell) => cell.recombination),
    selfDischargePerDay: of((cell) => cell.selfDischargePerDay),
    shortS: of((cell) => cell.shortS),
    wetG: of((cell) => cell.wetG),
    pulseGain: of((cell) => cell.pulseGain),
  };
}

/** What each group shows at the end of a stage. */
function shownColumns(groups: number) {
  const column = (): Float64Array => new Float64Array(groups);
  return {
    overpotential: column(),
    mainA: column(),
    gasA: column(),
    shortA: column(),
    cellV: column(),
    emf: column(),
    molality: column(),
    resistance: column(),
  };
}

/** Set once per stage, see stage.ts. */
function stageColumns(groups: number) {
  const column = (): Float64Array => new Float64Array(groups);
  return {
    warming: column(),
    ratesC: column().fill(Number.NaN),
    doubling: column(),
    exchangeRate: column(),
    transportRate: column(),
    dissolving: column(),
    gasRate: column(),
    diffusionRate: column(),
    halfVolt: column(),
    plainOhm: column(),
    exchange: column(),
    transport: column(),
    softRate: column(),
    hardRate: column(),
    gas: column(),
    ventedShare: column(),
    lostNow: column(),
    layeredNow: column(),
    selfA: column(),
    hardened: column(),
    wetted: column(),
    deficit: column(),
    deficitPerA: column(),
    surfaceA: column(),
    emfPerK: column(),
    reversedShare: column(),
    x0: column(),
    xPerA: column(),
    main0: column(),
    mainPerA: column(),
    surfaceNow: column(),
    emfPerA: column(),
    gasPerV: column(),
    gasPerX: column(),
    ohmPerA: column(),
    hardPart: column(),
  };
}

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
  readonly stage: Readonly<ReturnType<typeof stageColumns>>;

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
    const of = (read: (cell: CellParameters) => number): Float64Array => Float64Array.from(first, read);
    this.parameters = parameters;
    this.groups = groups;
    this.groupOf = groupOf;
    this.counts = Float64Array.from(first, (_, group) => groupOf.filter((each) => each === group).length);
    this.state = new StringState(groups);
    this.p = parameterColumns(first);
    this.diffusion = [
      of((cell) => cell.diffusion[0]),
      of((cell) => cell.diffusion[1]),
      of((cell) => cell.diffusion[2]),
    ];
    this.canLayer = first.map((cell) => cell.canLayer);
    this.birthAh = new Float64Array(groups);
    this.wettingJ = new Float64Array(groups);
    this.shown = shownColumns(groups);
    this.stage = stageColumns(groups);
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
