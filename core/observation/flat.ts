/** What a flat battery cannot show: a tester and a load judge its charge, not its health (handbook 3.2). */
import type { Reading, ReadingKind } from './readings.ts';

/**
 * Below this no tester sees it: most are fed by the battery they test, as chargers are woken by it, V a cell (handbook 3.3
 * and 3.4: 10.5 V on six). Above it what it shows is read against what an empty one would show.
 */
const FLAT_CELL_V = 10.5 / 6;

/** Readings that want a charged battery. */
const WANT_CHARGE: readonly ReadingKind[] = ['tester', 'load', 'crank'];

/** Whether a battery that stands at this voltage is too flat for a kind of reading to say anything of it. */
export const isMute = (kind: ReadingKind, standsV: number | undefined, cells: number): boolean =>
  standsV !== undefined && standsV < FLAT_CELL_V * cells && WANT_CHARGE.includes(kind);

/** Where it stands by the newest reading at rest since it was last charged or drawn, V; undefined where nobody read it. */
export function standsAt(readings: readonly Reading[], lastChange: number): number | undefined {
  const last = readings.findLast(
    ({ kind, stage = 0, midway }) => kind === 'ocv' && midway === undefined && stage > lastChange,
  );
  return last?.kind === 'ocv' ? last.volts : undefined;
}
