import { expect } from 'chai';
import { Belief } from '../belief/belief.ts';
import { shownOf } from '../observation/shown.ts';
import type { Setting, Traits } from '../candidate/traits.ts';
import { brought } from '../test/broughtIn.ts';
import { candidate } from '../test/candidate.ts';
import { ends } from '../test/ends.ts';
import { AGM_80, FLOODED_70 } from '../test/modelBench.ts';
import { RECOVER_AGM } from '../runsheet/procedures/recovery.ts';
import { compare } from './compare.ts';
import { stepsOf } from '../adapters/routeMinutes.ts';
import type { Course } from './courses.ts';
import { bestCheck, minutesOf } from './bestCheck.ts';
import { canBeToldApart, checksLeft, nextChecks, valueOfCheck } from './nextCheck.ts';
import { handsMinOf } from './hands.ts';
import { outcomeOf, type Outcome } from './outcome.ts';
import { recommend } from './recommend.ts';
import { USUAL_COSTS, type Costs } from './worth.ts';

const COSTS: Costs = { ...USUAL_COSTS, pricePerKwh: 0.3 };
const agm: Setting = {
  rating: AGM_80,
  history: { construction: 'agm', ageYears: 3, flatMonths: 4, complaint: 'parked' },
  tempC: 21,
};
const flooded: Setting = {
  rating: FLOODED_70,
  history: { construction: 'flooded', ageYears: 5, complaint: 'unknown' },
  tempC: 21,
};
const STEPS = stepsOf(RECOVER_AGM.routes ?? [], brought('BK-A12/55').job.state.opened);

const traits = (more: Partial<Traits> = {}): Traits =>
  candidate({ charge: 0.3, hardShare: 0.03, dryShare: 0.01, ...more });
const HARD = traits({ cause: 'sulfated-hard', charge: 0.15, hardShare: 0.7, film: 0.01 });
const SHORTED = traits({ cause: 'shorted-cell' });

const course = (...routes: string[]): Course => ({
  id: routes.at(-1) ?? '',
  title: routes.join(' then '),
  routes,
});
const SLOW = course('slow-charge');
const SOAK = course('long-soak');
const RETIRE: Course = { id: 'retire', title: 'Retire it', routes: ['retire'] };

describe('a course run forward on a battery', () => {
  it('an empty, sound one comes back with a slow charge alone', () => {
    const { grade, capacity } = outcomeOf(SLOW, traits(), agm);
    expect(grade).to.equal('A');
    expect(capacity).to.be.greaterThan(0.9);
  });

  it('hard sulfate gives way to a long soak more than to a slow charge, and not wholly', () => {
    const slow = outcomeOf(SLOW, HARD, agm).capacity;
    const soaked = outcomeOf(SOAK, HARD, agm).capacity;
    expect(soaked).to.be.greaterThan(slow + 0.03);
    expect(soaked).to.be.lessThan(0.95);
  });

  it('a shorted cell ends as a core whatever is done', () => {
    for (const way of [SLOW, SOAK, course('pulse')]) expect(outcomeOf(way, SHORTED, agm).grade).to.equal('R');
  });

  it('water lifts the cranking of a dried-out AGM and leaves its capacity', () => {
    const dry = traits({ cause: 'dry', dryShare: 0.3 });
    const without = outcomeOf(SOAK, dry, agm);
    const given = outcomeOf(course('water-back', 'long-soak'), dry, agm);
    expect(given.cranking).to.be.greaterThan(without.cranking * 1.05);
    expect(given.capacity).to.be.closeTo(without.capacity, 0.05);
    expect(given.waterMl).to.equal(80 * 6);
  });

  it('past empty it wakes beside a donor within three hours and is charged', () => {
    const deep = traits({ charge: -0.13, hardShare: 0.1 });
    const woken = outcomeOf(course('donor-wake', 'slow-charge'), deep, agm);
    expect(woken.chargedH.filter(({ route }) => route === 'donor-wake').length).to.be.within(1, 3);
    expect(woken.grade).to.equal('A');
  });

  it('a supply wakes it only as far as a charger sees it', () => {
    const deep = traits({ charge: -0.13, hardShare: 0.1 });
    const { chargedH } = outcomeOf(course('supply-wake', 'slow-charge'), deep, agm);
    expect(chargedH[0]?.hours).to.be.lessThan(6.1);
    expect(chargedH.map(({ route }) => route)).to.deep.equal(['supply-wake', 'slow-charge']);
  });

  it('pulses are counted at their average current: their heat and their spikes are not', () => {
    const { chargedH, grade } = outcomeOf(course('pulse'), traits({ charge: 0.6 }), agm);
    expect(chargedH[0]?.hours).to.be.closeTo(7 * 24, 0.1);
    expect(grade).to.equal('A');
  });

  it('a discharge comes before its charge, and takes its time', () => {
    const full = traits({ charge: 0.95 });
    const cycled = outcomeOf({ ...course('cycle', 'slow-charge'), id: 'cycle' }, full, flooded);
    expect(cycled.hours).to.be.greaterThan(outcomeOf(SLOW, full, flooded).hours + 4);
  });

  it('the same candidate always ends the same', () => {
    expect(outcomeOf(SOAK, HARD, agm)).to.deep.equal(outcomeOf(SOAK, HARD, agm));
  });
});

