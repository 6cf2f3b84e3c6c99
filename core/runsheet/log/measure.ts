/** Readings of a step: numbers that can be, choices that are on offer, nothing missing that is asked for. */
import { inSentence } from '../../units/inSentence.ts';
import type { StepValues } from '../../units/values.ts';
import {
  isAsked,
  optionsFor,
  type ChoiceField,
  type MeasureStep,
  type NumberField,
} from '../definition/step.ts';
import { RunSheetError } from '../entries/errors.ts';
import type { StepPayloads } from '../entries/events.ts';
import type { JobState } from '../state/jobState.ts';
import type { AtStep } from './atStep.ts';
import { advance, hold, possibleNumber } from './moves.ts';

function checkedChoice(field: ChoiceField, value: unknown, { context }: AtStep): string | undefined {
  if (field.optional && value === undefined) return undefined;
  const options = optionsFor(field, context.opened.type);
  if (!options.some((option) => option.id === value))
    throw new RunSheetError(
      'bad-entry',
      `${field.label}: choose ${options.map((option) => inSentence(option.label)).join(' or ')}.`,
    );
  return String(value);
}

function checkedNumber(field: NumberField, values: StepValues, { context }: AtStep): number | undefined {
  const value = values[field.id];
  const isGivenElse = field.insteadOf !== undefined && values[field.insteadOf] !== undefined;
  const isNeeded = !field.optional && !isGivenElse && (field.isFor?.(context.opened.type) ?? true);
  if (value === undefined && !isNeeded) return undefined;
  return possibleNumber(value, field.spec(context));
}

/** What is recorded of the values given. */
function checkedValues(entry: AtStep<MeasureStep>, values: StepValues): StepValues {
  const { definition, context } = entry;
  const kept: Record<string, number | string> = {};
  for (const field of definition.fields) {
    if (!isAsked(field, kept)) continue;
    if (field.inCell !== undefined && field.inCell > context.opened.type.cells) continue;
    const value =
      field.kind === 'choice'
        ? checkedChoice(field, values[field.id], entry)
        : checkedNumber(field, values, entry);
    if (value !== undefined) kept[field.id] = value;
  }
  const strange = Object.keys(values).find((id) => !definition.fields.some((field) => field.id === id));
  if (strange !== undefined)
    throw new RunSheetError('bad-entry', `“${definition.title}” does not ask for “${strange}”.`);
  return kept;
}

export function measured(entry: AtStep, { values: given, source }: StepPayloads['measured']): JobState {
  const measure = entry.as('measure');
  const { state, at, by, context, definition } = measure;
  const values = checkedValues(measure, given);
  const held = definition.holds(values, context);
  const recorded = { values, source, by };
  if (held) return hold(state, held.why, held.canOverride, recorded);
  return advance(state, at, { ...recorded, status: 'done' });
}
