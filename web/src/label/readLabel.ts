/**
 * What the answers of a label make, checked as the server will check it. What checks it is fetched when the first label is
 * read: no view begins with it.
 */
import { useSyncExternalStore } from 'react';
import { labelledType, type LabelAnswers } from '@cork-ember/core/battery/labelledType.ts';
import type { BatteryType } from '@cork-ember/core/battery/types.ts';
import { sentenceOf } from '../api/client.ts';
import { partOf } from '../ui/later.tsx';
import { sayTrouble } from '../ui/say.ts';

/** What the answers make: a type that may be used, or what is wrong or wanted, in a sentence. */
export type FromLabel =
  | { readonly type: BatteryType; readonly follows: readonly string[] }
  | { readonly problem: string; readonly isWanted: boolean };

/** @returns what is wrong with a type, in a sentence; undefined where it may be used */
export type LabelCheck = (type: BatteryType) => string | undefined;

export const labelCheck = partOf(async (): Promise<LabelCheck> => {
  const { typeSchema } = await import('@cork-ember/core/contract/typeSchema.ts');
  return (type) => typeSchema.validate(type).error?.message;
});

function fetchCheck(told: () => void): () => void {
  labelCheck.fetch().then(told, (error: unknown) => {
    labelCheck.forgetFailed();
    sayTrouble(sentenceOf(error));
  });
  return () => undefined;
}

const fetchNothing = (): (() => void) => () => undefined;

/** Whoever reads a label asks with this for what checks it, and is drawn anew once it is there. */
export function useLabelCheck(isReading: boolean): LabelCheck | undefined {
  return useSyncExternalStore(isReading ? fetchCheck : fetchNothing, labelCheck.now);
}

/** @param check undefined while it is on its way */
export function readLabel(answers: LabelAnswers, mark: string, check: LabelCheck | undefined): FromLabel {
  for (const value of Object.values(answers) as unknown[])
    if (typeof value === 'number' && Number.isNaN(value))
      return { problem: 'A figure of the label is no number.', isWanted: false };
  const made = labelledType(answers, mark);
  if ('wants' in made) return { problem: made.wants, isWanted: true };
  if (!check) return { problem: 'One moment …', isWanted: true };
  const problem = check(made.type);
  return problem === undefined ? made : { problem, isWanted: false };
}