describe('minutes of hands', () => {
  it('are those of the run sheet, its proof, and a look as often as the charge wants one', () => {
    const hands = handsMinOf(SLOW, { chargedH: [{ route: 'slow-charge', hours: 24 }] }, STEPS);
    const own = [...STEPS('slow-charge'), ...STEPS('prove')].reduce((sum, { handsMin }) => sum + handsMin, 0);
    expect(hands).to.equal(own + 12);
  });

  it('of retiring are those of the tray alone', () => {
    expect(handsMinOf(RETIRE, { chargedH: [] }, STEPS)).to.equal(5);
  });
});

describe('ways held against each other', () => {
  const outcomes = (back: number): Outcome[][] => [
    Array.from({ length: 10 }, (_, index) => ends(index < back ? 'B' : 'R')),
    Array.from({ length: 10 }, () => ends('R')),
  ];
  const held = (back: number, costs = COSTS) => compare([SLOW, RETIRE], outcomes(back), agm, costs, STEPS);

  it('odds are shares of the candidates, and worth what it brings less what it costs', () => {
    const [best] = held(7).scored;
    expect(best?.odds).to.deep.equal({ A: 0, B: 0.7, C: 0, R: 0.3 });
    const brings = 0.7 * 0.3 * (25 + 1.7 * 80) + 0.3 * 0.1 * 80;
    expect(best?.worth).to.be.closeTo(brings - (best?.cost ?? 0), 1e-9);
  });

  it('retiring takes no time and is a core for sure', () => {
    const retire = held(7).scored.find(({ course: { id } }) => id === 'retire');
    expect(retire?.odds.R).to.equal(1);
    expect(retire?.hours).to.equal(0);
  });

  it('what comes back often is tried, what seldom does is not', () => {
    expect(recommend(held(7).scored, AGM_80, COSTS)?.course).to.equal('slow-charge');
    expect(recommend(held(1).scored, AGM_80, COSTS)?.course).to.equal('retire');
  });

  it('the turning point it names is where the advice turns', () => {
    const turns = recommend(held(7).scored, AGM_80, COSTS)?.turns ?? '';
    const named = Number(/below (\d+) %/.exec(turns)?.[1]) / 100;
    const back = Math.round(named * 10);
    expect(recommend(held(back + 1).scored, AGM_80, COSTS)?.course).to.equal('slow-charge');
    expect(recommend(held(back - 1).scored, AGM_80, COSTS)?.course).to.equal('retire');
  });

  it('dear hands turn it too', () => {
    expect(
      recommend(held(7, { ...COSTS, handsPerHour: 90 }).scored, AGM_80, { ...COSTS, handsPerHour: 90 })
        ?.course,
    ).to.equal('retire');
  });

  it('says its reason in two sentences', () => {
    expect(recommend(held(7).scored, AGM_80, COSTS)?.reason).to.match(
      /^70 % of such batteries come back this way, 70 % as A or B, for \d+ min of hands and [\w. ]+\. It is worth ¤\u00a0[\d.]+ on average against ¤\u00a0[\d.]+ as a core\.$/,
    );
  });

  it('between two ways it names the wage or the day that decides', () => {
    const soak = { ...course('long-soak') };
    const longer =
      outcomes(8)[0]?.map((one) => ({ ...one, hours: 120, chargedH: [{ route: 'long-soak', hours: 48 }] })) ??
      [];
    const { scored } = compare([SLOW, soak], [outcomes(6)[0] ?? [], longer], agm, COSTS, STEPS);
    expect(recommend(scored, AGM_80, COSTS)?.course).to.equal('long-soak');
    expect(recommend(scored, AGM_80, COSTS)?.turns).to.match(/It would change to slow-charge where/);
  });

  describe('an uncharged battery', () => {
    const uncharged = { isUncharged: true };

    it('is not condemned by money: charge, then decide', () => {
      const dear = { ...COSTS, handsPerHour: 90 };
      const advice = recommend(held(7, dear).scored, AGM_80, dear, uncharged);
      expect(advice?.course).to.equal('slow-charge');
      expect(advice?.reason).to.match(/By money alone it would be retired, .*charge, rest, then judge\.$/);
    });

    it('is retired where no charge changes it, and says so', () => {
      const advice = recommend(held(0).scored, AGM_80, COSTS, uncharged);
      expect(advice?.course).to.equal('retire');
      expect(advice?.reason).to.match(/^Uncharged as it is, no charge would change it\. .*bring back 0 %/);
    });

    it('is retired on a hard stop whatever the odds, and says which', () => {
      const hardStop = 'Its charge was stopped. A dead cell.';
      const advice = recommend(held(10).scored, AGM_80, COSTS, { ...uncharged, hardStop });
      expect(advice?.course).to.equal('retire');
      expect(advice?.reason).to.equal(hardStop);
    });
  });

  it('a round of looks is shared by all that stand beside it, hands at the battery are not', () => {
    const alone = compare([SLOW], [outcomes(5)[0] ?? []], agm, COSTS, STEPS).scored[0]?.handsMin ?? 0;
    const four = compare([SLOW], [outcomes(5)[0] ?? []], agm, COSTS, STEPS, { together: 4 }).scored[0];
    expect(alone - (four?.handsMin ?? 0)).to.be.closeTo(12 * 0.75, 1e-9);
  });

  it('has nothing to say where nothing is open', () => {
    expect(recommend([], AGM_80, COSTS)).to.equal(undefined);
  });
});

