/** The procedures the shop can run, and which kinds of battery each is for. */
import { CONSTRUCTION } from '../../battery/construction.ts';
import { isFilledByHand, isTaken, type ListedType } from '../../battery/types.ts';
import { RunSheetError } from '../entries/errors.ts';
import type { Procedure } from '../definition/step.ts';
import { ACTIVATED, DISPLAY_REFRESH } from './activatedAgm.ts';
import { AGM_FROM_PACK } from './agmFromPack.ts';
import { FLOODED_BY_HAND } from './floodedByHand.ts';
import { REFRESH } from './refresh.ts';
import { PAST_RECOVERIES, RECOVER_AGM, RECOVER_FLOODED } from './recovery.ts';
import { handingOver } from './shared/handOver.ts';
import { EDITION } from '../entries/events.ts';

/** Every procedure there is today. */
export const ALL_PROCEDURES: readonly Procedure[] = [
  AGM_FROM_PACK,
  FLOODED_BY_HAND,
  ACTIVATED,
  DISPLAY_REFRESH,
  RECOVER_AGM,
  RECOVER_FLOODED,
  REFRESH,
];
const PROCEDURES: ReadonlyMap<string, Procedure> = new Map(
  ALL_PROCEDURES.map((procedure) => [procedure.id, procedure]),
);

/** Sealed batteries as logs of the first two editions have them: asked about a vent hose as open ones are. */
const PAST_SEALED: readonly Procedure[] = [AGM_FROM_PACK, ACTIVATED].map((procedure) => ({
  ...procedure,
  steps: procedure.steps.map(
    (step) => handingOver(true).find(({ id }) => id === step.id && id === 'fit') ?? step,
  ),
}));
const LAST_SEALED_EDITION = 2;

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

/** What a new one is commissioned by: how it is filled, or that it came filled; nothing where it is in service. */
function commissioning(type: ListedType): readonly Procedure[] {
  if (isFilledByHand(type)) return [FLOODED_BY_HAND];
  if (type.delivery === 'own-pack' && type.construction === 'agm') return [AGM_FROM_PACK];
  return type.delivery === 'factory-activated' ? [ACTIVATED] : [];
}

/** What can be done with a type, the usual first; nothing with what this bench does not take. */
export function proceduresFor(type: ListedType): readonly Procedure[] {
  if (!isTaken(type)) return [];
  if (!CONSTRUCTION[type.construction].isValveRegulated)
    return [...commissioning(type), RECOVER_FLOODED, REFRESH];
  return type.delivery === 'in-service'
    ? [RECOVER_AGM, DISPLAY_REFRESH, REFRESH]
    : [...commissioning(type), DISPLAY_REFRESH, RECOVER_AGM, REFRESH];
}

/** What is usually done with a type; undefined where this bench takes none. */
export const procedureFor = (type: ListedType): Procedure | undefined => proceduresFor(type)[0];
