/** What each route takes of hands, for the advice: its steps as minutes. */
import type { StepsOf } from '../advice/hands.ts';
import type { InForce } from '../learning/learned.ts';
import type { Route, Step } from '../runsheet/definition/step.ts';
import type { OpenedPayload } from '../runsheet/entries/events.ts';
import { applicableSteps } from '../runsheet/state/sheet.ts';

/**
 * @param opened of the job: the steps its battery and its house have no use for cost no hands
 * @param minutes what each step takes in this shop over what the handbook gives it, where that was learned
 */
export function stepsOf(
  routes: readonly Route[],
  opened: OpenedPayload,
  minutes: InForce['minutes'] = {},
): StepsOf {
  const known = new Map(
    routes.map((route) => [
      route.id,
      applicableSteps(route, opened).map((step: Step) => ({
        handsMin: step.handsMin * (minutes[step.id] ?? 1),
        ...(step.kind === 'charge' ? { lookEveryMin: step.lookEveryMin } : {}),
      })),
    ]),
  );
  return (route) => known.get(route) ?? [];
}
