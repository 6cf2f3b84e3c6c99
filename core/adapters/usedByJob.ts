/** What a job has taken from the stock so far, read off its state: corrected or taken back, it follows. */
import { STEP } from '../runsheet/definition/stepIds.ts';
import { isWatering, waterMl } from '../runsheet/definition/fields.ts';
import type { JobState } from '../runsheet/state/jobState.ts';
import { contextOf } from '../runsheet/state/context.ts';
import { latest } from '../runsheet/state/jobState.ts';
import { acidItem, electrolyteFor, packItem, WATER, type ItemId, type StockMove } from '../stock/stock.ts';

/** Amounts by item, all above 0. */
export function usedByJob(state: JobState): ReadonlyMap<ItemId, number> {
  const used = new Map<ItemId, number>();
  const { type } = state.opened;
  const isDone = (stepId: string): boolean => latest(state, stepId)?.doneAt !== undefined;
  if (type.pack && latest(state, STEP.packOn)?.status === 'done') used.set(packItem(type.pack.code), 1);
  if (isDone(STEP.fill) || isDone(STEP.fillOverFine))
    used.set(acidItem(contextOf(state, 1).threshold('fillDensity').value), Math.round(electrolyteFor(type)));
  const water = state.steps.reduce(
    (sum, { stepId, values, doneAt }) =>
      sum + (isWatering(stepId) && doneAt !== undefined ? waterMl(values) : 0),
    0,
  );
  if (water > 0) used.set(WATER, water);
  return used;
}

/** The moves that bring the stock from what a job had used to what it has used now. */
export function movesBetween(before: JobState, after: JobState): StockMove[] {
  const was = usedByJob(before);
  const is = usedByJob(after);
  return [...new Set([...was.keys(), ...is.keys()])].flatMap((item) => {
    const amount = (was.get(item) ?? 0) - (is.get(item) ?? 0);
    return amount === 0 ? [] : [{ item, amount }];
  });
}
