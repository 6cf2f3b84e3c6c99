/** What a recovery gained, figure by figure, each with its uncertainty; one figure never stands for another (handbook 3.2, 3.6). */
import { STEP } from '../definition/stepIds.ts';
import { onSix } from '../../battery/types.ts';
import { RESERVE_A } from '../../battery/dischargeRates.ts';
import { testerAt25 } from '../../battery/testerWarmth.ts';
import { ERRORS } from '../../observation/modelView.ts';
import { proofOf } from '../verdict/proof.ts';
import { fullVerdict } from '../verdict/commissioningVerdict.ts';
import { capacityShareOf } from '../../grading/grade.ts';
import { contextOf, evidenceOf } from '../state/context.ts';
import { latest, type JobState } from '../state/jobState.ts';
import { numberOf } from '../../units/values.ts';

export interface Gain {
  readonly what: 'Rested voltage' | 'Cranking' | 'Resistance' | 'Capacity';
  readonly unit: 'V' | 'A' | 'mΩ' | '% of the rating';
  readonly before: number | undefined;
  readonly after: number;
  /** After less before; undefined where there is no before. */
  readonly gain: number | undefined;
  /** One standard deviation of the gain, the instrument's error at both ends. */
  readonly uncertain: number | undefined;
}

/** Capacity by discharge repeats within this share (practice). */
const CAPACITY_REPEATS = 0.03;
/** CCA ≈ 2.55 V / R on the EN scale, for six cells (handbook 3.2). */
const CONDUCTANCE_V = 2.55;
/** From here a discharge is counted in minutes, as a reserve, A. */

function gainOf(
  what: Gain['what'],
  unit: Gain['unit'],
  [before, after]: readonly [number | undefined, number | undefined],
  errorAt: (value: number) => number,
): Gain[] {
  if (after === undefined) return [];
  const hasBoth = before !== undefined;
  return [
    {
      what,
      unit,
      before,
      after,
      gain: hasBoth ? after - before : undefined,
      uncertain: hasBoth ? Math.hypot(errorAt(before), errorAt(after)) : undefined,
    },
  ];
}

/** Charging is not treating: what a tester gains by it is charge. Ways whose gain is told are all the others. */
const CHARGES: readonly string[] = [
  'slow-charge',
  'supply-wake',
  'donor-wake',
  'forced-start',
  'prove',
  'retire',
];

/** A tester or a capacity figure of before, and the warmth it was read at. */
interface Before {
  readonly value: number;
  readonly tempC?: number;
}

/** When the first treatment began, ms; undefined where it was only charged. */
function treatedAt(state: JobState): number | undefined {
  return state.routes?.find(({ route }) => !CHARGES.includes(route))?.at;
}

const RESTED_MS = 4 * 3_600_000;

/** Whether it was charged and rested at a moment: it came so, or a charge before was proven full and lies hours back. */
function isChargedAndRested(state: JobState, at: number): boolean {
  const charged = state.steps.findLast(
    ({ charge, doneAt }) => charge && doneAt !== undefined && doneAt <= at,
  );
  if (charged?.doneAt !== undefined) {
    const evidence = evidenceOf(state, charged);
    const isProven = evidence && fullVerdict(contextOf(state, charged.round), evidence).isMet;
    return isProven === true && at - charged.doneAt >= RESTED_MS;
  }
  const { ocvV, rested } = latest(state, STEP.firstOcv)?.values ?? {};
  const floorV = contextOf(state, 1).threshold('passOcvV').value;
  return typeof ocvV === 'number' && ocvV >= floorV && rested === 'yes';
}

/** The last tester figure of a charged, rested battery before it was treated. */
function testerBefore(state: JobState): Before | undefined {
  const until = treatedAt(state);
  if (until === undefined) return undefined;
  const firstC = numberOf(latest(state, STEP.firstOcv)?.values?.['tempC']);
  const warmth = firstC === undefined ? {} : { tempC: firstC };
  const step = latest(state, STEP.firstTester);
  const testers = [
    { at: step?.doneAt, value: numberOf(step?.values?.['testerA']) },
    ...(state.evidence ?? []).map(({ at, reading }) => ({
      at,
      value: reading.kind === 'tester' ? reading.amps : undefined,
    })),
  ];
  const last = testers.findLast(
    ({ at, value }) =>
      at !== undefined && value !== undefined && at <= until && isChargedAndRested(state, at),
  );
  return last?.value === undefined ? undefined : { value: last.value, ...warmth };
}

