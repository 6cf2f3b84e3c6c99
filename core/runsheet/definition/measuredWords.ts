/** What was measured at a step in words: every value under its own name, with its unit. */
import { inSentence } from '../../units/inSentence.ts';
import type { StepValues } from '../../units/values.ts';
import { isAsked, type MeasureStep, type NumberField, type StepContext } from './step.ts';

const isNumber = (field: { readonly kind: string }): field is NumberField => field.kind === 'number';

/** "Open-circuit voltage 12.70 V", one for each value that was asked for. */
export function measuredWords({ fields }: MeasureStep, values: StepValues, context: StepContext): string[] {
  return fields.flatMap((field): string[] => {
    const value = values[field.id];
    if (value === undefined) return [];
    if (!isNumber(field)) {
      const chosen = field.options.find(({ id }) => id === value)?.label ?? String(value);
      return [`${field.label}: ${inSentence(chosen)}`];
    }
    if (typeof value !== 'number' || !isAsked(field, values)) return [];
    const { label, unit, decimals } = field.spec(context);
    return [`${label} ${value.toFixed(decimals)} ${unit}`];
  });
}
