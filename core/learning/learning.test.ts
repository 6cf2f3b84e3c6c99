import { expect } from 'chai';
import { CAUSE_IDS, priorOf, type CauseId, type History } from '../candidate/causes.ts';
import { chanceFrom, type Chance } from '../chance/chance.ts';
import { causeFactors, causesHere, causesSaid } from './causesHere.ts';
import { countedFor, learnedFrom } from './learned.ts';
import type { Lesson } from './lesson.ts';
import { USUAL_LEARNING } from './topics.ts';
import { waysHere, wayFactor } from './waysHere.ts';

const AGM: History = { construction: 'agm', complaint: 'unknown', ageYears: 4 };

const surely = (cause: CauseId): Record<CauseId, number> =>
  Object.fromEntries(CAUSE_IDS.map((one) => [one, one === cause ? 1 : 0])) as Record<CauseId, number>;

const lesson = (more: Partial<Lesson> = {}): Lesson => ({
  job: 'one',
  endedAt: 1000,
  isWithdrawn: false,
  history: AGM,
  causes: surely('worn'),
  attempts: [],
  minutes: [],
  tester: [],
  ...more,
});

const oddsHere = (history: History, lessons: readonly Lesson[]): Readonly<Record<CauseId, number>> =>
  priorOf({ ...history, here: causesHere(history, causeFactors(lessons)) });

function drawn(odds: Readonly<Record<CauseId, number>>, chance: Chance): CauseId {
  let left = chance();
  return CAUSE_IDS.find((cause) => (left -= odds[cause]) < 0) ?? 'empty';
}

describe('what is the matter with the batteries of this shop', () => {
  it('is the handbook’s word while no job says otherwise', () => {
    expect(causesHere(AGM, causeFactors([]))['worn']).to.equal(1);
    expect(oddsHere(AGM, [])).to.deep.equal(priorOf(AGM));
  });

  it('one job moves it by a twenty-first of the way, as a Dirichlet prior of twenty jobs has it', () => {
    // One question alone: a history whose other answers nobody else gives would count thrice.
    const before = priorOf(AGM).worn;
    const after = oddsHere(AGM, [lesson()]).worn;
    expect(after).to.be.greaterThan(before + (1 - before) / 21 - 1e-9);
    expect(after).to.be.lessThan(before + (3 * (1 - before)) / 21);
  });

  it('jobs that turn out as the handbook expects change nothing', () => {
    const prior = priorOf(AGM);
    const same = Array.from({ length: 60 }, () => lesson({ causes: prior }));
    const now = oddsHere(AGM, same);
    for (const cause of CAUSE_IDS) expect(now[cause], cause).to.be.closeTo(prior[cause], 1e-9);
  });

  it('the odds of a shop that differs are found, though no job says for sure what it was', () => {
    const chance = chanceFrom('a shop of worn ones');
    const prior = priorOf(AGM);
    const raw = { ...prior, worn: prior.worn * 6, empty: prior.empty / 3 };
    const total = CAUSE_IDS.reduce((sum, cause) => sum + raw[cause], 0);
    const truth = Object.fromEntries(CAUSE_IDS.map((cause) => [cause, raw[cause] / total])) as typeof raw;
    // What is read shows the cause seven times of ten, and else any other alike.
    const lessons = Array.from({ length: 300 }, () => {
      const cause = drawn(truth, chance);
      const others = CAUSE_IDS.filter((one) => one !== cause);
      const seen = chance() < 0.7 ? cause : others[Math.floor(chance() * others.length)];
      const weighed = CAUSE_IDS.map(
        (one) => [one, prior[one] * (one === seen ? 0.7 : 0.3 / others.length)] as const,
      );
      const sum = weighed.reduce((all, [, weight]) => all + weight, 0);
      const causes = Object.fromEntries(weighed.map(([one, weight]) => [one, weight / sum]));
      return lesson({ causes: causes as Record<CauseId, number> });
    });
    const now = oddsHere(AGM, lessons);
    expect(prior.worn).to.be.lessThan(0.12);
    expect(now.worn).to.be.closeTo(truth.worn, 0.08);
    expect(now.empty).to.be.closeTo(truth.empty, 0.08);
  });

  it('what was said of those that were worn raises it for those of whom the same is said', () => {
    const slow: History = { ...AGM, complaint: 'slow-crank' };
    const lights: History = { ...AGM, complaint: 'lights-left' };
    const lessons = Array.from({ length: 20 }, (_, at) =>
      at % 2 === 0
        ? lesson({ history: slow, causes: surely('worn') })
        : lesson({ history: lights, causes: surely('empty') }),
    );
    const factors = causeFactors(lessons);
    expect(causesHere(slow, factors).worn).to.be.greaterThan(1.8 * causesHere(lights, factors).worn);
    const said = causesSaid(lessons, factors).find(({ answer }) => answer === 'slow-crank');
    expect(said).to.include({ asked: 'complaint', jobs: 10 });
    expect(said?.causes[0]).to.include({ cause: 'worn', found: 1 });
    const sum = said?.causes.reduce((all, { now }) => all + now, 0);
    expect(sum).to.be.closeTo(1, 1e-9);
  });

  it('what cannot be stays so', () => {
    const now = oddsHere(
      AGM,
      Array.from({ length: 40 }, () => lesson()),
    );
    expect(priorOf(AGM).layered).to.equal(0);
    expect(now.layered).to.equal(0);
  });
});

