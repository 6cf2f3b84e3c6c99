import { expect } from 'chai';
import { axisHours, cluster, cordPath, isInside, labelRows, swayAt, xOf, type TimeScale } from './scale.ts';

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
    expect(axisHours(scale, 'Etc/UTC')).to.have.length(11);
    expect(axisHours({ from: 0, to: 96 * HOUR, width: 600 }, 'Etc/UTC').length).to.be.below(12);
  });

  it('draws the cord through both ends, swaying no further than it may', () => {
    const path = cordPath(scale, 100, 333, 40, 4);
    const points = path
      .slice(1)
      .split('L')
      .map((point) => point.split(' ').map(Number));
    expect(points[0]?.[0]).to.equal(100);
    expect(points.at(-1)?.[0]).to.equal(333);
    for (const [, y = 0] of points) expect(y).to.be.within(36, 44);
  });

  it('ties the sway to time, so that it does not swim as the window moves on', () => {
    const moment = 4 * HOUR;
    const later: TimeScale = { from: HOUR, to: 11 * HOUR, width: 600 };
    const before = swayAt(scale, xOf(scale, moment), 4);
    expect(swayAt(later, xOf(later, moment), 4)).to.be.closeTo(before, 1e-6);
  });

  it('knows what lies in the window', () => {
    expect([-1, 0, 10 * HOUR, 10 * HOUR + 1].map((at) => isInside(scale, at))).to.deep.equal([
      false,
      true,
      true,
      false,
    ]);
  });

  it('starts its hours on whole hours of the zone', () => {
    const shifted: TimeScale = { from: HOUR / 2, to: 5 * HOUR, width: 500 };
    expect(axisHours(shifted, 'Etc/UTC')[0]).to.equal(HOUR);
    expect(axisHours(shifted, 'Asia/Kolkata')[0]).to.equal(HOUR / 2);
    const days: TimeScale = { from: 0, to: 240 * HOUR, width: 600 };
    expect(axisHours(days, 'Asia/Kolkata')[0]).to.equal(18.5 * HOUR);
  });
});
