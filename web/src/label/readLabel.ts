/** What the answers of a label make, checked as the server will check it. */
import { labelledType, type LabelAnswers } from '@cork-ember/core/battery/labelledType.ts';
import type { BatteryType } from '@cork-ember/core/battery/types.ts';
import { typeSchema } from '@cork-ember/core/contract/typeSchema.ts';

/** What the answers make: a type that may be used, or what is wrong or wanted, in a sentence. */
export type FromLabel =
  | { readonly type: BatteryType; readonly follows: readonly string[] }
  | { readonly problem: string; readonly isWanted: boolean };

export function readLabel(answers: LabelAnswers, mark: string): FromLabel {
  for (const value of Object.values(answers) as unknown[])
    if (typeof value === 'number' && Number.isNaN(value))
      return { problem: 'A figure of the label is no number.', isWanted: false };
  const made = labelledType(answers, mark);
  if ('wants' in made) return { problem: made.wants, isWanted: true };
  const { error } = typeSchema.validate(made.type);
  return error ? { problem: error.message, isWanted: false } : made;
}
