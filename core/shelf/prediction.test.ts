import { expect } from 'chai';
import { normal } from '../chance/chance.ts';
import { CATALOGUE } from '../demo/catalogue.ts';
import { shelfTrial } from '../test/shelfTrial.ts';
import { daysOf, Exposure } from './exposure.ts';
import { predict } from './prediction.ts';
import type { Spell } from './rate.ts';
import { DAY_MS } from './warmth.ts';

const typeOf = (id: string) => {
  const type = CATALOGUE.find((one) => one.id === id);
  if (!type) throw new Error(`no type ${id}`);
  return type;
};
const AGM = typeOf('LW-A12/9');
const START = Date.parse('2026-03-10T08:00:00Z');
const MONTH = 30.4 * DAY_MS;
const at = (tempC: number, drawMa = 0): Exposure =>
  new Exposure([{ from: START, days: daysOf({ tempC }, START, START), drawMa }]);
const full = (...readings: Spell['readings']): Spell => ({ from: START, isProven: true, readings });
/** Rates of single batteries lie so far apart: nine tenths over one tenth of them is 2.5. */
const spread = (chance: () => number): number => Math.exp((Math.log(2.5) / 2.563) * normal(chance));

describe('what is foretold of a battery that stands', () => {
  it('is a date with its range: the early one of ten before the likely one before the late one', () => {
    const { recharge, harm, volts, rate, isSuspect } = predict(AGM, at(25), [full()], START);
    expect(recharge.soonest).to.be.below(recharge.early ?? 0);
    expect(recharge.early).to.be.below(recharge.likely ?? 0);
    expect(recharge.likely).to.be.below(recharge.late ?? Number.POSITIVE_INFINITY);
    expect(harm.likely).to.be.above(recharge.likely ?? Number.POSITIVE_INFINITY);
    expect(volts.low).to.be.below(volts.likely);
    expect(rate.likely).to.be.closeTo(1, 0.05);
    expect(isSuspect).to.equal(false);
  });

  it('comes four times later 20 K colder, and sooner with something drawing on it', () => {
    const days = (exposure: Exposure): number =>
      ((predict(AGM, exposure, [full()], START).recharge.early ?? 0) - START) / DAY_MS;
    expect(days(at(5)) / days(at(25))).to.be.closeTo(4, 0.1);
    expect(days(at(25, 5))).to.be.below(days(at(25)) / 3);
  });

  it('reckons what draws on it in days: 12 mA take a tenth of 9 Ah in three days', () => {
    const { charge } = predict(AGM, at(5, 12), [full()], START + 3 * DAY_MS);
    // 0.86 Ah of the 10.6 its plates could give, and a little by itself.
    expect(1 - charge).to.be.closeTo(0.1, 0.03);
    const dates = predict(AGM, at(5, 12), [full()], START).start;
    expect(((dates.likely ?? 0) - START) / DAY_MS).to.be.within(14, 24);
  });

  it('narrows with two readings of its own', () => {
    const width = (spell: Spell): number => {
      const { early = 0, likely = 0 } = predict(AGM, at(25), [spell], START + 2 * MONTH).recharge;
      return (likely - early) / (likely - START);
    };
    const read = [1, 2].map((month) => ({ at: START + month * MONTH, volts: 13.02 - 0.033 * month }));
    expect(width(full(...read))).to.be.below(0.75 * width(full()));
  });

  it('a battery nobody proved full begins at its first reading', () => {
    const spell: Spell = { from: START, isProven: false, readings: [{ at: START, volts: 12.7 }] };
    const { volts, recharge } = predict(AGM, at(25), [spell], START);
    expect(volts.likely).to.be.closeTo(12.7, 0.02);
    expect(((recharge.likely ?? 0) - START) / DAY_MS).to.be.within(60, 160);
  });

  it('after three monthly readings eight of ten dates lie within their range of eight in ten', () => {
    const trial = { type: AGM, count: 1000, seed: 730_211, timesOf: spread, readings: 3, storeC: 20 };
    const { inside, named } = shelfTrial(trial);
    expect(inside).to.be.within(0.75, 0.85);
    expect(named, 'sound ones named').to.be.at.most(0.02);
  });

  it('names one that loses five times what its kind does within three readings', () => {
    for (const type of [AGM, typeOf('TQ-F12/14')]) {
      const { named } = shelfTrial({
        type,
        count: 300,
        seed: 998_117,
        timesOf: () => 5,
        readings: 3,
        storeC: 20,
      });
      expect(named, type.id).to.be.at.least(0.9);
    }
  });
});
