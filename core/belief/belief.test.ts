import { expect } from 'chai';
import { candidate, everyCheck, readingsOf } from '../test/candidate.ts';
import { AGM_80, FLOODED_70 } from '../test/modelBench.ts';
import { loadV } from '../observation/modelView.ts';
import { Belief, SIZE } from './belief.ts';
import { figuresOf, type Summary } from './figures.ts';
import { quantile } from './weights.ts';
import { CAUSE_IDS, priorOf, type CauseId, type History } from '../candidate/causes.ts';
import { chanceFrom } from '../chance/chance.ts';
import { normalQuantile } from '../chance/distributions.ts';
import type { Reading } from '../observation/readings.ts';
import { quickLoad } from '../observation/quickTests.ts';
import { shownOf } from '../observation/shown.ts';
import { DIMENSIONS } from '../candidate/cube.ts';
import { batteryFrom } from '../candidate/piece.ts';
import { traitsOf, type Setting, type Traits } from '../candidate/traits.ts';

const AGM: History = { construction: 'agm', ageYears: 4, flatMonths: 4, complaint: 'parked' };
const FLOODED: History = { construction: 'flooded', ageYears: 5, complaint: 'unknown' };
const agm: Setting = { rating: AGM_80, history: AGM, tempC: 21 };
const leftOn: Setting = {
  ...agm,
  history: { construction: 'agm', ageYears: 4, flatMonths: 0.1, complaint: 'lights-left' },
};
const flooded: Setting = { rating: FLOODED_70, history: FLOODED, tempC: 21 };

const traits = (cause: CauseId, more: Partial<Traits> = {}): Traits =>
  candidate({ cause, hardShare: 0.04, left: 0.92, severity: 0.4, ...more });

function believed(truth: Traits, setting: Setting, count: number = SIZE.standing): Belief {
  const belief = new Belief(setting, count, 7);
  belief.observe(...readingsOf(truth, setting, everyCheck(setting)));
  belief.refine(2);
  return belief;
}

describe('the prior', () => {
  it('sums to one, whatever the history', () => {
    for (const construction of ['agm', 'flooded'] as const)
      for (const complaint of ['unknown', 'parked', 'charger-nothing', 'slow-crank'] as const) {
        const prior = priorOf({ construction, ageYears: 3, flatMonths: 2, complaint });
        expect(CAUSE_IDS.reduce((sum, cause) => sum + prior[cause], 0)).to.be.closeTo(1, 1e-12);
      }
  });

  it('lights left on speak for empty, months flat for hard sulfate, an AGM never for layered acid', () => {
    const lights = priorOf({ ...AGM, complaint: 'lights-left', flatMonths: 0 });
    expect(lights.empty).to.be.above(0.5);
    const year = priorOf({ ...AGM, flatMonths: 12 });
    expect(year['sulfated-hard']).to.be.above(priorOf({ ...AGM, flatMonths: 1 })['sulfated-hard'] * 3);
    expect(year.empty).to.be.above(0.02);
    expect(priorOf(AGM).layered).to.equal(0);
  });

  it('no age and no time flat is a veto: every cause keeps some probability', () => {
    const prior = priorOf({ construction: 'flooded', ageYears: 15, flatMonths: 60, complaint: 'parked' });
    for (const cause of CAUSE_IDS) expect(prior[cause], cause).to.be.above(0);
  });
});

describe('a point of the cube', () => {
  it('means a possible battery wherever it lies', () => {
    const chance = chanceFrom(3);
    for (let draws = 0; draws < 200; draws++) {
      const point = Float64Array.from({ length: DIMENSIONS }, () => chance());
      const made = traitsOf(point, draws % 2 ? agm : flooded);
      expect(made.charge).to.be.within(-0.3, 1);
      expect(made.hardShare).to.be.within(0, 1);
      expect(made.cell).to.be.within(1, 6);
      expect(made.left).to.be.within(0.25, 1);
      expect(batteryFrom(made, agm).groupOf).to.have.length(6);
    }
  });

  it('quantiles of the normal are the published ones', () => {
    // Abramowitz & Stegun, table 26.1.
    expect(normalQuantile(0.975)).to.be.closeTo(1.96, 0.005);
    expect(normalQuantile(0.9)).to.be.closeTo(1.2816, 0.004);
    expect(normalQuantile(0.5)).to.be.closeTo(0, 1e-9);
  });
});

