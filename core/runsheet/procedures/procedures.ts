/** The procedures the shop can run, and which kinds of battery each is for. */
import type { BatteryKind } from '../../battery/types.ts';
import { RunSheetError } from '../errors.ts';
import type { Procedure } from '../step.ts';
import { ACTIVATED_AGM, DISPLAY_REFRESH } from './activatedAgm.ts';
import { AGM_FROM_PACK } from './agmFromPack.ts';
import { FLOODED_BY_HAND } from './floodedByHand.ts';
import { PAST_RECOVERIES, RECOVER_AGM, RECOVER_FLOODED } from './recovery.ts';
import { handingOver } from './shared/handOver.ts';
import { EDITION } from '../events.ts';

const ALL: readonly Procedure[] = [
  AGM_FROM_PACK,
  FLOODED_BY_HAND,
  ACTIVATED_AGM,
  DISPLAY_REFRESH,
  RECOVER_AGM,
  RECOVER_FLOODED,
];
const PROCEDURES: ReadonlyMap<string, Procedure> = new Map(ALL.map((procedure) => [procedure.id, procedure]));

/** Sealed batteries as logs of the first two editions have them: asked about a vent hose as open ones are. */
const PAST_SEALED: readonly Procedure[] = [AGM_FROM_PACK, ACTIVATED_AGM].map((procedure) => ({
  ...procedure,
  steps: procedure.steps.map(
    (step) => handingOver(true).find(({ id }) => id === step.id && id === 'fit') ?? step,
  ),
}));
const LAST_SEALED_EDITION = 2;

/** What can be done with a kind of battery, the usual first. */
const FOR_KIND: Readonly<Record<BatteryKind, readonly Procedure[]>> = {
  'agm-dry-charged': [AGM_FROM_PACK, DISPLAY_REFRESH, RECOVER_AGM],
  'flooded-dry-charged': [FLOODED_BY_HAND, RECOVER_FLOODED],
  'agm-activated': [ACTIVATED_AGM, DISPLAY_REFRESH, RECOVER_AGM],
  lithium: [],
};

/**
 * @param edition the log goes by; today's where it is not given
 * @throws RunSheetError for a procedure this shop does not have
 */
export function procedureById(id: string, edition = EDITION): Procedure {
  const past = PAST_RECOVERIES.find((one) => edition <= one.edition);
  const procedure =
    past?.procedures.find((one) => one.id === id) ??
    (edition <= LAST_SEALED_EDITION ? PAST_SEALED.find((one) => one.id === id) : undefined) ??
    PROCEDURES.get(id);
  if (!procedure) throw new RunSheetError('bad-entry', `This shop has no procedure “${id}”.`);
  return procedure;
}

export function proceduresForKind(kind: BatteryKind): readonly Procedure[] {
  return FOR_KIND[kind];
}

/** The way a kind of battery is usually commissioned; undefined where this bench takes none. */
export function procedureForKind(kind: BatteryKind): Procedure | undefined {
  return FOR_KIND[kind][0];
}
