/** How long it takes to foretell ten thousand batteries off the bench: of every type, read never, once, or several times. */
import { CATALOGUE } from '@cork-ember/core/demo/catalogue.ts';
import type { ShelfEvent } from '@cork-ember/core/shelf/entries.ts';
import { keptOf } from '@cork-ember/core/shelf/keeping.ts';
import { overviewOf } from '@cork-ember/core/shelf/foretell.ts';
import type { ShelfItem } from '@cork-ember/core/shelf/overview.ts';
import { DAY_MS } from '@cork-ember/core/shelf/warmth.ts';

const stopwatch = globalThis.performance;
const COUNT = 10_000;
const NOW = Date.parse('2026-03-10T08:00:00Z');
const STORE = { byMonthC: [9, 10, 12, 15, 18, 22, 25, 25, 21, 17, 12, 10] };

/** Of every type, charged up to a hundred days before. */
export function itemsAt(now: number): readonly ShelfItem[] {
  return Array.from({ length: COUNT }, (_, index): ShelfItem => {
    const tag = `SK-${String(index).padStart(5, '0')}`;
    const type = CATALOGUE[index % CATALOGUE.length];
    if (!type) throw new Error('the catalogue is empty');
    const charged = now - (20 + (index % 80)) * DAY_MS;
    const entry = { tag, seq: 1, key: tag, by: 'bench' };
    const place = { kind: 'shelf', name: `Rack ${index % 40}`, warmth: STORE } as const;
    const events: readonly ShelfEvent[] = [
      { ...entry, at: charged, kind: 'placed', payload: { place } },
      ...Array.from({ length: index % 4 }, (_unused, read): ShelfEvent => ({
        ...entry,
        at: charged + (read + 1) * 6 * DAY_MS,
        kind: 'read',
        payload: { volts: (12.7 - 0.01 * read) * (type.cells / 6), source: 'meter' },
      })),
    ];
    const kept = keptOf(tag, events, [{ at: charged, isProven: true }]);
    return { tag, typeId: type.id, serial: '', dateCode: '2025-10', owner: 'stock', grade: null, kept };
  });
}

/** The first time in a process, and once more, ms. */
export function shelfMs(): readonly [number, number] {
  const all = itemsAt(NOW);
  const timed = (): number => {
    const begun = stopwatch.now();
    const { length } = overviewOf(
      all,
      CATALOGUE,
      { shelfRecharge: 'predicted', shelfLoss: 'published' },
      NOW,
    );
    if (length !== COUNT) throw new Error(`${length} of ${COUNT} were foretold`);
    return stopwatch.now() - begun;
  };
  return [timed(), timed()];
}
