/** An entry at the step it speaks of: found once, with its definition and its context, for whatever reduces it. */
import type { Step, StepContext } from '../definition/step.ts';
import { RunSheetError } from '../entries/errors.ts';
import { contextOf } from '../state/context.ts';
import type { JobState, StepState } from '../state/jobState.ts';
import { dwellEnd } from '../state/settle.ts';
import { definitionOf } from '../state/sheet.ts';
import { timeLeft } from './moves.ts';

type OfKind<K extends Step['kind']> = Extract<Step, { kind: K }>;

export class AtStep<D extends Step = Step> {
  readonly state: JobState;
  readonly step: StepState;
  readonly definition: D;
  readonly at: number;
  readonly by: string;
  private made: StepContext | undefined;

  constructor(state: JobState, step: StepState, definition: D, at: number, by: string) {
    this.state = state;
    this.step = step;
    this.definition = definition;
    this.at = at;
    this.by = by;
  }

  /** What the step is read in; made when it is first asked for, since a look on charge does without. */
  get context(): StepContext {
    return (this.made ??= contextOf(this.state, this.step.round));
  }

  /**
   * The same, of a step of these kinds.
   * @throws RunSheetError when it is of another
   */
  as<K extends Step['kind']>(...kinds: readonly K[]): AtStep<OfKind<K>> {
    if (!(kinds as readonly string[]).includes(this.definition.kind))
      throw new RunSheetError('bad-entry', `“${this.definition.title}” does not take this kind of entry.`);
    return this as AtStep<Step> as AtStep<OfKind<K>>;
  }
}

/** Why an entry is not taken whose step is not the one at hand. */
function notAtHand(
  state: JobState,
  step: StepState,
  definition: Step,
  stepKey: string,
  at: number,
): RunSheetError {
  const index = state.steps.findIndex((candidate) => candidate.key === stepKey);
  const asked = state.steps[index];
  if (!asked) return new RunSheetError('not-open', `This run sheet has no step “${stepKey}”.`);
  const { title } = definitionOf(state, asked);
  if (index < state.cursor)
    return new RunSheetError('not-open', `“${title}” is already recorded; correct it in the log.`);
  if (definition.kind !== 'dwell')
    return new RunSheetError('not-open', `“${title}” is not open yet; “${definition.title}” comes first.`);
  const until = dwellEnd(state, step);
  const left = until === undefined ? '' : `: ${timeLeft(at, until)} to go`;
  return new RunSheetError(
    'too-early',
    `“${title}” is not open yet; “${definition.title}” is running${left}.`,
  );
}

/**
 * The step an entry speaks of, which must be the one at hand.
 * @param state settled to the moment of the entry
 * @throws RunSheetError when it is not, or the job has ended
 */
export function atStep(state: JobState, stepKey: string, at: number, by: string): AtStep {
  const step = state.steps[state.cursor];
  if (!step || state.outcome)
    throw new RunSheetError('closed', 'This job has ended; nothing more is recorded on its steps.');
  const definition = definitionOf(state, step);
  if (step.key !== stepKey) throw notAtHand(state, step, definition, stepKey, at);
  return new AtStep(state, step, definition, at, by);
}