describe('the next best check', () => {
  it('is none whose results read alike and mean different things', () => {
    const meaning = (result: string, then: string) => ({ result, share: 0.5, then });
    expect(
      canBeToldApart({ meanings: [meaning('about 0.0 V', 'Wake it'), meaning('about 0.0 V', 'Retire it')] }),
    ).to.equal(false);
    expect(
      canBeToldApart({ meanings: [meaning('about 9.8 V', 'Soak it'), meaning('about 2.1 V', 'Retire it')] }),
    ).to.equal(true);
  });

  it('asks a flat battery for nothing that judges its charge', () => {
    const flat = [{ kind: 'ocv', volts: 5.4, isRested: true }] as const;
    expect(checksLeft(flat, agm)).to.deep.equal(['acceptance']);
    expect(checksLeft([{ ...flat[0], volts: 12.1 }], agm)).to.include.members(['load', 'tester']);
    // Charged since, it is asked again.
    const charged = { ...agm, passages: [{ amps: 4, volts: 14.7, minutes: 900 }] };
    expect(checksLeft([{ ...flat[0] }], charged)).to.include.members(['load', 'tester']);
  });

  const judgesOf = (all: readonly Traits[], setting: Setting) =>
    all.map((one) => ({ shown: shownOf(one, setting) }));
  /** Half sound, half with a finished cell that a load test shows. */
  const mixed = Array.from({ length: 12 }, (_, index) =>
    index % 2 === 0
      ? traits({ charge: 0.85 + index / 200 })
      : traits({ cause: 'shorted-cell', charge: 0.85 + index / 200 }),
  );
  const worths = [mixed.map(({ cause }) => (cause === 'empty' ? 50 : -15)), mixed.map(() => 6)];

  it('is worth much where its result tells what is worth trying from what is not', () => {
    const load = valueOfCheck('load', judgesOf(mixed, agm), worths, [SLOW, RETIRE], agm);
    expect(load.worth).to.be.greaterThan(5);
    expect(load.changes).to.be.within(0.3, 0.7);
  });

  it('says what each result would mean', () => {
    const { meanings } = valueOfCheck('load', judgesOf(mixed, agm), worths, [SLOW, RETIRE], agm);
    const volts = (then: string): number =>
      Number(/([\d.]+) V/.exec(meanings.find((one) => one.then === then)?.result ?? '')?.[1]);
    expect(volts('slow-charge')).to.be.greaterThan(volts('Retire it') + 1);
  });

  it('is worth nothing where every candidate would be treated alike', () => {
    const alike = [mixed.map(() => 50), mixed.map(() => 6)];
    const checks = nextChecks([], judgesOf(mixed, agm), alike, [SLOW, RETIRE], agm);
    expect(checks.map(({ worth }) => worth)).to.deep.equal(checks.map(() => 0));
    expect(bestCheck(checks, COSTS.handsPerHour)).to.equal(undefined);
  });

  it('never counts on a way the house is against', () => {
    const against = { ...SLOW, wants: 'By this house’s rule it is retired.' };
    const [load] = nextChecks([], judgesOf(mixed, agm), worths, [against, RETIRE], agm);
    expect([load?.worth, load?.changes]).to.deep.equal([0, 0]);
  });

  it('is not worth its minutes where hands are dear', () => {
    const checks = nextChecks([], judgesOf(mixed, agm), worths, [SLOW, RETIRE], agm);
    expect(bestCheck(checks, COSTS.handsPerHour)?.pays).to.equal(true);
    expect(bestCheck(checks, 1e5)?.pays).to.equal(false);
  });

  const check = (name: 'load' | 'tester' | 'dips', minutes: number, worth: number, changes: number) => ({
    check: name,
    minutes,
    worth,
    perMinute: worth / minutes,
    changes,
    meanings: [],
  });
  for (const [what, checks, expected] of [
    [
      'the one that pays, though another would change more',
      [check('load', 3, 4, 0.1), check('dips', 6, 1, 0.5)],
      'load',
    ],
    [
      'none pays: what changes most per minute',
      [check('dips', 6, 0.1, 0.3), check('tester', 2, 0, 0.2)],
      'tester',
    ],
    [
      'none changes what is done: it is settled',
      [check('load', 3, 0.1, 0.01), check('tester', 2, 0, 0.02)],
      undefined,
    ],
  ] as const)
    it(`next is ${what}`, () => {
      expect(bestCheck(checks, 30)?.advised.check).to.equal(expected);
    });

  it('is never one that was made, and never inside a closed case', () => {
    expect(checksLeft([{ kind: 'tester', amps: 400 }], agm)).to.deep.equal(['load', 'acceptance']);
    expect(checksLeft([], flooded)).to.include.members(['density', 'level', 'dips']);
  });

  it('weighs only where it is known what a full one weighs', () => {
    expect(checksLeft([], agm)).not.to.include('mass');
    expect(checksLeft([], { ...agm, isMassKnown: true })).to.include('mass');
  });

  it('by the scale tells one that dried out from one that did not', () => {
    const known = { ...agm, isMassKnown: true };
    const shares = [0.34, 0.35, 0.36, 0, 0.01, 0.02];
    const candidates = shares.map((dryShare) => traits({ dryShare }));
    const worths = [shares.map((share) => (share > 0.1 ? 30 : -10)), shares.map(() => 0)];
    const advised = valueOfCheck('mass', judgesOf(candidates, known), worths, [SLOW, RETIRE], known);
    const meant = advised.meanings.map(({ then, result }) => [then, Number(/\d+/.exec(result)?.[0]) > 500]);
    expect(meant).to.have.deep.members([
      ['slow-charge', true],
      ['Retire it', false],
    ]);
    expect(advised.worth).to.be.greaterThan(0);
  });

  const charge = { amps: 4, volts: 14.6, minutes: 1440 };
  const rest = { amps: 0, volts: 0, minutes: 600 };

  it('may be made again once the battery was charged or given water, not because it rested', () => {
    const tester = { kind: 'tester', amps: 400 } as const;
    const after = (...passages: NonNullable<Setting['passages']>): Setting => ({ ...agm, passages });
    expect(checksLeft([tester], after(charge, rest))).to.include('tester');
    expect(checksLeft([tester], after({ ...rest, minutes: 0, waterMl: [9, 9, 9, 9, 9, 9] }))).to.include(
      'tester',
    );
    expect(checksLeft([tester], after(rest))).not.to.include('tester');
    expect(checksLeft([{ ...tester, stage: 2 }], after(charge, rest))).not.to.include('tester');
  });

  it('is judged on the battery as it stands now, not as it was found', () => {
    const flat = [traits({ charge: 0.05 }), traits({ charge: 0.06 })];
    const even = [flat.map(() => 1)];
    const volts = (setting: Setting): number => {
      const [meaning] = valueOfCheck('load', judgesOf(flat, setting), even, [SLOW], setting).meanings;
      return Number(/([\d.]+) V/.exec(meaning?.result ?? '')?.[1]);
    };
    expect(volts({ ...agm, passages: [charge, rest] })).to.be.greaterThan(volts(agm) + 1);
  });

  it('of every cell takes a minute for each', () => {
    expect(minutesOf('density', 6)).to.equal(6);
    expect(minutesOf('load', 6)).to.equal(3);
  });

  it('a belief lends so many candidates as stand for it, the same each time', () => {
    const belief = new Belief(agm, 60, 3);
    belief.observe({ kind: 'ocv', volts: 12.2, isRested: true });
    expect(belief.spread(20)).to.have.length(20);
    expect(belief.spread(20).map(({ traits: { charge } }) => charge)).to.deep.equal(
      belief.spread(20).map(({ traits: { charge } }) => charge),
    );
  });
});
