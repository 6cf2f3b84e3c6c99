import { expect } from 'chai';
import { CATALOGUE } from '../demo/catalogue.ts';
import { shelfYear } from '../test/shelfYear.ts';
import { dueOf, type Due, type ShelfRules } from './due.ts';
import type { ShelfEntry, ShelfEvent } from './entries.ts';
import { exposureOf, keptOf, placeOf, type Kept } from './keeping.ts';
import type { PlaceKind } from './places.ts';
import { predict } from './prediction.ts';
import { DAY_MS } from './warmth.ts';

const CHARGED = Date.parse('2026-03-10T08:00:00Z');
const RULES: ShelfRules = { shelfRecharge: 'predicted', shelfLoss: 'published' };

const typeOf = (id: string) => {
  const type = CATALOGUE.find((one) => one.id === id);
  if (!type) throw new Error(`no type ${id}`);
  return type;
};

const event = (day: number, entry: ShelfEntry): ShelfEvent => ({
  tag: 'SK-0001',
  seq: 1,
  key: `#${day}`,
  at: CHARGED + day * DAY_MS,
  by: 'Ines',
  ...entry,
});
const placed = (day: number, kind: PlaceKind, tempC = 15): ShelfEvent =>
  event(day, { kind: 'placed', payload: { place: { kind, name: '', warmth: { tempC } } } });
const read = (day: number, volts: number): ShelfEvent =>
  event(day, { kind: 'read', payload: { volts, source: 'keypad' } });

const kept = (...events: readonly ShelfEvent[]): Kept =>
  keptOf('SK-0001', events, [{ at: CHARGED, isProven: true }]);

function due(of: Kept, day: number, rules: Partial<ShelfRules> = {}, id = 'LW-A12/9'): readonly Due[] {
  const type = typeOf(id);
  const now = CHARGED + day * DAY_MS;
  const known = of.spells.length > 0 ? predict(type, exposureOf(of, now), of.spells, now) : undefined;
  return dueOf(type, of, known, { ...RULES, ...rules }, now);
}

const days = ({ by }: Due): number => Math.round((by - CHARGED) / DAY_MS);

describe('what a battery off the bench wants', () => {
  it('by the default rule: a first reading after a month, a charge after three', () => {
    expect(due(kept(placed(0, 'shelf')), 1).map((one) => [one.want, days(one)])).to.deep.equal([
      ['read', 30],
      ['recharge', 91],
    ]);
    // Its own rate is known, and slow: nothing before its charge.
    const known = kept(placed(0, 'shelf'), read(20, 12.99), read(40, 12.98));
    expect(due(known, 41).map((one) => [one.want, days(one)])).to.deep.equal([['recharge', 91]]);
  });

  it('sooner where its readings say so, and at once below its line', () => {
    const leaking = kept(placed(0, 'shelf'), read(10, 12.86), read(30, 12.62));
    const [first] = due(leaking, 30);
    expect(first?.want).to.equal('recharge');
    expect(first && days(first)).to.be.below(40);
    const below = kept(placed(0, 'shelf'), read(30, 12.41));
    expect(due(below, 30)[0]).to.include({ want: 'recharge', because: 'below its line' });
  });

  it('by the other rules: monthly, half-yearly, before the season, and as the trade says', () => {
    const standing = kept(placed(0, 'shelf'));
    const by = (rules: Partial<ShelfRules>): number | undefined => due(standing, 1, rules).map(days)[0];
    expect(by({ shelfRecharge: 'monthly' })).to.equal(30);
    expect(by({ shelfRecharge: 'sixMonthly' })).to.equal(182);
    // Charged in March: fresh enough for the first of May.
    expect(by({ shelfRecharge: 'seasons' })).to.equal(52);
    // 0.2 V at 0.14 V a month.
    const spoken = due(standing, 1, { shelfLoss: 'spoken' }).find(({ want }) => want === 'recharge');
    expect(spoken && days(spoken)).to.be.within(38, 46);
  });

  it('on a maintainer a look a month, and water a quarter where it has caps', () => {
    const maintained = kept(placed(1, 'maintainer'));
    expect(due(maintained, 2).map((one) => [one.want, days(one)])).to.deep.equal([['tend', 31]]);
    expect(due(maintained, 2, {}, 'TQ-F12/14').map((one) => [one.want, days(one)])).to.deep.equal([
      ['tend', 31],
      ['water', 92],
    ]);
    const tended = kept(
      placed(1, 'maintainer'),
      event(31, { kind: 'tended', payload: { floatV: 13.6, waterMl: 20 } }),
    );
    expect(due(tended, 32, {}, 'TQ-F12/14').map((one) => [one.want, days(one)])).to.deep.equal([
      ['tend', 61],
      ['water', 122],
    ]);
  });

  it('nothing of one nobody here looks after', () => {
    for (const kind of ['supplier', 'sold', 'recycled'] as const)
      expect(due(kept(placed(0, kind)), 300)).to.deep.equal([]);
  });

  it('a call: a month after it was lent or last asked about; to its owner before the season', () => {
    const calls = (of: Kept, day: number): readonly number[] =>
      due(of, day)
        .filter(({ want }) => want === 'call')
        .map(days);
    expect(calls(kept(placed(0, 'lent')), 5)).to.deep.equal([30]);
    const called = event(28, { kind: 'called', payload: { said: 'back on Monday' } });
    expect(calls(kept(placed(0, 'lent'), called), 40)).to.deep.equal([58]);
    const [ownersCall] = due(kept(placed(0, 'customer')), 5);
    expect(ownersCall?.want).to.equal('call');
    expect(new Date(ownersCall?.by ?? 0).getUTCDate()).to.equal(1);
    expect([4, 10]).to.include(new Date(ownersCall?.by ?? 0).getUTCMonth());
  });
});

