import { expect } from 'chai';
import { candidate } from '../test/candidate.ts';
import { AGM_80 } from '../test/modelBench.ts';
import { bandAt, bandOf, type Band } from './band.ts';
import { Belief } from './belief.ts';
import { Believer, type Believed, type Question } from './believer.ts';
import type { Summary } from './figures.ts';
import { logLikelihood } from '../observation/likelihood.ts';
import { changeBetween } from './moment.ts';
import type { Passage } from '../candidate/passage.ts';
import type { Reading } from '../observation/readings.ts';
import { shownOf } from '../observation/shown.ts';
import type { Setting } from '../candidate/traits.ts';
import { illnessesOf } from './words.ts';

const CHARGE: Passage = { amps: 4, volts: 14.6, minutes: 24 * 60 };
const CUT: Passage = { ...CHARGE, minutes: 10 * 60 };
const REST: Passage = { amps: 0, volts: 0, minutes: 24 * 60 };
const found: Setting = {
  rating: AGM_80,
  history: { construction: 'agm', ageYears: 3, flatMonths: 3, complaint: 'parked' },
  tempC: 21,
};
const after = (...passages: readonly Passage[]): Setting => ({ ...found, passages });
const truth = candidate({ charge: 0.35 });
const shown = shownOf(truth, after(CUT, REST));

const ocv = { kind: 'ocv', volts: shown.ocvV(), isRested: true } as const;
const tester: Reading = { kind: 'tester', amps: shown.testerA() };
const rested: Reading = { kind: 'ocv', stage: 2, volts: shown.after(2).ocvV(), isRested: true };
const look = (minute: number): Reading => ({
  kind: 'look',
  minute,
  volts: shown.onCharge(minute, 'volts'),
  amps: shown.onCharge(minute, 'amps'),
  tempC: shown.onCharge(minute, 'tempC'),
});

const ask = (setting: Setting, ...readings: readonly Reading[]): Question => ({ setting, readings, seed: 5 });
const NEVER = (): boolean => false;

/** Pauses after every so many pieces. */
function pausingAfter(pieces: number): () => boolean {
  let left = pieces;
  return () => left-- <= 0;
}

/** On average: a few stand-ins of one belief may stand for more than they should. */
function expectNear(some: readonly Summary[], other: Summary, share: number): void {
  for (const { name, probability } of illnessesOf(other.causes)) {
    const odds = some.map(
      ({ causes }) => illnessesOf(causes).find((ill) => ill.name === name)?.probability ?? 0,
    );
    expect(odds.reduce((sum, one) => sum + one, 0) / some.length, name).to.be.closeTo(probability, share);
  }
  for (const name of ['charge', 'capacity', 'cranking'] as const) {
    const { low, high } = other.figures[name];
    for (const one of some) expect(one.figures[name].middle, name).to.be.within(low - 0.03, high + 0.03);
  }
}

describe('the answer of the moment, behind a charge', () => {
  const begun = (seed: number): Belief => {
    const belief = new Belief(after(CHARGE), 160, seed);
    belief.observe(ocv, tester);
    return belief;
  };
  const belief = begun(5);

  it('is near what is believed once the candidates were drawn anew: a look on charge', () => {
    const quick = belief.preview([ocv, tester, look(120)]);
    const whole = new Belief(after(CHARGE), 160, 6);
    whole.observe(ocv, tester, look(120));
    whole.refine(1);
    expectNear([quick], whole.summary(), 0.3);
    expect(quick.figures.charge.low).to.be.greaterThan(belief.summary().figures.charge.low);
  });

  it('and a rested voltage after it, though it was broken off meanwhile', () => {
    const quick = [belief, ...[15, 25].map((seed) => begun(seed))].map((one) => {
      expect(one.follows(after(CUT, REST))).to.equal(true);
      return one.preview([ocv, tester, rested]);
    });
    const whole = new Belief(after(CUT, REST), 160, 6);
    whole.observe(ocv, tester, rested);
    whole.refine(1);
    expectNear(quick, whole.summary(), 0.3);
  });
});

describe('what is believed while something runs', () => {
  for (const [what, passage] of [
    ['on charge', CHARGE],
    ['on a discharge', { amps: -8, volts: 0, minutes: 300 }],
  ] as const)
    it(`is of the minute of the last reading, ${what}`, () => {
      const belief = new Belief(after(passage), 40, 3);
      belief.observe(ocv);
      const stood = belief.summary().figures.charge.middle;
      belief.observe({ kind: 'warmth', cells: [{ cell: 1, tempC: 22 }], midway: 120 });
      const { charge } = belief.summary().figures;
      expect(Math.sign(charge.middle - stood)).to.equal(Math.sign(passage.amps));
      expect([charge.low, charge.high].every(Number.isFinite)).to.equal(true);
    });
});

