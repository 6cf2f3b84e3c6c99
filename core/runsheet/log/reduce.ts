/**
 * The run sheet's interpreter: one event and the state before it give the state after, or a RunSheetError
 * and nothing changed. Time is settled once, the step is found once, and one small reducer per kind does the rest; none
 * knows a procedure by name.
 */
import { RunSheetError } from '../entries/errors.ts';
import type { EventKind, EventPayloads, JobEvent, OpenedPayload, StepPayloads } from '../entries/events.ts';
import { procedureById } from '../procedures/procedures.ts';
import { keyOf, type JobState, type StepState } from '../state/jobState.ts';
import { settle } from '../state/settle.ts';
import { applicableSteps } from '../state/sheet.ts';
import { atStep, type AtStep } from './atStep.ts';
import { chargeEnded } from './charge/end.ts';
import { chargeLogged, chargeRead } from './charge/looks.ts';
import { chargePaused, chargeResumed } from './charge/pauses.ts';
import { chargeSet } from './charge/setAnew.ts';
import { chargeStarted } from './charge/start.ts';
import { decided } from './decide.ts';
import { affirmed, denied, observed } from './gate.ts';
import { arranged, evidenced, noted, photographed, placed, reopened, withdrawn, type Made } from './job.ts';
import { measured } from './measure.ts';
import { overridden, skipped } from './passOver.ts';
import { routed, routeLeft } from './route.ts';

type StepKind = keyof StepPayloads;
type JobKind = Exclude<EventKind, StepKind | 'opened' | 'corrected' | 'undone' | 'amended'>;

/** What an entry at a step makes of the job. */
const AT_STEP: { readonly [K in StepKind]: (entry: AtStep, payload: StepPayloads[K]) => JobState } = {
  affirmed,
  observed,
  denied,
  measured,
  skipped,
  overridden,
  chargeStarted,
  chargeRead,
  chargeLogged,
  chargeSet,
  chargePaused,
  chargeResumed,
  chargeEnded,
  decided,
  routed,
  routeLeft,
};

/** What an entry about the job as a whole makes of it. */
const OF_JOB: {
  readonly [K in JobKind]: (state: JobState, payload: EventPayloads[K], made: Made) => JobState;
} = { noted, photographed, evidenced, placed, arranged, withdrawn, reopened };

type Of<K extends EventKind> = Made & { readonly kind: K; readonly payload: EventPayloads[K] };

const reduceAtStep = <K extends StepKind>(
  state: JobState,
  { kind, payload, at, by }: Of<K> & { readonly payload: { readonly step: string } },
): JobState => AT_STEP[kind](atStep(state, payload.step, at, by), payload);

const reduceOfJob = <K extends JobKind>(state: JobState, { kind, payload, at, by }: Of<K>): JobState =>
  OF_JOB[kind](state, payload, { at, by });

/** The state a job begins in. */
export function openJob(event: JobEvent & { kind: 'opened' }): JobState {
  const opened: OpenedPayload = event.payload;
  const steps = applicableSteps(procedureById(opened.procedure, opened.edition ?? 1), opened).map(
    (step): StepState => ({
      key: keyOf(step.id, 1),
      stepId: step.id,
      round: 1,
      status: 'ahead',
    }),
  );
  const first = steps[0];
  const openedAt = Math.max(event.at, opened.plannedAt ?? event.at);
  if (first) steps[0] = { ...first, status: 'open', openedAt };
  return {
    job: event.job,
    opened,
    openedAt: event.at,
    bay: opened.bay,
    steps,
    cursor: 0,
    notes: [],
    photos: [],
  };
}

/**
 * Applies one plain event; corrections are resolved before this, in `fold.ts`.
 * @throws RunSheetError when the run sheet does not take it; the state given is untouched
 */
export function reduce(before: JobState, event: JobEvent): JobState {
  const state = settle(before, event.at);
  switch (event.kind) {
    case 'opened':
      throw new RunSheetError('out-of-order', 'A job is opened once, by its first entry.');
    case 'corrected':
    case 'undone':
    case 'amended':
      throw new RunSheetError('out-of-order', 'A correction is resolved before the fold.');
    case 'noted':
    case 'photographed':
    case 'evidenced':
    case 'placed':
    case 'arranged':
    case 'withdrawn':
    case 'reopened':
      return reduceOfJob(state, event);
    default:
      return reduceAtStep(state, event);
  }
}
