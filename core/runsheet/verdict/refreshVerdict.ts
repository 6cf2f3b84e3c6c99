/** Whether a battery that was charged again goes back to its place: full, and resting where a full one does. */
import { densitiesAt25, SPREAD_BAD, spreadOf } from '../definition/densities.ts';
import { STEP } from '../definition/stepIds.ts';
import type { Judgement, StepContext } from '../definition/step.ts';
import { numberOf } from '../../units/values.ts';
import { isOfTheBattery, proofOfFull } from './commissioningVerdict.ts';
import { holdIn } from './proof.ts';

/** Cells that stand apart once they are charged and mixed: one of them is ill (handbook 3.2). */
function alikeReason(context: StepContext): Judgement['reasons'] {
  const read = densitiesAt25(context.valuesOf(STEP.refreshDensity), context.opened.type.cells);
  const spread = spreadOf(read);
  if (spread === undefined) return [];
  return [
    {
      isMet: spread <= SPREAD_BAD + 1e-9,
      sentence: `Its cells differ by ${spread.toFixed(3)} g/cm³; up to ${SPREAD_BAD.toFixed(3)} passes.`,
    },
  ];
}

/** Judges the charge of this round; a missing reading counts as not met. */
export function judgeRefresh(context: StepContext): Judgement {
  const floor = context.threshold('passOcvV').value;
  const ocv = numberOf(context.valuesOf(STEP.testOcv)['ocvV']) ?? 0;
  const hold = holdIn(context, STEP.holdRead);
  const reasons = [
    {
      isMet: ocv >= floor - 1e-9,
      sentence: `Rested at ${ocv.toFixed(2)} V; the floor is ${floor.toFixed(2)} V.`,
    },
    proofOfFull(context),
    ...alikeReason(context),
    ...(hold ? [{ isMet: hold.verdict !== 'leak', sentence: hold.sentence }] : []),
  ];
  if (reasons.every(({ isMet }) => isMet)) return { verdict: 'pass', reasons };
  // What leaks leaks again: no second charge mends it.
  if (hold?.verdict === 'leak') return { verdict: 'reject', reasons };
  const mayRepeat = context.round < context.mostRounds && !isOfTheBattery(context.charge()?.stopped?.rule);
  return { verdict: mayRepeat ? 'repeat' : 'reject', reasons };
}