describe('readings that are taken back', () => {
  const low: Reading = { ...ocv, volts: ocv.volts - 0.9 };

  it('leave what would be believed without them, and the likelihood of the others alone', () => {
    const belief = new Belief(found, 200, 7);
    belief.observe(low, tester);
    const misled = belief.summary().figures.charge.high;
    for (const _piece of belief.towards([ocv, tester]));
    belief.refine(2);
    const straight = new Belief(found, 200, 8);
    straight.observe(ocv, tester);
    straight.refine(2);
    expectNear([belief.summary()], straight.summary(), 0.2);
    expect(belief.summary().figures.charge.low).to.be.greaterThan(misled);
    expect(belief.known).to.deep.equal([ocv, tester]);
    for (const one of belief.all.slice(0, 20)) {
      const sum = [ocv, tester].reduce((total, each) => total + logLikelihood(each, one.shown, found), 0);
      expect(one.logLikelihood).to.be.closeTo(sum, 1e-6);
    }
  });

  it('are told from those that come, each as often as it stands there', () => {
    const twice = { ...tester };
    expect(changeBetween([ocv, tester], [low, tester])).to.deep.equal({ gone: [ocv], come: [low] });
    expect(changeBetween([ocv, tester], [ocv, tester, twice])).to.deep.equal({ gone: [], come: [twice] });
    expect(changeBetween([tester, twice], [tester])).to.deep.equal({ gone: [twice], come: [] });
  });
});

describe('what was done to it', () => {
  it('changes nothing that was read before it; a charge may end sooner, but not before a look at it', () => {
    const belief = new Belief(after(CHARGE), 40, 3);
    belief.observe(ocv, look(120));
    const before = belief.all.map(({ point }) => [...point]);
    expect(belief.follows(after({ ...CHARGE, minutes: 60 }))).to.equal(false);
    expect(belief.follows(after({ ...CUT, amps: 5 }))).to.equal(false);
    expect(belief.follows(after(REST, CHARGE))).to.equal(false);
    expect(belief.follows(after())).to.equal(false);
    expect(belief.setting).to.deep.equal(after(CHARGE));
    expect(belief.follows(after(CUT, REST))).to.equal(true);
    expect(belief.all.map(({ point }) => [...point])).to.deep.equal(before);
    const [one] = belief.all;
    const anew = one && shownOf(one.traits, after(CUT, REST));
    expect(one?.shown.after(2).ocvV()).to.be.closeTo(anew?.after(2).ocvV() ?? 0, 1e-9);
  });
});

describe('a believer', () => {
  const question = ask(after(CUT, REST), ocv, tester, rested);

  /** To its end, in pieces of so many steps. */
  function atRest(believer: Believer, asked: Question, pieces: number): Believed {
    for (let rounds = 0; rounds < 1e5; rounds++) {
      const believed = believer.goOn(asked, pausingAfter(pieces));
      if (believed.isAtRest) return believed;
    }
    throw new Error('it never came to rest');
  }

  it('answers at once, explains what it can, and comes to rest with every reading held against each cause', () => {
    const believer = new Believer(90);
    const first = believer.answer(question);
    expect(first.isAtRest).to.equal(false);
    expect(first.explained.map(({ factors }) => factors)).to.deep.equal([undefined, undefined, undefined]);
    const last = believer.goOn(question, NEVER);
    expect(last.isAtRest).to.equal(true);
    expect(last.explained.every(({ factors }) => factors !== undefined)).to.equal(true);
    expect(believer.belief(question).known).to.deep.equal(question.readings);
  });

  it('comes to the same whether it pauses or not', () => {
    const whole = new Believer(90).goOn(question, NEVER);
    expect(atRest(new Believer(90), question, 37)).to.deep.equal(whole);
  });

  it('an entry that comes while it works is answered on what was taken in whole, and none is lost', () => {
    const believer = new Believer(90);
    const before = ask(after(CHARGE), ocv, tester);
    believer.goOn(before, NEVER);
    const first = ask(after(CHARGE), ocv, tester, look(60));
    believer.answer(first);
    believer.goOn(first, pausingAfter(150));
    const second = ask(after(CHARGE), ocv, tester, look(60), look(120));
    const quick = believer.answer(second);
    const end = believer.goOn(second, NEVER);
    expectNear([quick.summary], end.summary, 0.35);
    expect(believer.belief(second).known).to.deep.equal(second.readings);
  });

  it('draws the band of a charge at once, and near what it draws at rest', () => {
    const believer = new Believer(90);
    const asked = ask(after(CHARGE), ocv, tester, look(60));
    const band = (): Band => bandOf(believer.standIns(asked, 40), 0, CHARGE.minutes, AGM_80.capacityAh);
    const quick = band();
    believer.goOn(asked, NEVER);
    const { low, high } = bandAt(band(), 'volts', 120);
    expect(bandAt(quick, 'volts', 120).middle).to.be.within(low - 0.1, high + 0.1);
    expect(bandAt(quick, 'volts', 120).high - bandAt(quick, 'volts', 120).low).to.be.greaterThan(0.02);
  });

  it('begins anew where something was done before what it has read, and goes on otherwise', () => {
    const believer = new Believer(90);
    const one = believer.belief(ask(found, ocv));
    expect(believer.belief(ask(after(REST), ocv, { ...rested, stage: 1 }))).to.equal(one);
    expect(believer.belief(ask(after(CUT, REST), ocv, rested))).not.to.equal(one);
  });

  it('remembers the battery one comes back to, and forgets those of long ago', () => {
    const believer = new Believer(90);
    const of = (seed: number): Question => ({ ...ask(found, ocv), seed });
    const first = believer.belief(of(1));
    believer.belief(of(2));
    expect(believer.belief(of(1))).to.equal(first);
    for (const seed of [3, 4, 5]) believer.answer(of(seed));
    expect(believer.belief(of(1))).not.to.equal(first);
  });
});
