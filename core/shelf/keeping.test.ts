import { expect } from 'chai';
import type { ShelfEntry, ShelfEvent } from './entries.ts';
import { keptOf, keptWith, placeOf, type BenchEnd } from './keeping.ts';
import { DAY_MS } from './warmth.ts';

const START = Date.parse('2026-01-05T08:00:00Z');
const day = (days: number): number => START + days * DAY_MS;
const event = (seq: number, at: number, entry: ShelfEntry): ShelfEvent => ({
  tag: 'SK-0001',
  seq,
  key: `#${seq}`,
  at,
  by: 'Ines',
  ...entry,
});
const IN_LIFT: ShelfEntry = {
  kind: 'placed',
  payload: { place: { kind: 'customer', name: '', machine: 'M-0002' } },
};
const RACK: ShelfEntry = { kind: 'placed', payload: { place: { kind: 'shelf', name: 'Rack 3' } } };
const kept = (events: readonly ShelfEvent[], ends: readonly BenchEnd[]) => keptOf('SK-0001', events, ends);

describe('a battery off the bench, by its entries and its jobs', () => {
  it('put away straight off the bench stands charged, though it was with its customer before', () => {
    const { spells } = kept(
      [event(1, day(0), IN_LIFT), event(2, day(13), RACK)],
      [{ at: day(10), isProven: true }],
    );
    expect(spells).to.deep.equal([{ from: day(10), isProven: true, readings: [] }]);
  });

  it('comes back from its customer with nothing known of its charge: read first', () => {
    const unused = kept(
      [event(1, day(0), IN_LIFT), event(2, day(20), RACK)],
      [{ at: day(-3), isProven: true }],
    );
    expect(unused.spells).to.deep.equal([]);
    // Charged here, gone again without a word, back after two months.
    const later = kept(
      [event(1, day(0), IN_LIFT), event(2, day(70), RACK)],
      [{ at: day(10), isProven: true }],
    );
    expect(later.spells).to.deep.equal([]);
  });

  it('retired on the bench is with the recycler, and its machine is not forgotten', () => {
    const retired = kept([event(1, day(0), IN_LIFT)], [{ at: day(4), goesTo: 'recycled' }]);
    expect(placeOf(retired)).to.deep.equal({ kind: 'recycled', name: '', machine: 'M-0002' });
  });

  it('works in its machine no more once that is said, and stays where it is', () => {
    const parted = keptWith(
      kept([event(1, day(0), IN_LIFT)], []),
      event(2, day(1), { kind: 'parted', payload: {} }),
    );
    expect(placeOf(parted)).to.deep.equal({ kind: 'customer', name: '' });
    expect(parted.seq).to.equal(2);
  });
});
