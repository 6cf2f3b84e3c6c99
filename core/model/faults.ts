/** What can be wrong with a battery, laid over sound parameters and conditions. */
import { batteryOf, SOUND, type CellCondition } from './battery.ts';
import type { CellString } from './cellString.ts';
import type { BatteryParameters, CellParameters } from './parameters.ts';

/** `cell` counts from the positive post, from 1. */
export type Fault =
  | { readonly kind: 'short'; readonly cell: number; readonly ohms: number }
  | { readonly kind: 'open'; readonly cell: number }
  /** One cell holds only this share of its capacity. */
  | { readonly kind: 'weak'; readonly cell: number; readonly share: number }
  /** All cells hold only this share: active mass shed or worn. */
  | { readonly kind: 'worn'; readonly share: number }
  /** Share of the water gone, in all cells or one. */
  | { readonly kind: 'dry'; readonly share: number; readonly cell?: number }
  /** Share of the acid sunk from the upper half to the lower. */
  | { readonly kind: 'layered'; readonly share: number }
  | { readonly kind: 'joint'; readonly cell: number; readonly ohms: number }
  /** One cell charged the wrong way round; what it has left of its capacity once that is undone. */
  | { readonly kind: 'reversed'; readonly cell: number; readonly left?: number }
  /** One cell that lacks charge beside the others, share of the rating; and how much of that has grown hard. */
  | { readonly kind: 'low'; readonly cell: number; readonly lacks: number; readonly hardShare: number }
  | { readonly kind: 'contaminated' };

export interface Making {
  readonly parameters: BatteryParameters;
  /** How all cells stand before faults are laid over them. */
  readonly condition?: CellCondition;
  readonly faults?: readonly Fault[];
  readonly tempC?: number;
}

/** A joint this poor carries nothing a charger could feel, Ω. */
const OPEN_OHM = 1e5;
/** Metals from water or tools lower the hydrogen overvoltage: times faster (handbook 4: up to 1 % a day). */
const CONTAMINATED_SELF = 12;
const CONTAMINATED_GAS = 3;
/** A short below this has emptied its cell long ago, Ω. */
const DEAD_SHORT_OHM = 0.2;
/** A reversed cell's wrong charge, as a share of capacity. */
const REVERSED_SHARE = 0.04;
/** A share of capacity shed takes this share of cranking with it. */
const CRANKING_WITH_CAPACITY = 0.6;

interface Cell {
  readonly parameters: CellParameters;
  readonly condition: CellCondition;
}

function shrunk(parameters: CellParameters, share: number): CellParameters {
  const cranking = 1 - CRANKING_WITH_CAPACITY * (1 - share);
  return {
    ...parameters,
    convertibleAh: parameters.convertibleAh * share,
    crankingA: parameters.crankingA * cranking,
    // Less mass is less surface: a conductance tester sees it too.
    metalOhm: parameters.metalOhm / cranking,
    acidOhm: parameters.acidOhm / cranking,
  };
}

/** Charge of a cell with nothing left at all, below the zero of its rating. */
function exhausted({ convertibleAh, ratedAh }: CellParameters): number {
  return 1 - Math.max(1, convertibleAh / ratedAh);
}

function withFault({ parameters, condition }: Cell, fault: Fault): Cell {
  switch (fault.kind) {
    case 'short':
      return {
        parameters: { ...parameters, shortS: 1 / fault.ohms },
        condition: {
          ...condition,
          charge: fault.ohms < DEAD_SHORT_OHM ? exhausted(parameters) : condition.charge,
        },
      };
    case 'open':
      return { parameters: { ...parameters, jointOhm: OPEN_OHM }, condition };
    case 'weak':
    case 'worn':
      return { parameters: shrunk(parameters, fault.share), condition };
    case 'dry':
      return { parameters, condition: { ...condition, waterLostG: parameters.waterG * fault.share } };
    case 'layered':
      return { parameters, condition: { ...condition, layering: fault.share } };
    case 'joint':
      return { parameters: { ...parameters, jointOhm: fault.ohms }, condition };
    case 'low': {
      const missing = 1 - condition.charge;
      const hard = missing * condition.hardShare + fault.lacks * fault.hardShare;
      const charge = condition.charge - fault.lacks;
      return { parameters, condition: { ...condition, charge, hardShare: hard / (1 - charge) } };
    }
    case 'reversed':
      return {
        parameters: shrunk(parameters, fault.left ?? 1),
        condition: {
          ...condition,
          charge: exhausted(parameters),
          reversedAh: parameters.ratedAh * REVERSED_SHARE,
        },
      };
    case 'contaminated':
      return {
        parameters: {
          ...parameters,
          selfDischargePerDay: parameters.selfDischargePerDay * CONTAMINATED_SELF,
          gassingA: parameters.gassingA * CONTAMINATED_GAS,
        },
        condition,
      };
  }
}

/**
 * A battery on the model's bench, faults and all.
 * @throws RangeError when a fault names a cell the battery does not have
 */
export function makeBattery({ parameters, condition = SOUND, faults = [], tempC = 25 }: Making): CellString {
  const count = parameters.cells.length;
  for (const fault of faults)
    if ('cell' in fault && fault.cell !== undefined && !(fault.cell >= 1 && fault.cell <= count))
      throw new RangeError(`This battery has cells 1 to ${count}; there is no cell ${fault.cell}.`);
  // Cells stay the same object until a fault of their own parts them, so that alike cells are solved once.
  const common = new Map<CellParameters, Cell>();
  const cells = parameters.cells.map((each, index) => {
    const start = common.get(each) ?? { parameters: each, condition };
    common.set(each, start);
    return { start, index };
  });
  const forAll = faults.filter((fault) => !('cell' in fault) || fault.cell === undefined);
  const spread = new Map<Cell, Cell>();
  const made = cells.map(({ start, index }) => {
    const shared = spread.get(start) ?? forAll.reduce(withFault, start);
    spread.set(start, shared);
    const own = faults.filter((fault) => 'cell' in fault && fault.cell === index + 1);
    return own.reduce(withFault, shared);
  });
  return batteryOf(
    { ...parameters, cells: made.map((cell) => cell.parameters) },
    made.map((cell) => cell.condition),
    tempC,
  );
}
