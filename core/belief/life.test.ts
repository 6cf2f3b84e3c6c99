import { expect } from 'chai';
import type { Setting } from '../candidate/traits.ts';
import { AGM_80 } from '../test/modelBench.ts';
import { Belief } from './belief.ts';
import { lifeOf } from './life.ts';

const setting = (ageYears?: number, duty: 'starter' | 'standby' = 'starter'): Setting => ({
  rating: { ...AGM_80, duty },
  history: { construction: 'agm', complaint: 'unknown', ...(ageYears === undefined ? {} : { ageYears }) },
  tempC: 21,
});

describe('how long a battery will serve in its duty', () => {
  it('one that wore little in many years outlives one that wore as much in few', () => {
    expect(lifeOf({ left: 0.92 }, 0.9, setting(8), 0.5)).to.be.greaterThan(
      2 * lifeOf({ left: 0.92 }, 0.9, setting(2), 0.5),
    );
  });

  it('less in it, less to come; nothing below where its duty ends, which a standby battery reaches at 80 %', () => {
    const of = (capacity: number, duty?: 'standby'): number =>
      lifeOf({ left: 0.9 }, capacity, setting(5, duty), 0.5);
    expect(of(0.9)).to.be.greaterThan(of(0.75));
    expect(of(0.75)).to.be.greaterThan(0);
    expect(of(0.59)).to.equal(0);
    expect(of(0.79, 'standby')).to.equal(0);
    expect(of(0.9, 'standby')).to.be.greaterThan(0);
  });

  it('where nothing tells its pace, eight of ten lie within half and twice the usual, and the years ahead vary besides', () => {
    const at = (place: number): number => lifeOf({ left: 1 }, 0.75, setting(), place);
    expect(at(0.1) / at(0.5)).to.be.within(2, 3.5);
    expect(at(0.9) / at(0.5)).to.be.within(0.28, 0.5);
  });

  it('is believed with its range, shorter for one that cranks weakly', () => {
    const years = (testerA: number) => {
      const belief = new Belief(setting(4), 200, 5);
      belief.observe({ kind: 'ocv', volts: 12.75, isRested: true }, { kind: 'tester', amps: testerA });
      return belief.summary().figures.lifeYears;
    };
    const [sound, weak] = [years(780), years(330)];
    expect(sound.low).to.be.lessThan(sound.middle);
    expect(sound.middle).to.be.lessThan(sound.high);
    expect(sound.high).to.be.at.most(15);
    expect(weak.middle).to.be.lessThan(sound.middle);
  });
});
