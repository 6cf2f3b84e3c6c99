/** What each route takes of hands, for the advice: its steps as minutes. */
import type { StepsOf } from '../advice/hands.ts';
import type { Route, Step } from '../runsheet/definition/step.ts';
import type { OpenedPayload } from '../runsheet/entries/events.ts';
import { applicableSteps } from '../runsheet/state/sheet.ts';

/** @param opened of the job: the steps its battery and its house have no use for cost no hands */
export function stepsOf(routes: readonly Route[], opened: OpenedPayload): StepsOf {
  const known = new Map(
    routes.map((route) => [
      route.id,
      applicableSteps(route, opened).map((step: Step) => ({
        handsMin: step.handsMin,
        ...(step.kind === 'charge' ? { lookEveryMin: step.lookEveryMin } : {}),
      })),
    ]),
  );
  return (route) => known.get(route) ?? [];
}
