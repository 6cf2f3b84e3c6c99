/** What a recovered battery is good for: the lower of capacity and cranking, and only what was measured (handbook 3.6). */
import { percentText } from '../units/percent.ts';
import { capacityAt, capacityFromRun, classOf, RESERVE_A } from '../battery/dischargeRates.ts';
import type { BatteryType } from '../battery/types.ts';
import type { StepValues } from '../units/values.ts';
import type { Hold } from './hold.ts';
import { numberOf } from '../units/values.ts';

export type Grade = 'A' | 'A pending' | 'B' | 'C' | 'R';

export interface Proof {
  /** A starter has a cranking rating; deep-cycle and standby batteries have none, and none is asked of them. */
  readonly isRated: boolean;
  /** Measured share of the rating; undefined where it was not measured. */
  readonly capacityShare?: number;
  readonly crankingShare?: number;
  /** A load test is passed or failed; it is no figure. */
  readonly loadPassed?: boolean;
  /** Resistance against the same battery's own baseline, 1 as when it was first full. */
  readonly resistanceRatio?: number;
  /** Over a day, and over a week; undefined where nobody looked. */
  readonly day?: Hold['verdict'];
  readonly week?: Hold['verdict'];
  /** Lost in the week by one cell, had it lost all of it: a soft short hides in what its kind may lose. */
  readonly oneCellLost?: number;
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

/** More than this above its own baseline wants a discharge test (handbook 3.2); without one it is not first class. */
const RESISTANCE_RISEN = 1.3;
/** An A holds this share of its rating when its week is over, even if one cell alone lost what was lost. */
const A_HOLDS = 0.75;
const ORDER: readonly Grade[] = ['A', 'A pending', 'B', 'C', 'R'];

function shareGrade(share: number): 'A' | 'B' | 'C' | 'R' {
  if (share >= 0.8) return 'A';
  if (share >= 0.6) return 'B';
  return share >= 0.4 ? 'C' : 'R';
}

const graded = (grade: Grade, because: string): Graded => ({ grade, because, use: USES[grade] });

/** Every reason for a grade and none better; the lowest stands. */
function reasonsFor(proof: Proof): Graded[] {
  const { isRated, capacityShare, crankingShare, loadPassed, resistanceRatio, oneCellLost, day, week } =
    proof;
  const reasons: Graded[] = [];
  const isAtMost = (grade: Grade, because: string): void => void reasons.push(graded(grade, because));
  if (capacityShare !== undefined)
    isAtMost(shareGrade(capacityShare), `Capacity is ${percentText(capacityShare)} of the rating.`);
  if (crankingShare !== undefined)
    isAtMost(shareGrade(crankingShare), `Cranking is ${percentText(crankingShare)} of the rating.`);
  if (resistanceRatio !== undefined && resistanceRatio > RESISTANCE_RISEN)
    isAtMost('B', `Its resistance is ${percentText(resistanceRatio)} of its own baseline.`);
  if (loadPassed === false) isAtMost('C', 'It failed its load test.');
  const isTested = crankingShare !== undefined || loadPassed !== undefined;
  if (capacityShare === undefined && !isTested)
    isAtMost(
      'C',
      isRated
        ? 'Neither capacity nor cranking was measured; no better grade can be given.'
        : 'Capacity was not measured; it has no other rating to be graded by.',
    );
  else if (capacityShare === undefined) isAtMost('B', 'Capacity was not measured, so B is the most.');
  else if (isRated && crankingShare === undefined)
    isAtMost(
      'B',
      loadPassed === undefined
        ? 'Cranking was not measured, so B is the most for a starter.'
        : 'A load test is passed or failed and gives no cranking figure, so B is the most for a starter.',
    );
  const kept = (capacityShare ?? 0) - (oneCellLost ?? 0);
  if (capacityShare !== undefined && oneCellLost !== undefined && kept < A_HOLDS)
    isAtMost(
      'B',
      `Had one cell alone lost what the week took, ${percentText(kept)} of the rating was left: hold it again before it counts as A.`,
    );
  // The week answers a doubtful day.
  if ((week ?? day) === 'doubtful')
    isAtMost('B', 'The hold is doubtful: charge it, rest it and hold it again before it goes to anyone.');
  if (day === undefined && week === undefined) isAtMost('B', 'It was not held, so B is the most.');
  else if (week === undefined) isAtMost('A pending', 'The week’s hold is still to come.');
  return reasons;
}

/** Grades a battery by what was measured of it; what was not is never assumed. */
export function gradeOf(proof: Proof): Graded {
  if (proof.hasCollapsed === true)
    return graded('R', 'It collapsed under load although its voltage looked fine.');
  if (proof.day === 'leak' || proof.week === 'leak')
    return graded('R', 'It lost more in the hold than self-discharge takes: an internal leak.');
  const lowest = reasonsFor(proof).reduce<Graded | undefined>(
    (low, one) => (low === undefined || ORDER.indexOf(one.grade) > ORDER.indexOf(low.grade) ? one : low),
    undefined,
  );
  if (lowest && lowest.grade !== 'A') return lowest;
  const shares = [proof.capacityShare, proof.crankingShare].filter((one) => one !== undefined);
  return graded('A', `${percentText(Math.min(...shares))} of the rating or more, and it held for a week.`);
}

/** Capacity falls by this share per kelvin below 25 °C, slow and fast (IEC 60896; handbook 7). */
const SLOW_PER_K = 0.006;
const FAST_PER_K = 0.01;
const SLOW_FROM_MIN = 180;

/** How capacity may be drawn, by the method's id (handbook 3.2). */
export const CAPACITY_METHODS = {
  reserve: '25 A, minutes',
  slow: 'C/20, ampere-hours',
  tenth: 'C/10, ampere-hours',
} as const;
export type CapacityMethod = keyof typeof CAPACITY_METHODS;

/** Below this 25 A is no capacity test but a load test: 2.8 C on 9 Ah. */
const RESERVE_FROM_AH = 40;

/** The methods that suit a size, the usual first. */
export function capacityMethods({ capacityAh }: Pick<BatteryType, 'capacityAh'>): readonly CapacityMethod[] {
  return capacityAh >= RESERVE_FROM_AH ? ['reserve', 'slow', 'tenth'] : ['slow', 'tenth'];
}

/** Those of them that draw no more than a load can. @param mostA of the load, A */
export const capacityMethodsWithin = (type: BatteryType, mostA: number): readonly CapacityMethod[] =>
  capacityMethods(type).filter((method) => capacityTestA(method, type) <= mostA);

/**
 * Capacity as a share of the rating, from minutes at 25 A or Ah drawn at C/20 or C/10, corrected to 25 °C.
 * @returns undefined when it was not measured
 */
export function capacityShareOf(
  values: StepValues,
  type: BatteryType,
  tempC: number | undefined,
): number | undefined {
  const reserveMin = numberOf(values['reserveMin']);
  const drawnAh = numberOf(values['drawnAh']);
  const { method } = values;
  const isSlow = method !== 'reserve' || (reserveMin ?? 0) >= SLOW_FROM_MIN;
  const warm = 1 - (isSlow ? SLOW_PER_K : FAST_PER_K) * (25 - (tempC ?? 25));
  const of = classOf(type);
  const ratedAt = (hours: number): number => capacityAt(of, type.capacityAh, type.hourRate, hours);
  if (method === 'reserve' && reserveMin !== undefined)
    return capacityFromRun(of, RESERVE_A, reserveMin / 60, 20) / warm / ratedAt(20);
  if (drawnAh === undefined) return undefined;
  if (method === 'slow') return drawnAh / warm / ratedAt(20);
  return method === 'tenth' ? drawnAh / warm / ratedAt(10) : undefined;
}

/** Current of a capacity test by its method, A (handbook 3.2). */
export function capacityTestA(method: unknown, { capacityAh }: Pick<BatteryType, 'capacityAh'>): number {
  if (method === 'slow') return capacityAh / 20;
  return method === 'tenth' ? capacityAh / 10 : 25;
}

/** The discharge behind a capacity figure; undefined where the values are of no capacity test. */
export function capacityMinutes(
  { method, reserveMin, drawnAh }: StepValues,
  type: BatteryType,
): { readonly amps: number; readonly minutes: number } | undefined {
  const amps = capacityTestA(method, type);
  if (typeof reserveMin === 'number') return { amps, minutes: reserveMin };
  return typeof drawnAh === 'number' ? { amps, minutes: (drawnAh / amps) * 60 } : undefined;
}

/** What a capacity test of so many minutes says, by its method, as {@link capacityShareOf} reads it. */
export function capacityValues(method: string, minutes: number, type: BatteryType): StepValues {
  return method === 'slow' || method === 'tenth'
    ? { method, drawnAh: (capacityTestA(method, type) * minutes) / 60 }
    : { method: 'reserve', reserveMin: minutes };
}
