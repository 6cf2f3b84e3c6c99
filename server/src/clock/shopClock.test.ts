import { expect } from 'chai';
import { FOLLOWED_MS, ShopClock, type Machine } from './shopClock.ts';

const MORNING = Date.parse('2026-03-10T08:00:00Z');
const HOUR = 3_600_000;

describe('the clock of a working shop', () => {
  let wall: number;
  let elapsed: number;
  const machine: Machine = { wall: () => wall, elapsed: () => elapsed };
  const passes = (ms: number): void => {
    wall += ms;
    elapsed += ms;
  };

  beforeEach(() => {
    wall = MORNING;
    elapsed = 5000;
  });

  it('goes on with the machine’s, and follows what a network sets it by', () => {
    const clock = new ShopClock(undefined, 1, machine);
    passes(HOUR);
    expect(clock.now()).to.equal(MORNING + HOUR);
    wall += FOLLOWED_MS;
    expect(clock.now()).to.equal(MORNING + HOUR + FOLLOWED_MS);
    wall -= 20_000;
    passes(30_000);
    expect(clock.now()).to.equal(MORNING + HOUR + FOLLOWED_MS + 30_000);
    expect(clock.answer()).not.to.have.property('machineAheadMs');
  });

  for (const [what, jump] of [
    ['an hour on', HOUR],
    ['an hour back', -HOUR],
  ] as const)
    it(`that is set ${what} is noticed; the shop goes on by its own and no wait ends, until somebody says which is right`, () => {
      const clock = new ShopClock(undefined, 1, machine);
      wall += jump;
      passes(60_000);
      expect(clock.now()).to.equal(MORNING + 60_000);
      expect(clock.answer().machineAheadMs).to.equal(jump);
      clock.follow(0);
      expect(clock.now()).to.equal(MORNING + 60_000 + jump);
      expect(clock.apart()).to.equal(undefined);
    });

  it('is not taken over where it lies before what was recorded', () => {
    const clock = new ShopClock(undefined, 1, machine);
    wall -= HOUR;
    expect(() => clock.follow(MORNING)).to.throw(RangeError, 'set the machine right first');
    expect(clock.now()).to.equal(MORNING);
  });

  it('of a demo goes by its pace and knows no machine', () => {
    const clock = new ShopClock(MORNING, 60, machine);
    wall += HOUR;
    passes(60_000);
    expect(clock.now()).to.equal(MORNING + HOUR);
    expect(clock.apart()).to.equal(undefined);
  });
});
