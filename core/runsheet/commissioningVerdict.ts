/** Pass, repeat or reject at the end of a commissioning, with every reason (handbook 2.3, step 15). */
import { loadTestFor } from '../battery/loadTest.ts';
import { flatProof } from '../charge/proofOfFull.ts';
import type { Judgement, StepContext } from './step.ts';

const MAX_ROUNDS = 3;

function numberOf(value: unknown): number {
  return typeof value === 'number' ? value : Number.NaN;
}

/** Is the charge proven full, by the charger's own signal or by flat readings? */
export function proofOfFull(context: StepContext): { isMet: boolean; sentence: string } {
  if (!context.isCharged)
    return { isMet: true, sentence: 'Not charged here, by house rule: proof of full is not asked for.' };
  const { readings, fullSignal } = context.charge();
  if (fullSignal) return { isMet: true, sentence: 'Proof of full: the charger gave its full signal.' };
  const { capacityAh, cells } = context.opened.type;
  const proof = flatProof(readings, capacityAh, cells, context.threshold('fullTailMin').value);
  return {
    isMet: proof.isFlat,
    sentence: proof.isFlat ? `Proof of full: ${proof.sentence}` : `No proof of full: ${proof.sentence}`,
  };
}

function loadOrTester(context: StepContext): { isMet: boolean; sentence: string } {
  const values = context.valuesOf('test-load');
  const { type, rules } = context.opened;
  if (values['method'] === 'tester') {
    const rating = type.cranking?.amps ?? Number.NaN;
    const percent = (numberOf(values['testerA']) / rating) * 100;
    const floor = context.threshold('testerPassPct').value;
    return {
      isMet: percent >= floor,
      sentence: `Tester reads ${numberOf(values['testerA']).toFixed(0)} A, ${percent.toFixed(0)} % of the rating; ${floor} % passes.`,
    };
  }
  const test = loadTestFor(type, rules.loadTest, numberOf(context.valuesOf('test-ocv')['tempC']));
  const loadV = numberOf(values['loadV']);
  return {
    isMet: loadV >= test.floorV - 1e-9,
    sentence: `Under ${test.currentA.toFixed(0)} A it held ${loadV.toFixed(2)} V; ${test.floorV.toFixed(2)} V passes (${test.basis}).`,
  };
}

/** Judges the test of this round; a missing reading counts as not met. */
export function judgeCommissioning(context: StepContext): Judgement {
  const floor = context.threshold('passOcvV').value;
  const ocv = numberOf(context.valuesOf('test-ocv')['ocvV']);
  const reasons = [
    {
      isMet: ocv >= floor - 1e-9,
      sentence: `Rested at ${ocv.toFixed(2)} V; the floor is ${floor.toFixed(2)} V.`,
    },
    proofOfFull(context),
    loadOrTester(context),
  ];
  const isPassed = reasons.every((reason) => reason.isMet);
  const mayRepeat = context.isCharged && context.round < MAX_ROUNDS;
  return { verdict: isPassed ? 'pass' : mayRepeat ? 'repeat' : 'reject', reasons };
}
