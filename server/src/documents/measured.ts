/** What was measured at a step, as a row: every value under its own name, and where it came from. */
import { measuredWords } from '@cork-ember/core/runsheet/definition/measuredWords.ts';
import { contextOf } from '@cork-ember/core/runsheet/state/context.ts';
import { definitionOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import type { JobState, StepState } from '@cork-ember/core/runsheet/state/jobState.ts';
import type { Row } from './content.ts';

/** A row for a measured step; none where nothing was read. */
export function measuredRows(state: JobState, step: StepState): Row[] {
  const definition = definitionOf(state, step);
  const { values, source } = step;
  if (definition.kind !== 'measure' || !values || step.doneAt === undefined) return [];
  const parts = measuredWords(definition, values, contextOf(state, step.round));
  if (parts.length === 0) return [];
  const round = step.round > 1 ? ` (${step.round})` : '';
  return [[`${definition.title}${round}`, `${parts.join('; ')}${source ? ` · ${source}` : ''}`]];
}
