import { expect } from 'chai';
import { speedAt } from '../battery/selfDischarge.ts';
import { CATALOGUE } from '../demo/catalogue.ts';
import { recognise } from '../logger/columns.ts';
import { readRoomLog } from '../logger/log.ts';
import { foretoldOf } from './foretell.ts';
import { keptOf } from './keeping.ts';
import { loggedWarmth } from './loggedWarmth.ts';
import { inStores, storeNamed } from './stores.ts';
import { DAY_MS, warmthAt } from './warmth.ts';
import { warmthText } from './warmthText.ts';

const START = Date.parse('2026-01-05T00:00:00Z');
const HOURS = Array.from({ length: 24 * 40 }, (_, hour) => hour);
const at = HOURS.map((hour) => START + hour * 3_600_000);

const type = CATALOGUE.find(({ id }) => id === 'LW-A12/9');
if (!type) throw new Error('the catalogue has LW-A12/9');
const kept = keptOf(
  'SK-0001',
  [
    {
      tag: 'SK-0001',
      seq: 1,
      key: 'k',
      by: 'Ines',
      at: START,
      kind: 'placed',
      payload: { place: { kind: 'shelf', name: 'Rack 3', warmth: { tempC: 18 } } },
    },
  ],
  [{ at: START, isProven: true }],
);
const item = {
  tag: 'SK-0001',
  typeId: type.id,
  serial: '',
  dateCode: '2025-10',
  owner: 'stock',
  grade: null,
  kept,
};
const RULES = { shelfRecharge: 'predicted', shelfLoss: 'published' } as const;

describe('how warm a store is', () => {
  it('counts for all that stand there by its name, whatever was said when they were put there', () => {
    const stores = [{ name: 'rack 3 ', warmth: { tempC: 28 } }];
    expect(storeNamed(stores, 'Rack 3')).to.equal(stores[0]);
    expect(inStores(kept, [])).to.equal(kept);
    expect(inStores(kept, [{ name: 'Rack 4', warmth: { tempC: 5 } }])).to.equal(kept);
    expect(inStores(kept, stores).stays[0]?.place.warmth).to.deep.equal({ tempC: 28 });
    const line = (of: typeof stores) =>
      foretoldOf(item, type, { rules: RULES, stores: of }, START + 30 * DAY_MS)?.prediction?.recharge
        .likely ?? 0;
    // Ten kelvin more, half the days.
    expect((line(stores) - START) / (line([]) - START)).to.be.closeTo(0.5, 0.01);
  });

  it('by a logger takes of each day what the day did: an afternoon in the sun counts more than its mean', () => {
    const tempC = HOURS.map((hour) => (hour % 24 < 12 ? 10 : 30));
    const logged = loggedWarmth(at, tempC, { tempC: 18 });
    expect(logged.loggedC).to.have.length(40);
    const day = logged.loggedC[7] ?? 0;
    expect(speedAt(day)).to.be.closeTo((speedAt(10) + speedAt(30)) / 2, 0.01);
    expect(day).to.be.above(20);
    expect(warmthAt(logged, START + 7.3 * DAY_MS)).to.equal(day);
  });

  it('keeps the months the logger did not see, warmer or colder by what it found', () => {
    const before = { byMonthC: [5, 6, 8, 11, 14, 17, 20, 20, 16, 12, 8, 6] };
    const tempC = at.map((moment) => warmthAt(before, moment) + 4);
    const { byMonthC, loggedC } = loggedWarmth(at, tempC, before);
    expect(byMonthC[6]).to.be.closeTo(24, 0.3);
    expect(byMonthC[0]).to.be.closeTo(9, 0.5);
    expect(loggedC[0]).to.be.closeTo(warmthAt(before, START + DAY_MS / 2) + 4, 0.1);
  });

  it('fills the days a logger slept from its months', () => {
    const awake = HOURS.filter((hour) => hour < 24 * 10 || hour >= 24 * 30);
    const { loggedC } = loggedWarmth(
      awake.map((hour) => START + hour * 3_600_000),
      awake.map(() => 12),
      { tempC: 12 },
    );
    expect(loggedC).to.have.length(40);
    expect(Math.min(...loggedC)).to.be.closeTo(12, 0.1);
    expect(Math.max(...loggedC)).to.be.closeTo(12, 0.1);
  });

  it('is said in words', () => {
    expect(warmthText({ tempC: 18 })).to.equal('18 °C');
    expect(warmthText({ byMonthC: [9, 9, 11, 13, 16, 19, 21, 21, 18, 15, 11, 10] })).to.equal(
      '9 to 21 °C by month',
    );
    const logged = loggedWarmth(
      at,
      at.map(() => 12),
      { tempC: 12 },
    );
    expect(warmthText(logged)).to.equal('12 °C, logged 2026-01-05 to 2026-02-13');
  });

  it('is read from a table with dates, in °C or °F, and refused in a sentence without them', () => {
    const read = (head: string, row: (index: number) => string[]) => {
      const rows = [head.split(';'), ...Array.from({ length: 60 }, (_, index) => row(index))];
      return readRoomLog(rows, recognise(rows.slice(0, 40)), 'Etc/UTC');
    };
    const day = (index: number) => `2026-01-05 ${String(index % 24).padStart(2, '0')}:00`;
    const celsius = read('Time;Temperature °C', (index) => [
      new Date(START + index * 3_600_000).toISOString().slice(0, 16).replace('T', ' '),
      (12 + (index % 3)).toFixed(1),
    ]);
    expect(celsius.at[0]).to.equal(START);
    expect(celsius.tempC[1]).to.equal(13);
    const fahrenheit = read('Time;Temperature °F', (index) => [
      new Date(START + index * 3_600_000).toISOString().slice(0, 16).replace('T', ' '),
      '50.0',
    ]);
    expect(fahrenheit.tempC[0]).to.be.closeTo(10, 1e-9);
    expect(() => read('Time;Temperature °C', (index) => [day(index).slice(11), '12.5'])).to.throw(
      'Its clock says no day: a room’s log needs dates.',
    );
  });
});
