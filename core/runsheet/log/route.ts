/** Entries of a recovery's way: a route is chosen, or left before its end. */
import { RunSheetError } from '../entries/errors.ts';
import type { StepPayloads } from '../entries/events.ts';
import { layOut } from '../state/ahead.ts';
import type { JobState } from '../state/jobState.ts';
import { isOn } from '../state/looks.ts';
import { mostRounds, procedureOf } from '../state/sheet.ts';
import type { AtStep } from './atStep.ts';
import { advance, LEAST_REASON, skipToRoute } from './moves.ts';

export function routed(entry: AtStep, payload: StepPayloads['routed']): JobState {
  const { state, step, at, by, context } = entry.as('route');
  const route = procedureOf(state).routes?.find(({ id }) => id === payload.route);
  if (!route) throw new RunSheetError('bad-entry', `There is no route “${payload.route}” for this battery.`);
  const most = mostRounds(state);
  if (step.round >= most)
    throw new RunSheetError('held', `${most} routes have been tried: prove what it is, or retire it.`);
  const veto = route.veto(context);
  const reason = payload.reason?.trim() ?? '';
  if (veto && !veto.canOverride) throw new RunSheetError('held', veto.why);
  if (veto && reason.length < LEAST_REASON)
    throw new RunSheetError(
      'held',
      `${veto.why} To go on all the same say in a few words why, at least ${LEAST_REASON} letters.`,
    );
  const taken = { route: route.id, round: step.round, at, by, ...(veto ? { reason } : {}) };
  return advance(layOut(state, state.cursor + 1, route, taken), at, { status: 'done', by });
}

export function routeLeft({ state, step, at, by }: AtStep, { reason }: StepPayloads['routeLeft']): JobState {
  const routes = state.routes ?? [];
  const current = routes.at(-1);
  if (!current || current.round !== step.round || current.leftFor !== undefined)
    throw new RunSheetError('bad-entry', 'No route is under way; choose one.');
  if (step.charge && isOn(step.charge))
    throw new RunSheetError('held', 'The charger is on: switch it off before the route is left.');
  const left = { ...current, leftFor: reason };
  return skipToRoute({ ...state, routes: [...routes.slice(0, -1), left] }, at, {
    status: 'skipped',
    by,
    reason,
  });
}
