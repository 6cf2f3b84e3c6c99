/** Entries of a recovery's way: a route is chosen, or left before its end. */
import { layOut, MOST_ROUNDS } from './ahead.ts';
import { RunSheetError } from './errors.ts';
import { advance, atHand, expectKind, skipToRoute, type EventOf } from './moves.ts';
import { isOn } from './reduceCharge.ts';
import { contextOf, procedureOf, type JobState } from './state.ts';

export function routed(state: JobState, { at, by, payload }: EventOf<'routed'>): JobState {
  const { step, definition } = atHand(state, payload.step, at);
  expectKind(definition, ['route']);
  const route = procedureOf(state).routes?.find(({ id }) => id === payload.route);
  if (!route) throw new RunSheetError('bad-entry', `There is no route “${payload.route}” for this battery.`);
  if (step.round >= MOST_ROUNDS)
    throw new RunSheetError('held', `${MOST_ROUNDS} routes have been tried: prove what it is, or retire it.`);
  const veto = route.veto(contextOf(state, step.round));
  const reason = payload.reason?.trim() ?? '';
  if (veto && !veto.canOverride) throw new RunSheetError('held', veto.why);
  if (veto && reason.length < 8)
    throw new RunSheetError(
      'held',
      `${veto.why} To go on all the same say in a few words why, at least 8 letters.`,
    );
  const taken = { route: route.id, round: step.round, at, by, ...(veto ? { reason } : {}) };
  return advance(layOut(state, state.cursor + 1, route, taken), at, { status: 'done', by });
}

export function routeLeft(state: JobState, { at, by, payload }: EventOf<'routeLeft'>): JobState {
  const { step } = atHand(state, payload.step, at);
  const routes = state.routes ?? [];
  const current = routes.at(-1);
  if (!current || current.round !== step.round || current.leftFor !== undefined)
    throw new RunSheetError('bad-entry', 'No route is under way; choose one.');
  if (step.charge && isOn(step.charge))
    throw new RunSheetError('held', 'The charger is on: switch it off before the route is left.');
  const left = { ...current, leftFor: payload.reason };
  return skipToRoute({ ...state, routes: [...routes.slice(0, -1), left] }, at, {
    status: 'skipped',
    by,
    reason: payload.reason,
  });
}
