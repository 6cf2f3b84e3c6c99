/** Entries that mean the same before and after one another. */
import type { EventKind } from './events.ts';

/**
 * They answer no step and lean on nothing that others enter meanwhile: a note, a picture, a reading, and what names the entry
 * it changes by that entry's own key.
 */
const COMMUTING: ReadonlySet<EventKind> = new Set([
  'noted',
  'photographed',
  'evidenced',
  'chargeRead',
  'undone',
  'corrected',
]);

/**
 * Whether an entry that was meant for an earlier place in the log may be taken in after what was recorded there meanwhile:
 * one of both must commute. The run sheet judges it there like any other.
 */
export function mayFollow(kind: EventKind, meanwhile: readonly EventKind[]): boolean {
  return COMMUTING.has(kind) || meanwhile.every((other) => COMMUTING.has(other));
}
