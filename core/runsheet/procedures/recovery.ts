/** Recovery: find out, choose a route, bring it back, prove it, grade it (handbook 3). */
import type { Procedure, Route, RouteStep } from '../definition/step.ts';
import { isOfEdition } from '../entries/edition.ts';
import { CONSTANT_CURRENT, LONG_SOAK, PULSE, SLOW_CHARGE } from './recovery/chargeRoutes.ts';
import { HIGH_THEN_LOW } from './recovery/highThenLow.ts';
import { EQUALISE, LAYERED } from './recovery/mixing.ts';
import { openedCells } from './recovery/openedCells.ts';
import { CYCLES } from './recovery/cycles.ts';
import { RETIRE, RETIRE_FIRST_EDITION, SALT_CHANGE } from './recovery/otherRoutes.ts';
import { closedFirst, WATER_BACK } from './recovery/waterBack.ts';
import { PROVE, PROVE_FIRST_EDITION } from './recovery/prove.ts';
import { findOut, firstTester } from './recovery/triage.ts';
import { DONOR_WAKE, FORCED_START, SUPPLY_WAKE, WAKES_SECOND_EDITION } from './recovery/wakeRoutes.ts';
import { isDrawnDown } from '../definition/restedSteps.ts';

/** Ways on which nothing flows, and the one that closes it itself. */
const NEEDS_NO_CLOSING: readonly string[] = ['water-back', 'retire', 'salt-change'];

const ROUTES = [
  SLOW_CHARGE,
  SUPPLY_WAKE,
  DONOR_WAKE,
  FORCED_START,
  LONG_SOAK,
  CONSTANT_CURRENT,
  HIGH_THEN_LOW,
  PULSE,
  LAYERED,
  EQUALISE,
  WATER_BACK,
  CYCLES,
  SALT_CHANGE,
  PROVE,
  RETIRE,
].map((route): Route =>
  NEEDS_NO_CLOSING.includes(route.id) ? route : { ...route, steps: [closedFirst(route.id), ...route.steps] },
);

const choose: RouteStep = {
  kind: 'route',
  id: 'choose-route',
  title: 'Choose how it goes on',
  detail: (context) =>
    isOfEdition(context.opened, 4) && isDrawnDown(context)
      ? 'It was discharged and not charged since: charge it first, today.'
      : context.routes.length === 0
        ? 'Charge, rest, then judge: most batteries returned as bad only need charging.'
        : 'One route after the other; prove it when it is as good as it gets.',
  handsMin: 2,
  overdueAfterMin: 240,
  cautions: [],
};

/** More routes than any battery is worth. */
const LOOP = { from: ['choose-route'], to: 'choose-route', repeats: 19 } as const;

export const RECOVER_FLOODED: Procedure = {
  id: 'recover-flooded',
  title: 'Recover: flooded, in service',
  steps: [...findOut(true), ...openedCells, firstTester, choose],
  routes: ROUTES,
  loop: LOOP,
};

export const RECOVER_AGM: Procedure = {
  id: 'recover-agm',
  title: 'Recover: AGM or gel, in service',
  steps: [...findOut(false), firstTester, choose],
  routes: ROUTES,
  loop: LOOP,
};

const withRoutes = (replaced: readonly Route[]): readonly Procedure[] =>
  [RECOVER_FLOODED, RECOVER_AGM].map((procedure) => ({
    ...procedure,
    routes: ROUTES.map((route) => replaced.find(({ id }) => id === route.id) ?? route),
  }));

/**
 * Recoveries as older logs have them, by the last edition they are of: their proof recharged nothing after the capacity
 * test, and a wake by supply or by hand ended with its charge.
 */
export const PAST_RECOVERIES: readonly {
  readonly edition: number;
  readonly procedures: readonly Procedure[];
}[] = [
  {
    edition: 1,
    procedures: withRoutes([PROVE_FIRST_EDITION, RETIRE_FIRST_EDITION, ...WAKES_SECOND_EDITION]),
  },
  { edition: 2, procedures: withRoutes(WAKES_SECOND_EDITION) },
];