describe('a battery drawn past empty', () => {
  it('stands at a few volts and is still believed to hold most of its capacity', () => {
    const belief = new Belief({ ...agm, history: { ...AGM, complaint: 'lights-left' } }, 200, 5);
    belief.observe({ kind: 'ocv', volts: 5.4, isRested: true });
    belief.refine(2);
    const { figures, causes } = belief.summary();
    expect(figures.charge.high).to.be.below(0.05);
    expect(figures.capacity.high).to.be.above(0.7);
    expect(causes.empty + causes['sulfated-light'] + causes['sulfated-moderate']).to.be.above(0.3);
  });
});

describe('what a candidate shows', () => {
  it('a load test in a few steps is the fine one within 50 mV where the battery holds', () => {
    for (const charge of [0.4, 0.7, 0.95])
      for (const setting of [agm, flooded]) {
        const make = () => batteryFrom(traits('empty', { charge }), setting);
        const amps = 3 * setting.rating.capacityAh;
        expect(quickLoad(make(), amps, 15).lowestV).to.be.closeTo(loadV(make(), amps, 15), 0.05);
      }
  });

  it('figures: a dead cell holds nothing, hard sulfate lowers capacity, dry cells lower cranking', () => {
    const figures = (made: Traits) => figuresOf(made, agm, shownOf(made, agm));
    expect(figures(traits('shorted-cell')).capacity).to.equal(0);
    expect(figures(traits('open-cell')).capacity).to.equal(0);
    const sound = figures(traits('empty'));
    expect(sound.capacity).to.be.within(0.8, 1);
    const hard = figures(traits('sulfated-hard', { hardShare: 0.8, charge: 0.1, film: 0.01 }));
    expect(hard.capacity).to.be.below(sound.capacity - 0.3);
    expect(figures(traits('dry', { dryShare: 0.3 })).cranking).to.be.below(sound.cranking - 0.1);
    expect(hard.ohm).to.be.above(sound.ohm);
  });
});

describe('the answer of the moment', function () {
  this.timeout(240_000);

  const belief = new Belief(leftOn, SIZE.standing, 11);
  belief.observe({ kind: 'ocv', volts: 11.9, isRested: true });
  belief.refine(1);
  const load: Reading = { kind: 'load', amps: 240, seconds: 15, volts: 9.1 };

  it('is close to what is believed once the candidates were drawn anew', () => {
    const quick: Summary[] = [];
    const whole: Summary[] = [];
    for (const seed of [11, 12, 13, 14]) {
      const one = new Belief(leftOn, SIZE.standing, seed);
      one.observe({ kind: 'ocv', volts: 11.9, isRested: true });
      one.refine(1);
      quick.push(one.preview([...one.known, load]));
      one.observe(load);
      one.refine(2);
      whole.push(one.summary());
    }
    const mean = (all: readonly Summary[], value: (one: Summary) => number): number =>
      all.reduce((sum, one) => sum + value(one), 0) / all.length;
    const capacity = ({ figures }: Summary): number => figures.capacity.middle;
    expect(mean(quick, capacity)).to.be.closeTo(mean(whole, capacity), 0.1);
    for (const cause of CAUSE_IDS) {
      const odds = ({ causes }: Summary): number => causes[cause];
      expect(mean(quick, odds), cause).to.be.closeTo(mean(whole, odds), 0.2);
    }
  });

  it('changes nothing', () => {
    const before = belief.summary();
    belief.preview([...belief.known, load]);
    expect(belief.summary()).to.deep.equal(before);
    expect(belief.known).to.have.length(1);
  });

  it('takes what next to no candidate would carry only as far as some bear it: it does not collapse', () => {
    const one = belief.all.find(({ shown }) => shown.load(240, 15).lowestV > 8)?.shown;
    expect(one, 'one that holds a load').not.to.equal(undefined);
    const amps = one?.testerA() ?? 0;
    const volts = one?.load(240, 15).lowestV ?? 0;
    const told = Array.from({ length: 200 }, (): Reading[] => [
      { kind: 'tester', amps },
      { kind: 'load', amps: 240, seconds: 15, volts },
    ]);
    const quick = belief.preview([...belief.known, ...told.flat()]);
    const { cranking } = quick.figures;
    expect(cranking.high - cranking.low).to.be.greaterThan(0.02);
    expect(CAUSE_IDS.reduce((sum, cause) => sum + quick.causes[cause], 0)).to.be.closeTo(1, 1e-9);
  });
});

