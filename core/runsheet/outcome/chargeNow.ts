/** The charge a battery is said to have, from everything its run sheet knows: on screens and papers alike. */
import { STEP } from '../definition/stepIds.ts';
import { chargeEstimate } from '../../battery/chargeEstimate.ts';
import type { Estimate } from '../../battery/stateOfCharge.ts';
import { durationText } from '../../clock/clockText.ts';
import { fullVerdict } from '../verdict/commissioningVerdict.ts';
import { contextOf, evidenceOf } from '../state/context.ts';
import type { JobState } from '../state/jobState.ts';

const MINUTE = 60_000;
/** A battery that was not charged here has stood for days. */
const STOOD_MIN = 24 * 60;
/** Readings at rest that end a job, the latest said first. */
const RESTED_STEPS: readonly string[] = [
  STEP.weekRead,
  STEP.holdRead,
  STEP.holdOcv,
  STEP.proveOcv,
  STEP.testOcv,
];

export interface ChargeNow extends Estimate {
  /** What it rests on, V. */
  readonly ocvV: number;
  readonly at: number;
  /** "about 96 % (92 to 100 %)" */
  readonly words: string;
  readonly because: string;
  /** "65 min after its charge" */
  readonly rested: string;
}

/** The charge at the last rested reading of a test or a proof; undefined before there is one. */
export function chargeNow(state: JobState): ChargeNow | undefined {
  const index = state.steps.findLastIndex(
    ({ stepId, values, doneAt }) =>
      RESTED_STEPS.includes(stepId) && doneAt !== undefined && typeof values?.['ocvV'] === 'number',
  );
  const read = state.steps[index];
  const ocvV = read?.values?.['ocvV'];
  if (!read || typeof ocvV !== 'number' || read.doneAt === undefined) return undefined;
  const tempC = read.values?.['tempC'];
  const charged = state.steps.slice(0, index).findLast(({ charge }) => charge !== undefined);
  const offAt = charged?.charge?.runs.at(-1)?.to;
  const restMin = offAt === undefined ? STOOD_MIN : (read.doneAt - offAt) / MINUTE;
  const evidence = evidenceOf(state, charged);
  const context = contextOf(state, charged?.round ?? 1);
  const isProvenFull = evidence !== undefined && fullVerdict(context, evidence).isMet;
  const { type } = state.opened;
  const density25 = evidence?.looks.findLast(({ density }) => density !== undefined)?.density;
  const found = chargeEstimate({
    construction: type.construction,
    cells: type.cells,
    ocvV,
    restMin,
    isProvenFull,
    ...(typeof tempC === 'number' ? { tempC } : {}),
    ...(density25 === undefined ? {} : { density25 }),
  });
  return {
    ...found,
    ocvV,
    at: read.doneAt,
    words: `about ${found.mean.toFixed(0)} % (${found.low.toFixed(0)} to ${found.high.toFixed(0)} %)`,
    rested: offAt === undefined ? 'nothing connected' : `${durationText(restMin * MINUTE)} after its charge`,
    because: isProvenFull
      ? 'from the proof of full and the rested voltage together'
      : restMin < 4 * 60
        ? 'from the rested voltage alone, and it rested briefly'
        : 'from the rested voltage alone',
  };
}
