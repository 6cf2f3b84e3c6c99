/** Pass, repeat or reject at the end of a commissioning, with every reason (handbook 2.3, step 15). */
import { STEP } from '../definition/stepIds.ts';
import { passedByScale } from '../definition/testerFields.ts';
import { loadTestFor } from '../../battery/loadTest.ts';
import { testerAt25 } from '../../battery/testerWarmth.ts';
import type { StopRuleId } from '../../charge/watch.ts';
import { readingsProof } from './chargeLimits.ts';
import { contradiction } from './fullSignal.ts';
import type { ChargeEvidence, Judgement, StepContext } from '../definition/step.ts';

/** Stops that say something of the battery, not of the charger: charging again would only repeat them. */
const OF_THE_BATTERY: readonly (StopRuleId | 'hot')[] = ['dead-cell', 'short-heating', 'runaway', 'hot'];

/** Whether what stopped a charge would stop the next one too. */
export const isOfTheBattery = (stopped: StopRuleId | 'hot' | undefined): boolean =>
  stopped !== undefined && OF_THE_BATTERY.includes(stopped);

function numberOf(value: unknown): number {
  return typeof value === 'number' ? value : Number.NaN;
}

export interface FullVerdict {
  readonly isMet: boolean;
  readonly sentence: string;
  /** Stretch of the readings that proves it, ms. */
  readonly window?: { readonly from: number; readonly to: number };
}

/** Whether a charge is proven full, by its readings or by a charger's own signal that they do not speak against. */
export function fullVerdict(context: StepContext, evidence: ChargeEvidence): FullVerdict {
  const proof = readingsProof(context, evidence);
  const byReadings = { ...(proof.window ? { window: proof.window } : {}), isMet: proof.isProven };
  if (evidence.stopped)
    return { isMet: false, sentence: `No proof of full: the charge was stopped. ${evidence.stopped.why}` };
  if (proof.isProven || !evidence.fullSignal)
    return { ...byReadings, sentence: `${proof.isProven ? 'Proof' : 'No proof'} of full: ${proof.sentence}` };
  const against = contradiction(context, evidence);
  return against === undefined
    ? {
        isMet: true,
        sentence:
          'Proof of full: the charger gave its full signal, and the readings do not speak against it.',
      }
    : { isMet: false, sentence: `No proof of full. ${against}` };
}

/** Is this round's charge proven full? */
export function proofOfFull(context: StepContext): FullVerdict {
  if (!context.isCharged)
    return { isMet: true, sentence: 'Not charged here, by house rule: proof of full is not asked for.' };
  const evidence = context.charge();
  return evidence
    ? fullVerdict(context, evidence)
    : { isMet: false, sentence: 'No proof of full: the charge has not been started.' };
}

function loadOrTester(context: StepContext): { isMet: boolean; sentence: string } {
  const values = context.valuesOf(STEP.testLoad);
  const { type, rules } = context.opened;
  if (values['method'] === 'tester') {
    const testerA = numberOf(values['testerA']);
    const tempC = context.valuesOf(STEP.testOcv)['tempC'];
    const told = testerAt25(testerA, typeof tempC === 'number' ? tempC : undefined);
    if (!type.cranking)
      return {
        isMet: false,
        sentence: `Tester reads ${testerA.toFixed(0)} A, and the label prints no rating to hold it against: it is recorded, a load test decides.`,
      };
    if (!told.isTold) return { isMet: false, sentence: `Tester reads ${testerA.toFixed(0)} A, ${told.why}.` };
    const percent = (told.amps / type.cranking.amps) * 100;
    const floor = context.threshold('testerPassPct').value;
    const warmth = Math.abs(told.amps - testerA) < 0.5 ? '' : `, ${told.amps.toFixed(0)} A at 25 °C`;
    return {
      isMet: percent >= floor,
      sentence: `Tester reads ${testerA.toFixed(0)} A${warmth}: ${percent.toFixed(0)} % of the rating; ${floor} % passes.`,
    };
  }
  if (values['method'] === 'scale')
    return {
      isMet: passedByScale(values['scale']) === true,
      sentence: `The load tester’s needle stood in the ${String(values['scale'])}; green passes.`,
    };
  const test = loadTestFor(type, rules.loadTest, numberOf(context.valuesOf(STEP.testOcv)['tempC']));
  const loadV = numberOf(values['loadV']);
  return {
    isMet: loadV >= test.floorV - 1e-9,
    sentence: `Under ${test.currentA.toFixed(0)} A it held ${loadV.toFixed(2)} V; ${test.floorV.toFixed(2)} V passes (${test.basis}).`,
  };
}

/** Judges the test of this round; a missing reading counts as not met. */
export function judgeCommissioning(context: StepContext): Judgement {
  const floor = context.threshold('passOcvV').value;
  const ocv = numberOf(context.valuesOf(STEP.testOcv)['ocvV']);
  const reasons = [
    {
      isMet: ocv >= floor - 1e-9,
      sentence: `Rested at ${ocv.toFixed(2)} V; the floor is ${floor.toFixed(2)} V.`,
    },
    proofOfFull(context),
    loadOrTester(context),
  ];
  const isPassed = reasons.every((reason) => reason.isMet);
  // A sound battery that stands low because nobody charged it is charged, not condemned.
  const mayRepeat = context.round < context.mostRounds && !isOfTheBattery(context.charge()?.stopped?.rule);
  return { verdict: isPassed ? 'pass' : mayRepeat ? 'repeat' : 'reject', reasons };
}
