/** What a recovery gained, figure by figure, each with its uncertainty; one figure never stands for another (handbook 3.2, 3.6). */
import { capacityFromReserve } from '../reckoner/testing.ts';
import { constructionOf } from '../battery/types.ts';
import { ERRORS } from '../instruments/modelView.ts';
import { twentyHourAh } from '../model/parameters.ts';
import { proofOf } from './procedures/recovery/prove.ts';
import { contextOf, latest, type JobState } from './state.ts';

export interface Gain {
  readonly what: 'Rested voltage' | 'Cranking' | 'Resistance' | 'Capacity';
  readonly unit: 'V' | 'A' | 'mΩ' | '% of the rating';
  readonly before: number | undefined;
  readonly after: number;
  /** After less before; undefined where there is no before. */
  readonly gain: number | undefined;
  /** One standard deviation of the gain, the instrument's error at both ends. */
  readonly uncertain: number | undefined;
  /** Why the two ends compare badly, where they do. */
  readonly but?: string;
}

/** Capacity by discharge repeats within this share (practice). */
const CAPACITY_REPEATS = 0.03;
/** CCA ≈ 2.55 V / R on the EN scale, for six cells (handbook 3.2). */
const CONDUCTANCE_V = 2.55;
/** Further apart than this two readings of cranking compare badly, K (handbook 3.2: the same temperature). */
const SAME_WARMTH_K = 3;
/** Peukert's exponent where nothing better is known (handbook 7). */
const EXPONENT = { agm: 1.12, flooded: 1.2 } as const;

const numberOf = (value: unknown): number | undefined => (typeof value === 'number' ? value : undefined);

function gainOf(
  what: Gain['what'],
  unit: Gain['unit'],
  [before, after]: readonly [number | undefined, number | undefined],
  errorAt: (value: number) => number,
  but?: string,
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
      ...(but === undefined || !hasBoth ? {} : { but }),
    },
  ];
}

/** Capacity as a share of the rating, where it was counted before the first route. */
function capacityBefore(state: JobState): number | undefined {
  const { type } = state.opened;
  const firstRoute = state.routes?.[0]?.at ?? Number.POSITIVE_INFINITY;
  const counted = state.evidence?.find(
    ({ reading, at }) => reading.kind === 'reserve' && at <= firstRoute,
  )?.reading;
  if (counted?.kind !== 'reserve') return undefined;
  return capacityFromReserve(counted.minutes, EXPONENT[constructionOf(type.kind)]) / twentyHourAh(type);
}

/** The gains of a proven recovery; empty before the proof. */
export function gainsOf(state: JobState): Gain[] {
  const round = state.steps.findLast(
    ({ stepId, doneAt }) => stepId === 'prove-ocv' && doneAt !== undefined,
  )?.round;
  if (round === undefined) return [];
  const { cells } = state.opened.type;
  const context = contextOf(state, round);
  const first = latest(state, 'first-ocv')?.values ?? {};
  const rested = context.valuesIn('prove-ocv', round);
  const meter = (volts: number): number => Math.max(ERRORS.meterV.absolute, volts * ERRORS.meterV.share);
  const tester = (amps: number): number =>
    Math.max(ERRORS.conductanceA.absolute, amps * ERRORS.conductanceA.share);
  const cranking = [
    numberOf(latest(state, 'first-tester')?.values?.['testerA']),
    numberOf(context.valuesIn('prove-load', round)['testerA']),
  ] as const;
  const ohms = cranking.map((amps) =>
    amps === undefined || amps <= 0 ? undefined : (1000 * CONDUCTANCE_V * (cells / 6)) / amps,
  );
  const apartK = Math.abs((numberOf(first['tempC']) ?? 25) - (numberOf(rested['tempC']) ?? 25));
  const notAlike =
    apartK > SAME_WARMTH_K
      ? `read ${apartK.toFixed(0)} K apart`
      : 'it was flat before: the charge counts in it';
  const proof = proofOf(context);
  const percent = (share: number | undefined): number | undefined =>
    share === undefined ? undefined : share * 100;
  return [
    ...gainOf('Rested voltage', 'V', [numberOf(first['ocvV']), numberOf(rested['ocvV'])], meter),
    ...gainOf('Cranking', 'A', cranking, tester, notAlike),
    ...gainOf('Resistance', 'mΩ', [ohms[0], ohms[1]], (value) => value * ERRORS.conductanceA.share, notAlike),
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
export function gainWords({ unit, before, after, gain, uncertain, but }: Gain): string {
  const digits = DECIMALS[unit];
  if (before === undefined || gain === undefined || uncertain === undefined)
    return `${after.toFixed(digits)} ${unit}; not measured before, so no gain can be told`;
  const least = 10 ** -digits;
  const sign = gain < 0 ? '−' : '+';
  return `${before.toFixed(digits)} to ${after.toFixed(digits)} ${unit}: ${sign}${Math.abs(gain).toFixed(digits)} ± ${Math.max(least, uncertain).toFixed(digits)}${but === undefined ? '' : ` (${but})`}`;
}
