/** What comes next: the steps of a route as they are laid out, and which of them is opened when the one before is over. */
import { applicableSteps, definitionOf, procedureOf, mostRounds } from './sheet.ts';
import { contextOf } from './context.ts';
import { keyOf, type JobState, type StepState } from './jobState.ts';
import type { Route, RouteTaken } from '../definition/step.ts';

/**
 * Lays the steps of a route out in front of the next choice.
 * @param index where they go; the choice that was made stands before it
 * @param taken the route, in the round its steps are of
 */
export function layOut(state: JobState, index: number, route: Route, taken: RouteTaken): JobState {
  const { round } = taken;
  const step = (stepId: string, inRound: number): StepState => ({
    key: keyOf(stepId, inRound),
    stepId,
    round: inRound,
    status: 'ahead',
  });
  const choice = procedureOf(state).loop.to;
  const steps = [
    ...state.steps.slice(0, index),
    ...applicableSteps(route, state.opened).map(({ id }) => step(id, round)),
    step(choice, round + 1),
    ...state.steps.slice(index),
  ];
  return { ...state, steps, routes: [...(state.routes ?? []), taken] };
}

/** Whether a step has nothing to ask as its turn comes: the one it goes with was left out, or it says so itself. */
export function isMoot(state: JobState, step: StepState): boolean {
  const { needs, isMoot: saysSo } = definitionOf(state, step);
  const isLeftOut =
    needs !== undefined &&
    state.steps.some(
      (other) => other.stepId === needs && other.round === step.round && other.status === 'skipped',
    );
  return isLeftOut || (saysSo?.(contextOf(state, step.round)) ?? false);
}

/** The route whose end is reached at this step, where it is to be gone through once more. */
function againAt(state: JobState, step: StepState): RouteTaken | undefined {
  const last = state.routes?.at(-1);
  if (!last || last.leftFor !== undefined || last.round !== step.round - 1 || step.round >= mostRounds(state))
    return undefined;
  if (definitionOf(state, step).kind !== 'route') return undefined;
  const route = routeOf(state, last);
  return route?.again?.(contextOf(state, last.round)) ? last : undefined;
}

const routeOf = (state: JobState, { route }: RouteTaken): Route | undefined =>
  procedureOf(state).routes?.find(({ id }) => id === route);

/** Opens the first step from `cursor` on that has something to ask. */
export function openNext(state: JobState, cursor: number, at: number): JobState {
  const step = state.steps[cursor];
  if (!step) return { ...state, cursor };
  const last = againAt(state, step);
  const route = last && routeOf(state, last);
  if (last && route) {
    // The choice that would have come moves behind the steps that come again.
    const without = { ...state, steps: state.steps.filter((_, index) => index !== cursor) };
    const { reason: _reason, ...taken } = last;
    return openNext(layOut(without, cursor, route, { ...taken, round: step.round, at }), cursor, at);
  }
  const steps = state.steps.slice();
  if (!isMoot(state, step)) {
    steps[cursor] = { ...step, status: 'open', openedAt: at };
    return { ...state, steps, cursor };
  }
  steps[cursor] = { ...step, status: 'skipped', openedAt: at, doneAt: at };
  return openNext({ ...state, steps }, cursor + 1, at);
}
