import { expect } from 'chai';
import type { ListedType } from '../battery/types.ts';
import { CATALOGUE } from '../demo/catalogue.ts';
import type { ShelfEvent } from './entries.ts';
import { keptOf } from './keeping.ts';
import { overviewOf } from './foretell.ts';
import type { Shelved } from './overview.ts';
import { picksFor, shelvedSets } from './picking.ts';
import type { Place } from './places.ts';
import { DAY_MS } from './warmth.ts';
import { saidOf } from './words.ts';

const NOW = Date.parse('2026-03-10T08:00:00Z');
const RACK: Place = { kind: 'shelf', name: 'Rack 1', warmth: { tempC: 18 } };
const types = new Map<string, ListedType>(CATALOGUE.map((type) => [type.id, type]));

interface Standing {
  readonly tag: string;
  readonly dateCode: string;
  readonly chargedAgo?: number;
  readonly typeId?: string;
  readonly place?: Place;
  readonly grade?: string;
  readonly read?: number;
  /** Never charged: it stands as it was made. */
  readonly isDry?: boolean;
}

function shelf(...all: readonly Standing[]): readonly Shelved[] {
  return overviewOf(
    all.map(
      ({
        tag,
        dateCode,
        chargedAgo = 20,
        typeId = 'LW-A12/9',
        place = RACK,
        grade = null,
        read,
        isDry = false,
      }) => {
        const charged = NOW - chargedAgo * DAY_MS;
        const entry = { tag, seq: 1, key: tag, at: charged, by: 'Ines' };
        const events: readonly ShelfEvent[] = [
          { ...entry, kind: 'placed', payload: { place } },
          ...(read === undefined
            ? []
            : [{ ...entry, at: NOW, kind: 'read', payload: { volts: read, source: 'keypad' } } as const]),
        ];
        const kept = keptOf(tag, events, isDry ? [] : [{ at: charged, isProven: true }]);
        return { tag, typeId, serial: '', dateCode, owner: 'stock', grade, kept };
      },
    ),
    CATALOGUE,
    { shelfRecharge: 'predicted', shelfLoss: 'published' },
    NOW,
  );
}

const tags = (shelved: readonly Shelved[], capacityAh = 9): readonly string[] =>
  picksFor(shelved, types, { cells: 6, capacityAh }, NOW).map(({ one }) => one.tag);

describe('taking a battery off the shelf', () => {
  it('begins with the oldest good one', () => {
    const shelved = shelf(
      { tag: 'SK-0003', dateCode: '2025-11' },
      { tag: 'SK-0001', dateCode: '2025-06', chargedAgo: 10 },
      { tag: 'SK-0002', dateCode: '2025-06', chargedAgo: 40 },
    );
    expect(tags(shelved)).to.deep.equal(['SK-0002', 'SK-0001', 'SK-0003']);
  });

  it('fills one to order only where none stands ready, the oldest box first, and says how long that takes', () => {
    const dry = { ...RACK, isDry: true } as const;
    const boxes = [
      { tag: 'SK-0011', dateCode: '2025-09', place: dry, isDry: true },
      { tag: 'SK-0012', dateCode: '2023-02', place: dry, isDry: true },
    ];
    const shelved = shelf(...boxes, { tag: 'SK-0001', dateCode: '2025-11' });
    expect(tags(shelved)).to.deep.equal(['SK-0001', 'SK-0012', 'SK-0011']);
    const [old] = shelved.filter(({ tag }) => tag === 'SK-0012');
    expect(old?.due).to.deep.equal([]);
    expect(old && saidOf(old, NOW, 'Etc/UTC').words).to.match(
      /^not filled yet, 37 months: about 4\d % once filled/,
    );
    const picks = picksFor(shelved, types, { cells: 6, capacityAh: 9 }, NOW);
    expect(picks[0]?.fillFirstH).to.equal(undefined);
    expect(picks[1]?.fillFirstH).to.be.above(picks[2]?.fillFirstH ?? Infinity);
  });

  it('leaves a set together: none of it goes alone, all of it goes once all is ready', () => {
    const together = (...read: readonly number[]): readonly Shelved[] =>
      shelf(...read.map((volts, index) => ({ tag: `SK-000${index}`, dateCode: '2025-06', read: volts }))).map(
        (one) => ({ ...one, set: 'Night ferry' }),
      );
    const alone = shelf({ tag: 'SK-0009', dateCode: '2025-08' });
    expect(tags([...together(12.9, 12.9), ...alone])).to.deep.equal(['SK-0009']);
    const [ready] = shelvedSets([...together(12.9, 12.9), ...alone]);
    expect(ready?.members.map(({ tag }) => tag)).to.have.members(['SK-0000', 'SK-0001']);
    expect(ready?.isReady).to.equal(true);
    expect(shelvedSets(together(12.9, 12.45))[0]?.isReady).to.equal(false);
    // The third of them is on the bench.
    const two = together(12.9, 12.9).map((one) => ({ ...one, setOf: 3 }));
    expect(shelvedSets(two)[0]?.isReady).to.equal(false);
  });

  it('takes what serves: the same cells, a tenth less to a quarter more', () => {
    const shelved = shelf(
      { tag: 'SK-0001', dateCode: '2025-06', typeId: 'LW-A12/12' },
      { tag: 'SK-0002', dateCode: '2025-07' },
      { tag: 'SK-0003', dateCode: '2025-05', typeId: 'LW-A6/12' },
    );
    expect(tags(shelved, 9)).to.deep.equal(['SK-0002']);
    expect(tags(shelved, 10)).to.deep.equal(['SK-0001', 'SK-0002']);
  });

  it('leaves what leaks, what stood too low, what is in a machine, and what is graded for the bench', () => {
    const shelved = shelf(
      { tag: 'SK-0001', dateCode: '2025-06', read: 12.35 },
      { tag: 'SK-0002', dateCode: '2025-06', place: { kind: 'display', name: 'Quad bike' } },
      { tag: 'SK-0003', dateCode: '2025-06', grade: 'C' },
      { tag: 'SK-0004', dateCode: '2025-06', grade: 'B' },
    );
    expect(tags(shelved)).to.deep.equal(['SK-0004']);
  });

  it('says of one below its line how long it is charged before it goes', () => {
    const [low] = picksFor(
      shelf({ tag: 'SK-0001', dateCode: '2025-06', chargedAgo: 300, read: 12.58 }),
      types,
      { cells: 6, capacityAh: 9 },
      NOW,
    );
    // A third is missing: three and a half hours at a tenth, and the tail.
    expect(low?.chargeFirstH).to.be.within(5, 7);
    const [fresh] = picksFor(
      shelf({ tag: 'SK-0002', dateCode: '2025-06' }),
      types,
      { cells: 6, capacityAh: 9 },
      NOW,
    );
    expect(fresh?.chargeFirstH).to.equal(undefined);
  });
});
