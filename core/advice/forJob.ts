/** Ways open to the battery of a recovery, by its run sheet: what safety and the house forbid is sorted out first. */
import { constructionOf } from '../battery/types.ts';
import { onSix } from '../battery/types.ts';
import { restedV } from '../runsheet/procedures/recovery/wakeRoutes.ts';
import { contextOf, procedureOf, type JobState } from '../runsheet/state.ts';
import { waysFrom, type Ways } from './courses.ts';

/** A charger sees nothing below this, V on six cells. */
const ASLEEP_BELOW = 10.5;

export function waysOf(state: JobState): Ways {
  const round = state.steps[state.cursor]?.round ?? 1;
  const context = contextOf(state, round);
  const { type } = state.opened;
  const volts = restedV(context);
  const judged = (procedureOf(state).routes ?? []).map((route) => ({ route, veto: route.veto(context) }));
  return waysFrom(
    judged,
    constructionOf(type.kind) === 'agm',
    volts !== undefined && volts < onSix(ASLEEP_BELOW, type),
  );
}
