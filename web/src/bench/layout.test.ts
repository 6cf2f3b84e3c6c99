import { expect } from 'chai';
import { AXIS, layoutFor } from './layout.ts';

describe('the bench in the room there is', () => {
  it('twelve bays are in sight on a wide screen, their details beside the tag', () => {
    const { row, columns, hasDetails, isDense } = layoutFor(12, 1530, 920, undefined);
    expect(AXIS + 12 * row).to.be.at.most(920);
    expect({ columns, hasDetails, isDense }).to.deep.equal({ columns: 1, hasDetails: true, isDense: false });
  });

  for (const [bays, columns] of [
    [24, 1],
    [48, 2],
    [64, 2],
  ] as const)
    it(`${bays} bays are a line each, and in sight at once`, () => {
      const layout = layoutFor(bays, 1530, 1000, undefined);
      expect(layout.isDense).to.equal(true);
      expect(layout.columns).to.equal(columns);
      expect(AXIS + Math.ceil(bays / columns) * layout.row).to.be.at.most(1000);
    });

  it('a row is never lower than a line, nor higher than it says', () => {
    for (const bays of [1, 2, 30, 64])
      for (const isDense of [true, false]) {
        const { row } = layoutFor(bays, 900, 600, isDense);
        expect(row).to.be.within(isDense ? 30 : 68, isDense ? 48 : 80);
      }
  });

  it('a phone has room for its cords', () => {
    expect(layoutFor(12, 290, 700, undefined).labels).to.be.below(290 / 2);
  });
});
