/** What a recovered battery is good for: the lower of capacity and cranking, and only what was measured (handbook 3.6). */
import { capacityFromReserve } from '../reckoner/testing.ts';
import type { BatteryType } from '../battery/types.ts';
import { twentyHourAh } from '../model/parameters.ts';
import type { StepValues } from './events.ts';

export type Grade = 'A' | 'A pending' | 'B' | 'C' | 'R';

export interface Proof {
  /** Measured share of the rating; undefined where it was not measured. */
  readonly capacityShare?: number;
  readonly crankingShare?: number;
  /** Whether it held over a day, and over a week; undefined where nobody looked. */
  readonly heldDay?: boolean;
  readonly heldWeek?: boolean;
  /** A load test that collapsed condemns whatever the rest says. */
  readonly hasCollapsed?: boolean;
}

export interface Graded {
  readonly grade: Grade;
  /** Why, in a sentence. */
  readonly because: string;
  /** What it may be used for. */
  readonly use: string;
}

const USES: Record<Grade, string> = {
  A: 'any non-critical duty, as used',
  'A pending': 'nothing yet: a week’s hold decides between A and less',
  B: 'a vehicle driven daily, or light stationary duty; no warranty',
  C: 'bench donor, shop loaner, lamp duty',
  R: 'the recycler',
};

const percent = (share: number): string => `${(share * 100).toFixed(0)} %`;

function shareGrade(share: number): 'A' | 'B' | 'C' | 'R' {
  if (share >= 0.8) return 'A';
  if (share >= 0.6) return 'B';
  return share >= 0.4 ? 'C' : 'R';
}

const graded = (grade: Grade, because: string): Graded => ({ grade, because, use: USES[grade] });

/** Grades a battery by what was measured of it; what was not is never assumed. */
export function gradeOf(proof: Proof): Graded {
  const { capacityShare, crankingShare, heldDay, heldWeek, hasCollapsed } = proof;
  if (hasCollapsed === true) return graded('R', 'It collapsed under load although its voltage looked fine.');
  if (heldDay === false || heldWeek === false)
    return graded('R', 'It lost more in the hold than self-discharge takes: an internal leak.');
  const measured = [
    ...(capacityShare === undefined ? [] : [['capacity', capacityShare] as const]),
    ...(crankingShare === undefined ? [] : [['cranking', crankingShare] as const]),
  ];
  const lowest = measured.reduce<readonly [string, number] | undefined>(
    (low, one) => (low === undefined || one[1] < low[1] ? one : low),
    undefined,
  );
  if (!lowest)
    return graded('C', 'Neither capacity nor cranking was measured; no better grade can be given.');
  const [name, share] = lowest;
  const by = `${name === 'capacity' ? 'Capacity' : 'Cranking'} is ${percent(share)} of the rating`;
  const grade = shareGrade(share);
  if (capacityShare === undefined && grade === 'A')
    return graded('B', `${by}; capacity was not measured, so B is the most.`);
  if (grade !== 'A') return graded(grade, `${by}.`);
  if (heldWeek === true) return graded('A', `${by}, and it held for a week.`);
  return graded('A pending', `${by}; the week’s hold is still to come.`);
}

const numberIn = (values: StepValues, id: string): number | undefined => {
  const value = values[id];
  return typeof value === 'number' ? value : undefined;
};

/** Peukert's exponent where nothing better is known (handbook 7). */
const EXPONENT = { agm: 1.12, flooded: 1.2 } as const;
/** Capacity at C/10 to C/20 falls by this share per kelvin below 25 °C (handbook 7). */
const CAPACITY_PER_K = 0.008;

/**
 * Capacity as a share of the rating, from minutes at 25 A or Ah drawn at C/20, corrected to 25 °C.
 * @returns undefined when it was not measured
 */
export function capacityShareOf(
  values: StepValues,
  type: BatteryType,
  tempC: number | undefined,
): number | undefined {
  const warm = 1 - CAPACITY_PER_K * (25 - (tempC ?? 25));
  const ratedAh = twentyHourAh(type);
  const reserveMin = numberIn(values, 'reserveMin');
  const drawnAh = numberIn(values, 'drawnAh');
  const k = EXPONENT[type.kind === 'flooded-dry-charged' ? 'flooded' : 'agm'];
  if (values['method'] === 'reserve' && reserveMin !== undefined)
    return capacityFromReserve(reserveMin, k) / warm / ratedAh;
  if (values['method'] === 'slow' && drawnAh !== undefined) return drawnAh / warm / ratedAh;
  return undefined;
}

/** Current of a capacity test by its method, A (handbook 3.2). */
export function capacityTestA(method: unknown, { capacityAh }: Pick<BatteryType, 'capacityAh'>): number {
  return method === 'slow' ? capacityAh / 20 : 25;
}

/** What a capacity test of so many minutes says, by its method, as {@link capacityShareOf} reads it. */
export function capacityValues(method: string, minutes: number, type: BatteryType): StepValues {
  return method === 'slow'
    ? { method, drawnAh: (capacityTestA(method, type) * minutes) / 60 }
    : { method: 'reserve', reserveMin: minutes };
}

/** What a day, or a week, may take of the rested voltage before it is a leak: 12 V, at bench warmth. */
const HOLD_LOSS_V = { day: 0.05, week: 0.1 } as const;

/** Whether a battery held: the voltage it rested at, and what it shows after a day or a week. */
export function held(
  before: number | undefined,
  after: number | undefined,
  over: keyof typeof HOLD_LOSS_V,
  cells: number,
): boolean | undefined {
  if (before === undefined || after === undefined) return undefined;
  return before - after <= (HOLD_LOSS_V[over] * cells) / 6 + 1e-9;
}