describe('whether ways bring back what was expected of them', () => {
  const tried = (expected: number, backs: readonly boolean[]): Lesson[] =>
    backs.map((isBack) => lesson({ attempts: [{ way: 'long-soak', expected, isBack }] }));

  it('as many as expected leave the forecast as it is', () => {
    const [way] = waysHere(tried(0.5, [true, false, true, false]));
    expect(way).to.include({ tried: 4, expected: 2, back: 2, odds: 0.5 });
    expect(way && wayFactor(way)).to.deep.equal({ kept: 1, gained: 0 });
  });

  it('fewer than expected: so many of those forecast are kept; more: so many of the others gained', () => {
    const [worse] = waysHere(
      tried(0.8, [false, false, false, false, false, false, false, false, false, false]),
    );
    // Beta(8 + 0, 2 + 10).
    expect(worse?.odds).to.be.closeTo(0.4, 1e-12);
    expect(worse && wayFactor(worse).kept).to.be.closeTo(0.5, 1e-12);
    const [better] = waysHere(
      tried(
        0.2,
        Array.from({ length: 10 }, () => true),
      ),
    );
    // Beta(2 + 10, 8).
    expect(better && wayFactor(better)).to.deep.equal({ kept: 1, gained: 0.4 / 0.8 });
  });

  it('a hopeless way forecast as hopeless is no worse for it; the interval is the beta distribution’s', () => {
    const [way] = waysHere(tried(0, [false, false]));
    expect(way && wayFactor(way).gained).to.equal(0);
    expect(way?.low).to.be.within(0, 0.01);
    const [half] = waysHere(tried(0.5, [true, false]));
    // Beta(6, 6): 10th and 90th percentile by tables.
    expect(half?.low).to.be.closeTo(0.3177, 1e-3);
    expect(half?.high).to.be.closeTo(0.6823, 1e-3);
  });

  it('one of two kinds is not the other', () => {
    const flooded = lesson({
      history: { ...AGM, construction: 'flooded' },
      attempts: [{ way: 'long-soak', expected: 0.5, isBack: true }],
    });
    expect(
      waysHere([...tried(0.5, [true]), flooded]).map(({ construction }) => construction),
    ).to.have.members(['agm', 'flooded']);
  });
});

describe('what a shop has learned', () => {
  const timed = (minutes: number): Lesson['minutes'] => [{ step: 'clean', minutes, usualMin: 5 }];

  it('minutes and the tester are drawn from the handbook by what was found, the more the more often', () => {
    const once = learnedFrom(
      [{ lesson: lesson({ minutes: timed(10), tester: [Math.log(1.2)] }), isImported: false }],
      USUAL_LEARNING,
    );
    const often = learnedFrom(
      Array.from({ length: 40 }, () => ({
        lesson: lesson({ minutes: timed(10), tester: [Math.log(1.2)] }),
        isImported: false,
      })),
      USUAL_LEARNING,
    );
    const of = ({ inForce }: typeof once): readonly [number, number] => [
      inForce.minutes['clean'] ?? 0,
      inForce.tester,
    ];
    expect(of(once)[0]).to.be.closeTo(2 ** (1 / 5), 1e-12);
    expect(of(often)[0]).to.be.closeTo(2 ** (40 / 44), 1e-12);
    expect(of(once)[1]).to.be.within(1.02, 1.06);
    expect(of(often)[1]).to.be.within(1.17, 1.2);
    expect(often.minutes['clean']).to.include({ count: 40 });
  });

  it('jobs of other shops and jobs without a grade count only where the shop says so', () => {
    const kept = [
      { lesson: lesson(), isImported: false },
      { lesson: lesson({ job: 'two' }), isImported: true },
      { lesson: lesson({ job: 'three', isWithdrawn: true }), isImported: false },
    ];
    const jobs = (rule: Partial<typeof USUAL_LEARNING>): readonly string[] =>
      countedFor('causes', kept, { ...USUAL_LEARNING, ...rule }).map(({ job }) => job);
    expect(jobs({})).to.deep.equal(['one']);
    expect(jobs({ countsImported: true })).to.deep.equal(['one', 'two']);
    expect(jobs({ countsWithdrawn: true })).to.deep.equal(['one', 'three']);
  });

  it('a topic begun anew forgets what ended before; the others do not', () => {
    const kept = [{ lesson: lesson({ minutes: timed(9) }), isImported: false }];
    const learned = learnedFrom(kept, { ...USUAL_LEARNING, since: { causes: 1000 } });
    expect(learned.inForce.jobs).to.deep.equal({ causes: 0, ways: 0, minutes: 1, tester: 0 });
    expect(learned.inForce.causes).to.deep.equal({ construction: {}, complaint: {}, age: {} });
  });
});