/** Capacity as a share of the rating, where it was counted on a charged battery before it was treated. */
function capacityBefore(state: JobState): number | undefined {
  const { type } = state.opened;
  const until = treatedAt(state);
  if (until === undefined) return undefined;
  const counted = state.evidence?.findLast(
    ({ reading, at }) => reading.kind === 'reserve' && at <= until && isChargedAndRested(state, at),
  )?.reading;
  if (counted?.kind !== 'reserve') return undefined;
  const hours = (counted.minutes / 60) * counted.amps;
  const values =
    counted.amps >= RESERVE_A
      ? { method: 'reserve', reserveMin: counted.minutes }
      : { method: 'slow', drawnAh: hours };
  return capacityShareOf(values, type, numberOf(latest(state, STEP.firstOcv)?.values?.['tempC']));
}

/** The gains of a proven recovery; empty before the proof. */
export function gainsOf(state: JobState): Gain[] {
  const round = state.steps.findLast(
    ({ stepId, doneAt }) => stepId === STEP.proveOcv && doneAt !== undefined,
  )?.round;
  if (round === undefined) return [];
  const { cells } = state.opened.type;
  const context = contextOf(state, round);
  const first = latest(state, STEP.firstOcv)?.values ?? {};
  const rested = context.valuesIn(STEP.proveOcv, round);
  const load = context.valuesIn(STEP.proveLoad, round);
  const meter = (volts: number): number => Math.max(ERRORS.meterV.absolute, volts * ERRORS.meterV.share);
  const tester = (amps: number): number =>
    Math.max(ERRORS.conductanceA.absolute, amps * ERRORS.conductanceA.share);
  const before = testerBefore(state);
  const nowA = numberOf(load['testerA']);
  const at25 = (amps: number | undefined, tempC: number | undefined): number | undefined => {
    const told = amps === undefined ? undefined : testerAt25(amps, tempC);
    return told?.isTold ? told.amps : undefined;
  };
  const cranking = [at25(before?.value, before?.tempC), at25(nowA, numberOf(rested['tempC']))] as const;
  const ohms = cranking.map((amps) =>
    amps === undefined || amps <= 0 ? undefined : onSix(1000 * CONDUCTANCE_V, { cells }) / amps,
  );
  const ohmNow = numberOf(load['milliohm']) ?? ohms[1];
  const ohmBefore = numberOf(load['baselineMilliohm']) ?? ohms[0];
  const proof = proofOf(context);
  const percent = (share: number | undefined): number | undefined =>
    share === undefined ? undefined : share * 100;
  return [
    ...gainOf('Rested voltage', 'V', [numberOf(first['ocvV']), numberOf(rested['ocvV'])], meter),
    ...gainOf('Cranking', 'A', cranking, tester),
    ...gainOf('Resistance', 'mΩ', [ohmBefore, ohmNow], (value) => value * ERRORS.conductanceA.share),
    ...gainOf(
      'Capacity',
      '% of the rating',
      [percent(capacityBefore(state)), percent(proof.capacityShare)],
      (value) => value * CAPACITY_REPEATS,
    ),
  ];
}

const DECIMALS: Record<Gain['unit'], number> = { V: 2, A: 0, mΩ: 1, '% of the rating': 0 };

/** "11.60 to 12.80 V: +1.20 ± 0.01 V" */
export function gainWords({ unit, before, after, gain, uncertain }: Gain): string {
  const digits = DECIMALS[unit];
  if (before === undefined || gain === undefined || uncertain === undefined)
    return `${after.toFixed(digits)} ${unit}; it was not measured charged and rested before, so no gain can be told`;
  const least = 10 ** -digits;
  const sign = gain < 0 ? '−' : '+';
  return `${before.toFixed(digits)} to ${after.toFixed(digits)} ${unit}: ${sign}${Math.abs(gain).toFixed(digits)} ± ${Math.max(least, uncertain).toFixed(digits)} ${unit}`;
}
