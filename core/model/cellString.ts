/** A series string of lead-acid cells: what they are, the state they are in, and what they show. */
import { acidConductance } from './conductance.ts';
import type { BatteryParameters, CellParameters } from './parameters.ts';
import { CASE_C, get, StringState } from './state.ts';

const NUMERIC = [
  'ratedAh',
  'convertibleAh',
  'acidG',
  'waterG',
  'crankingA',
  'metalOhm',
  'acidOhm',
  'filmOhm',
  'jointOhm',
  'gassingA',
  'recombination',
  'selfDischargePerDay',
  'shortS',
  'wetG',
  'pulseGain',
] as const satisfies readonly (keyof CellParameters)[];

type Columns<Name extends string> = Readonly<Record<Name, Float64Array>>;

function columns<Name extends string>(
  names: readonly Name[],
  groups: number,
  fill: (name: Name, group: number) => number = () => 0,
): Columns<Name> {
  const made = names.map((name) => [name, Float64Array.from({ length: groups }, (_, g) => fill(name, g))]);
  return Object.fromEntries(made) as Columns<Name>;
}

/** What each group shows at the end of a stage. */
const SHOWN = ['overpotential', 'mainA', 'gasA', 'shortA', 'cellV', 'emf', 'molality', 'resistance'] as const;
/** Set once per stage, see stage.ts. */
const STAGE = [
  'warming',
  'ratesC',
  'doubling',
  'exchangeRate',
  'transportRate',
  'dissolving',
  'gasRate',
  'diffusionRate',
  'halfVolt',
  'plainOhm',
  'exchange',
  'transport',
  'softRate',
  'hardRate',
  'gas',
  'ventedShare',
  'lostNow',
  'layeredNow',
  'selfA',
  'hardened',
  'wetted',
  'deficit',
  'deficitPerA',
  'surfaceA',
  'emfPerK',
  'reversedShare',
  'x0',
  'xPerA',
  'main0',
  'mainPerA',
  'surfaceNow',
  'emfPerA',
  'gasPerV',
  'gasPerX',
  'ohmPerA',
  'hardPart',
] as const;

export class CellString {
  readonly parameters: BatteryParameters;
  readonly groups: number;
  /** Cells in each group. */
  readonly counts: Float64Array;
  /** Group of each cell, from the positive post. */
  readonly groupOf: readonly number[];
  readonly state: StringState;
  readonly p: Columns<(typeof NUMERIC)[number]>;
  readonly diffusion: readonly [Float64Array, Float64Array, Float64Array];
  readonly canLayer: readonly boolean[];
  /** Charge the plates lost while dry, which turns to sulfate on soaking, Ah; and the heat of soaking, J. */
  readonly birthAh: Float64Array;
  readonly wettingJ: Float64Array;
  readonly shown: Columns<(typeof SHOWN)[number]>;
  readonly stage: Columns<(typeof STAGE)[number]>;

  ambientC = 25;
  /** Share of the present current that comes in pulses, 0–1: only an assumed gain makes it matter. */
  pulsing = 0;
  /** Mean square of the current over the square of its mean: the heat of pulses too fast to resolve. */
  squareRatio = 1;
  /** Terminal current, charging positive, A. */
  currentA = 0;
  /** Terminal voltage, and its answer to current, as the last pass of a stage found them. */
  terminalV = 0;
  slopeOhm = 0;
  /** Warming of the case as of the last stage, K/s. */
  warmingKPerS = 0;

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
    this.p = {
      ...columns(NUMERIC, groups, (name, group) => first[group]?.[name] ?? 0),
      // As a cell constant: ohms at full charge and 25 °C times the conductivity they were found at.
      acidOhm: of((cell) => cell.acidOhm * acidConductance(cell.acidG / (cell.acidG + cell.waterG), 25)),
    };
    this.diffusion = [
      of((cell) => cell.diffusion[0]),
      of((cell) => cell.diffusion[1]),
      of((cell) => cell.diffusion[2]),
    ];
    this.canLayer = first.map((cell) => cell.canLayer);
    this.birthAh = new Float64Array(groups);
    this.wettingJ = new Float64Array(groups);
    this.shown = columns(SHOWN, groups);
    this.stage = columns(STAGE, groups);
    this.stage.ratesC.fill(Number.NaN);
  }

  /** Temperature of a group's cells, °C. */
  tempOf(group: number): number {
    return get(this.state.shared, CASE_C) + get(this.state.excess, group);
  }
}
