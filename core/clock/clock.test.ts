import { expect } from 'chai';
import { jumpedTo, repaced, shopTimeAt } from './clock.ts';

describe('shop clock', () => {
  const face = { realMs: 1_000, shopMs: 500_000, pace: 60 } as const;

  it('runs as many shop seconds per real second as its pace says', () => {
    expect(shopTimeAt(face, 3_000)).to.equal(500_000 + 2_000 * 60);
  });

  it('keeps the shop time when the pace changes', () => {
    const faster = repaced(face, 3_000, 600);
    expect(shopTimeAt(faster, 3_000)).to.equal(shopTimeAt(face, 3_000));
    expect(shopTimeAt(faster, 3_001)).to.equal(shopTimeAt(face, 3_000) + 600);
  });

  it('jumps forward, never back', () => {
    expect(shopTimeAt(jumpedTo(face, 1_000, 900_000), 1_000)).to.equal(900_000);
    expect(() => jumpedTo(face, 1_000, 499_999)).to.throw(RangeError, 'cannot go back');
  });
});