describe('a battery off the bench', () => {
  it('that comes back from whoever used it is read first: nothing is known of its charge', () => {
    for (const kind of ['lent', 'customer', 'sold'] as const) {
      const back = kept(placed(0, kind), placed(50, 'shelf'));
      expect(back.spells, kind).to.deep.equal([]);
      expect(due(back, 51).map(({ want }) => want)).to.deep.equal(['read']);
    }
    expect(kept(placed(0, 'display'), placed(50, 'shelf')).spells).to.have.length(1);
  });

  it('begins anew with each charge, and when it comes off its maintainer', () => {
    const moved = kept(placed(0, 'shelf'), read(30, 12.95), placed(40, 'maintainer'), placed(200, 'cold', 5));
    expect(placeOf(moved)?.kind).to.equal('cold');
    expect(moved.spells.map(({ from }) => (from - CHARGED) / DAY_MS)).to.deep.equal([0, 200]);
    const charged = keptOf(
      'SK-0001',
      [placed(0, 'shelf'), read(30, 12.95)],
      [
        { at: CHARGED, isProven: true },
        { at: CHARGED + 90 * DAY_MS, isProven: true },
      ],
    );
    expect(charged.spells.map(({ readings }) => readings.length)).to.deep.equal([1, 0]);
  });

  it('stays bounded however long it stands and however often it is read', () => {
    const often = kept(placed(0, 'shelf'), ...Array.from({ length: 500 }, (_, day) => read(day, 12.9)));
    expect(JSON.stringify(often).length).to.be.below(2000);
    expect(often.spells[0]?.readings[0]?.at).to.equal(CHARGED);
    expect(often.spells[0]?.readings.at(-1)?.at).to.equal(CHARGED + 499 * DAY_MS);
  });
});

describe('a year of a shop with two hundred batteries', () => {
  const types = CATALOGUE.filter(({ cells }) => cells === 6 || cells === 3);
  const year = (rules: Partial<ShelfRules>) => shelfYear(types, 200, { ...RULES, ...rules }, 77_123);

  it('loses none by the default rule, at less than half of what charging monthly costs', () => {
    const [byDefault, monthly] = [year({}), year({ shelfRecharge: 'monthly' })];
    expect(byDefault.harmed).to.equal(0);
    expect(monthly.harmed).to.equal(0);
    expect(byDefault.handsMin).to.be.below(monthly.handsMin / 2);
  });

  it('loses some by the owner’s habits, and pays for the trade’s spoken figure', () => {
    expect(year({ shelfRecharge: 'sixMonthly' }).harmed).to.be.above(0);
    expect(year({ shelfRecharge: 'seasons' }).harmed).to.be.above(0);
    expect(year({ shelfLoss: 'spoken' }).handsMin).to.be.above(2 * year({}).handsMin);
  });
});
