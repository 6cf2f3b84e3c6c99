import { expect } from 'chai';
import { axisHours, cluster, labelRows, xOf, type TimeScale } from './scale.ts';

const HOUR = 3_600_000;
const scale: TimeScale = { from: 0, to: 10 * HOUR, width: 600 };

describe('cord scale', () => {
  it('puts moments in proportion', () => {
    expect(xOf(scale, 5 * HOUR)).to.equal(300);
  });

  it('merges knots minutes apart and keeps knots an hour apart', () => {
    const placed = cluster(
      [0, 5 / 60, 1, 2].map((hours) => hours * HOUR),
      (at) => xOf(scale, at),
      16,
    );
    expect(placed.map((one) => one.items.length)).to.deep.equal([2, 1, 1]);
  });

  it('puts crowded labels into further rows, and leaves out what fits nowhere', () => {
    expect(labelRows([10, 30, 50, 200], 40, 2)).to.deep.equal([0, 1, undefined, 0]);
  });

  it('thins the hours of an axis that spans days', () => {
    expect(axisHours(scale, 0)).to.have.length(11);
    expect(axisHours({ from: 0, to: 96 * HOUR, width: 600 }, 0).length).to.be.below(12);
  });
});
