/** What a proof came to: its hold, its measures and the grade they bear (handbook 3.6). */
import { percentText } from '../../units/percent.ts';
import { STEP } from '../definition/stepIds.ts';
import { loadTestFor } from '../../battery/loadTest.ts';
import { testerAt25 } from '../../battery/testerWarmth.ts';
import { onSix } from '../../battery/types.ts';
import { fullVerdict } from './commissioningVerdict.ts';
import { capacityShareOf, gradeOf, type Graded, type Proof } from '../../grading/grade.ts';
import { holdOf, type Hold, type RestedReading } from '../../grading/hold.ts';
import { passedByScale } from '../definition/testerFields.ts';
import type { Judgement, StepContext } from '../definition/step.ts';
import { numberOf } from '../../units/values.ts';

function restedIn(context: StepContext, stepId: string): RestedReading | undefined {
  const { ocvV, tempC } = context.valuesIn(stepId, context.round);
  const at = context.doneAt(stepId);
  return typeof ocvV === 'number' && at !== undefined
    ? { at, volts: ocvV, ...(typeof tempC === 'number' ? { tempC } : {}) }
    : undefined;
}

/** The hold over a day or over the week; undefined where it was not read. */
export function holdIn(
  context: StepContext,
  stepId: typeof STEP.holdRead | typeof STEP.weekRead,
): Hold | undefined {
  const { type, rules } = context.opened;
  // After a capacity test it was charged and rested anew: the hold begins there.
  const before = restedIn(context, STEP.holdOcv) ?? restedIn(context, STEP.proveOcv);
  const after = restedIn(context, stepId);
  if (!before || !after) return undefined;
  const drawMa = numberOf(context.valuesIn(stepId, context.round)['drawMa']);
  const isFitted = stepId === STEP.weekRead && rules.holdTest === 'fittedWeek';
  return holdOf({
    construction: type.construction,
    cells: type.cells,
    capacityAh: type.capacityAh,
    before,
    after,
    ...(isFitted ? { fitted: drawMa === undefined ? {} : { drawMa } } : {}),
  });
}

/** What was measured in this proof, as shares of the rating. */
export function proofOf(context: StepContext): Proof {
  const { type, rules } = context.opened;
  const { round } = context;
  const tempC = numberOf(context.valuesIn(STEP.proveOcv, round)['tempC']);
  const load = context.valuesIn(STEP.proveLoad, round);
  const testerA = numberOf(load['testerA']);
  const loadV = numberOf(load['loadV']);
  const loadPassed =
    loadV === undefined
      ? passedByScale(load['scale'])
      : loadV >= loadTestFor(type, rules.loadTest, tempC ?? 25).floorV - 1e-9;
  const milliohm = numberOf(load['milliohm']);
  const baseline = numberOf(load['baselineMilliohm']);
  const capacityShare = capacityShareOf(context.valuesIn(STEP.proveCapacity, round), type, tempC);
  const tester = testerA === undefined ? undefined : testerAt25(testerA, tempC);
  const day = holdIn(context, STEP.holdRead)?.verdict;
  const week = holdIn(context, STEP.weekRead);
  return {
    isRated: type.cranking !== undefined,
    ...(capacityShare === undefined ? {} : { capacityShare }),
    ...(tester?.isTold && type.cranking ? { crankingShare: tester.amps / type.cranking.amps } : {}),
    // Fully charged and rested it registers at any tester, unless there is nothing left.
    ...(load['method'] === 'silent' ? { crankingShare: 0 } : {}),
    ...(loadPassed === undefined ? {} : { loadPassed }),
    ...(milliohm !== undefined && baseline !== undefined && baseline > 0
      ? { resistanceRatio: milliohm / baseline }
      : {}),
    ...(day === undefined ? {} : { day }),
    ...(week === undefined ? {} : { week: week.verdict, oneCellLost: week.oneCellShare }),
    hasCollapsed: loadV !== undefined && loadV < onSix(4, type),
  };
}

export const gradedFrom = (context: StepContext): Graded => gradeOf(proofOf(context));

type Line = { readonly isMet: boolean; readonly sentence: string };

const shareLine = (name: string, value: number): Line => ({
  isMet: value >= 0.4,
  sentence: `${name}: ${percentText(value)} of the rating.`,
});

/** What was said of cranking, or of resistance where it has no cranking rating. */
function crankingLine(context: StepContext, proof: Proof): Line {
  const load = context.valuesIn(STEP.proveLoad, context.round);
  const milliohm = numberOf(load['milliohm']);
  if (!proof.isRated)
    return milliohm === undefined
      ? { isMet: true, sentence: 'It has no cranking rating: capacity grades it.' }
      : {
          isMet: (proof.resistanceRatio ?? 1) <= 1.3,
          sentence:
            proof.resistanceRatio === undefined
              ? `Resistance ${milliohm.toFixed(1)} mΩ, kept as its baseline: none is known from before.`
              : `Resistance ${milliohm.toFixed(1)} mΩ, ${percentText(proof.resistanceRatio)} of its own baseline.`,
        };
  if (load['method'] === 'silent')
    return {
      isMet: false,
      sentence: 'Charged and rested the tester does not register it: no cranking is left.',
    };
  if (load['scale'] === 'yellow')
    return {
      isMet: false,
      sentence: 'The needle stood in the yellow: neither passed nor failed, so it is no verdict.',
    };
  if (proof.crankingShare !== undefined) return shareLine('Cranking, at 25 °C', proof.crankingShare);
  if (proof.loadPassed !== undefined)
    return {
      isMet: proof.loadPassed,
      sentence: `Load test ${proof.loadPassed ? 'passed' : 'failed'}: that is no cranking figure.`,
    };
  const testerA = numberOf(load['testerA']);
  const tester =
    testerA === undefined
      ? undefined
      : testerAt25(testerA, numberOf(context.valuesIn(STEP.proveOcv, context.round)['tempC']));
  return {
    isMet: false,
    sentence:
      tester && !tester.isTold
        ? `The tester’s ${testerA} A are no figure: ${tester.why}.`
        : 'Cranking was not measured; it is not assumed.',
  };
}

function fullLine(context: StepContext): Line {
  const verdict = provenBefore(context);
  return verdict ?? { isMet: false, sentence: 'It was not charged here before it was measured.' };
}

/** Whether the charge before the proof was proven full. */
function provenBefore(context: StepContext): Line | undefined {
  const evidence = context.chargeBefore(STEP.proveOff);
  return evidence && fullVerdict(context, evidence);
}

/** Every line of the proof and the grade they come to. */
export function judge(context: StepContext): Judgement {
  const proof = proofOf(context);
  const { grade, because, use } = gradedFrom(context);
  const holds = ([STEP.holdRead, STEP.weekRead] as const).flatMap((id): Line[] => {
    const hold = holdIn(context, id);
    return hold ? [{ isMet: hold.verdict === 'held', sentence: hold.sentence }] : [];
  });
  return {
    verdict: grade === 'R' ? 'reject' : 'pass',
    reasons: [
      fullLine(context),
      proof.capacityShare === undefined
        ? { isMet: false, sentence: 'Capacity was not measured; it is not assumed.' }
        : shareLine('Capacity', proof.capacityShare),
      crankingLine(context, proof),
      ...(holds.length > 0 ? holds : [{ isMet: false, sentence: 'The hold was not tested.' }]),
      { isMet: grade !== 'R', sentence: `Grade ${grade}: ${because} For ${use}.` },
    ],
  };
}