describe('a belief', () => {
  for (const [what, truth, setting] of [
    ['an empty AGM', traits('empty', { charge: 0.1 }), leftOn],
    ['a shorted AGM', traits('shorted-cell', { charge: 0.6, severity: 0.1 }), agm],
    ['a hard sulfated AGM', traits('sulfated-hard', { charge: 0.15, hardShare: 0.85, film: 0.08 }), agm],
    ['an open cell', traits('open-cell', { charge: 0.7 }), agm],
    [
      'a flooded one with a shorted cell',
      traits('shorted-cell', { charge: 0.6, severity: 0.1, cell: 4 }),
      flooded,
    ],
    ['a dry flooded one', traits('dry', { charge: 0.5, dryShare: 0.3 }), flooded],
    ['a worn AGM', traits('worn', { charge: 0.7, left: 0.4 }), agm],
  ] as const)
    it(`names ${what} first after the full set of checks`, () => {
      expect(believed(truth, setting).summary().ranked[0]?.cause).to.equal(truth.cause);
    });

  it('is the same for the same seed, and near the same for another', () => {
    const once = believed(traits('empty', { charge: 0.3 }), agm).summary();
    expect(believed(traits('empty', { charge: 0.3 }), agm).summary()).to.deep.equal(once);
    const other = new Belief(agm, 120, 99);
    other.observe(...readingsOf(traits('empty', { charge: 0.3 }), agm, everyCheck(agm)));
    expect(other.summary().figures.charge.middle).to.be.closeTo(once.figures.charge.middle, 0.06);
  });

  it('knows no more after no reading, and more after each', () => {
    const belief = new Belief(agm, 150, 5);
    const width = (): number => {
      const { low, high } = belief.summary().figures.charge;
      return high - low;
    };
    const before = width();
    belief.observe({ kind: 'ocv', volts: 12.4, isRested: true });
    expect(width()).to.be.below(before * 0.8);
    const prior = priorOf(AGM);
    const fresh = new Belief(agm, 150, 5).summary().causes;
    for (const cause of CAUSE_IDS) expect(fresh[cause], cause).to.be.closeTo(prior[cause], 0.01);
  });

  it('surface charge says less than a rested reading', () => {
    const width = (isRested: boolean): number => {
      const belief = new Belief(agm, 500, 5);
      belief.observe({ kind: 'ocv', volts: 12.5, isRested });
      const { low, high } = belief.summary().figures.charge;
      return high - low;
    };
    expect(width(true)).to.be.below(width(false));
  });

  it('a battery far too light is dry, one of full mass is not', () => {
    const odds = (deficitG: number): number => {
      const belief = new Belief(agm, 200, 7);
      belief.observe(
        ...readingsOf(
          traits(deficitG > 500 ? 'dry' : 'empty', { charge: 0.6, dryShare: deficitG / 3000 }),
          agm,
          ['tester'],
        ),
        { kind: 'mass', deficitG },
      );
      return belief.summary().causes.dry;
    };
    expect(odds(900)).to.be.greaterThan(0.5);
    expect(odds(0)).to.be.lessThan(0.05);
  });

  it('one odd reading does not decide alone', () => {
    const belief = believed(traits('empty', { charge: 0.6 }), agm);
    belief.observe({ kind: 'tester', amps: 60 });
    const { ranked } = belief.summary();
    expect(ranked[0]?.probability).to.be.below(0.999);
  });

  it('density read right after water went in says nothing', () => {
    const mixed = new Belief(flooded, 80, 5);
    const fresh = new Belief(flooded, 80, 5);
    for (const cell of [1, 2, 3]) fresh.observe({ kind: 'density', cell, density: 1.05, isMixed: false });
    expect(fresh.summary()).to.deep.equal(mixed.summary());
    for (const cell of [1, 2, 3]) mixed.observe({ kind: 'density', cell, density: 1.05 });
    expect(mixed.summary()).not.to.deep.equal(fresh.summary());
  });

  it('refining keeps weights and readings, and moves most of it about', () => {
    const belief = new Belief(agm, 200, 5);
    belief.observe({ kind: 'ocv', volts: 12.1, isRested: true });
    const places = (): Set<string> => new Set(belief.all.map(({ point }) => [...point].join()));
    const before = places();
    belief.refine(3);
    const after = places();
    expect([...after].filter((place) => !before.has(place)).length).to.be.above(60);
    expect(after.size).to.be.at.least(before.size);
    expect(belief.known).to.have.length(1);
    expect(belief.weights().reduce((sum, weight) => sum + weight, 0)).to.be.closeTo(1, 1e-9);
  });

  it('weighted quantiles go by weight, not by count', () => {
    expect(quantile([1, 2, 3], Float64Array.from([0.1, 0.1, 0.8]), 0.5)).to.equal(3);
    expect(quantile([3, 1, 2], Float64Array.from([0.2, 0.5, 0.3]), 0.5)).to.equal(1);
  });
});
