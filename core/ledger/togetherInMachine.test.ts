import { expect } from 'chai';
import { dragging, type InMachine } from './togetherInMachine.ts';
import { SET_LIMITS } from './sets.ts';

const one = (tag: string, more: Partial<InMachine> = {}): InMachine => ({ tag, cells: 6, ...more });
const named = (...all: readonly InMachine[]) =>
  dragging(all, SET_LIMITS.handbook).map(({ tag, why }) => `${tag}: ${why}`);

describe('batteries that work together in a machine', () => {
  it('the one at the plateau of a dead cell after its charge drags the others down', () => {
    const good = ['A', 'B', 'C'].map((tag, index) => one(tag, { chargedV: 12.82 + index * 0.02 }));
    expect(named(...good, one('D', { chargedV: 10.52 }))).to.deep.equal([
      'D: 10.52 V after its charge: the plateau of a dead cell',
    ]);
  });

  it('so does one that stays a tenth of a charge below them, by volts alone, on any number of cells', () => {
    expect(
      named(one('A', { chargedV: 12.85 }), one('B', { chargedV: 12.83 }), one('C', { chargedV: 12.5 })),
    ).to.deep.equal(['C: 12.50 V after its charge, the others 12.84 V']);
    const six = (tag: string, chargedV: number) => one(tag, { cells: 3, chargedV });
    expect(named(six('A', 6.42), six('B', 6.42), six('C', 6.36))).to.deep.equal([]);
    expect(named(six('A', 6.42), six('B', 6.42), six('C', 6.3))).to.have.length(1);
  });

  it('is told by capacity and resistance where volts are alike, within the house’s limits', () => {
    const alike = { chargedV: 12.84, milliohm: 5 };
    const four = [0.9, 0.89, 0.91, 0.6].map((capacityShare, index) =>
      one(String.fromCharCode(65 + index), { ...alike, capacityShare }),
    );
    expect(named(...four)).to.deep.equal(['D: 60 % of its rating, the others 90 %']);
    expect(named(one('A', alike), one('B', alike), one('C', { ...alike, milliohm: 6.1 }))).to.deep.equal([
      'C: 6.1 mΩ, the others 5.0 mΩ',
    ]);
    const wide = [one('A', alike), one('B', alike), one('C', { ...alike, milliohm: 5.9 })];
    expect(dragging(wide, SET_LIMITS.wide)).to.deep.equal([]);
    expect(dragging(wide, SET_LIMITS.handbook)).to.have.length(1);
  });

  it('names what the bench retired and what went to the recycler uncharged; nobody before anything was measured', () => {
    expect(named(one('A'), one('B'))).to.deep.equal([]);
    expect(
      named(
        one('A', { job: 'j', outcome: 'retired' }),
        one('B', { place: { kind: 'recycled', name: '' } }),
        one('C', { chargedV: 12.8 }),
      ),
    ).to.deep.equal(['A: retired on the bench', 'B: beyond charging when it came in']);
  });
});
