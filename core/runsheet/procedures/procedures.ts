/** The procedures the shop can run, and which kind of battery each is for. */
import type { BatteryKind } from '../../battery/types.ts';
import { RunSheetError } from '../errors.ts';
import type { Procedure } from '../step.ts';
import { AGM_FROM_PACK } from './agmFromPack.ts';

const PROCEDURES: Readonly<Record<string, Procedure>> = { [AGM_FROM_PACK.id]: AGM_FROM_PACK };

const FOR_KIND: Partial<Record<BatteryKind, Procedure>> = { 'agm-dry-charged': AGM_FROM_PACK };

/** @throws RunSheetError for a procedure this shop does not have */
export function procedureById(id: string): Procedure {
  const procedure = PROCEDURES[id];
  if (!procedure) throw new RunSheetError('bad-entry', `This shop has no procedure “${id}”.`);
  return procedure;
}

/** The way a kind of battery is commissioned; undefined where this bench has none yet. */
export function procedureForKind(kind: BatteryKind): Procedure | undefined {
  return FOR_KIND[kind];
}
