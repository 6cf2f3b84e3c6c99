/** What holds of every way back and every check, whatever the battery. */
import { expect } from 'chai';
import fc from 'fast-check';
import { Belief } from '../belief/belief.ts';
import type { Setting } from '../candidate/traits.ts';
import { read } from '../observation/modelView.ts';
import { RECOVER_AGM, RECOVER_FLOODED } from '../runsheet/procedures/recovery.ts';
import { gradeOf } from '../grading/grade.ts';
import { brought } from '../test/broughtIn.ts';
import { AGM_80, FLOODED_70 } from '../test/modelBench.ts';
import { compare } from './compare.ts';
import { GRADES } from './rows.ts';
import { stepsOf } from '../adapters/routeMinutes.ts';
import { waysFrom, type Course, type Judged } from './courses.ts';
import { minutesOf } from './bestCheck.ts';
import { checksLeft, nextChecks, readingsOf } from './nextCheck.ts';
import { outcomeOf } from './outcome.ts';
import { coreOf, USUAL_COSTS, valueOf, type Costs } from './worth.ts';

const COSTS: Costs = { ...USUAL_COSTS, pricePerKwh: 0.3 };
const SETTINGS: readonly Setting[] = [AGM_80, FLOODED_70].map((rating) => ({
  rating,
  history: { construction: rating.construction, ageYears: 4, complaint: 'unknown' },
  tempC: 21,
}));
const ROUTES = { agm: RECOVER_AGM.routes ?? [], flooded: RECOVER_FLOODED.routes ?? [] } as const;
const OPENED = {
  agm: brought('BK-A12/55').job.state.opened,
  flooded: brought('BK-F12/70').job.state.opened,
} as const;
const course = (...routes: string[]): Course => ({ id: routes.join('+'), title: routes.join(), routes });
const WAYS: readonly Course[] = [
  course('slow-charge'),
  course('water-back', 'slow-charge'),
  course('supply-wake', 'slow-charge'),
  course('cycle', 'slow-charge'),
  course('retire'),
];

for (const setting of SETTINGS) {
  const { cells } = setting.rating;
  const construction = setting.rating.construction === 'flooded' ? 'flooded' : 'agm';
  const candidates = new Belief(setting, 6, 21).all;

  describe(`every way back of any ${construction} battery`, () => {
    const outcomes = WAYS.map((way) => candidates.map(({ traits }) => outcomeOf(way, traits, setting)));

    it('ends the same when it is run again', () => {
      for (const { traits } of candidates.slice(0, 3))
        expect(outcomeOf(course('slow-charge'), traits, setting)).to.deep.equal(
          outcomeOf(course('slow-charge'), traits, setting),
        );
    });

    it('is graded no better than what it gives and how it cranks', () => {
      for (const { grade, capacity, cranking } of outcomes.flat()) {
        const without = gradeOf({
          capacityShare: capacity,
          crankingShare: cranking,
          isRated: true,
          day: 'held',
          week: 'held',
        });
        const rank = (one: string): number => 'RCBA'.indexOf(one.charAt(0));
        expect(rank(grade)).to.be.at.most(rank(without.grade));
      }
    });

    it('takes time, never gives energy back, and takes water only where water goes', () => {
      outcomes.forEach((row, index) => {
        const way = WAYS[index];
        for (const { hours, mainsWh, waterMl, chargedH } of row) {
          expect(hours).to.be.at.least(0);
          expect(mainsWh).to.be.at.least(-1e-9);
          if (way?.routes.includes('water-back') !== true) expect(waterMl).to.equal(0);
          expect(waterMl).to.be.at.least(0);
          for (const { route, hours: charged } of chargedH) {
            expect(way?.routes).to.include(route);
            expect(charged).to.be.within(0, 7 * 24 + 1e-6);
          }
        }
      });
    });

    it('odds sum to one, and its worth lies between a core worked on for nothing and the best grade', () => {
      const { scored, worths } = compare(
        WAYS,
        outcomes,
        setting,
        COSTS,
        stepsOf(ROUTES[construction], OPENED[construction]),
      );
      for (const { odds, worth, worthLow, worthHigh, cost, course: way } of scored) {
        expect(GRADES.reduce((sum, mark) => sum + odds[mark], 0)).to.be.closeTo(1, 1e-9);
        expect(worth).to.be.at.most(valueOf('A', setting.rating, COSTS));
        expect(worth).to.be.at.least(coreOf(setting.rating, COSTS) - cost * 3);
        expect(worthLow).to.be.at.most(worthHigh);
        expect(cost, way.title).to.be.greaterThan(0);
      }
      expect(worths).to.have.length(WAYS.length);
      expect(scored.map(({ worth }) => worth)).to.deep.equal(
        [...scored.map(({ worth }) => worth)].sort((a, b) => b - a),
      );
    });

    it('dearer hands make no way worth more', () => {
      const steps = stepsOf(ROUTES[construction], OPENED[construction]);
      const dear = compare(WAYS, outcomes, setting, { ...COSTS, handsPerHour: 90 }, steps);
      for (const one of compare(WAYS, outcomes, setting, COSTS, steps).scored) {
        const other = dear.scored.find(({ course: { id } }) => id === one.course.id);
        expect(other?.worth, one.course.title).to.be.at.most(one.worth);
        expect(other?.odds).to.deep.equal(one.odds);
      }
    });
  });

  describe(`every check of any ${construction} battery`, () => {
    const judges = new Belief(setting, 8, 33).all;
    const worths = [judges.map((_, index) => 10 + index), judges.map(() => 14)];
    const ways = [course('slow-charge'), course('retire')];

    it('reads something of each, the same for the same seed', () => {
      for (const check of checksLeft([], setting))
        for (const { shown } of judges.slice(0, 6)) {
          const readings = readingsOf(check, shown, setting, 'one');
          expect(readings.length).to.be.oneOf([1, cells]);
          expect(readingsOf(check, shown, setting, 'one')).to.deep.equal(readings);
        }
    });

    it('takes minutes, changes between none and all, and says what at least one in twenty would mean', () => {
      for (const { check, minutes, changes, meanings, perMinute, worth } of nextChecks(
        [],
        judges,
        worths,
        ways,
        setting,
      )) {
        expect(minutes).to.equal(minutesOf(check, cells));
        expect(changes).to.be.within(0, 1);
        expect(perMinute * minutes).to.be.closeTo(worth, 1e-9);
        const told = meanings.reduce((sum, { share }) => sum + share, 0);
        expect(told).to.be.within(0.9, 1 + 1e-9);
        for (const { share } of meanings) expect(share).to.be.at.least(0.05);
      }
    });
  });
}

describe('whatever is forbidden', () => {
  const routes = RECOVER_AGM.routes ?? [];
  const verdicts = fc.array(fc.constantFrom('open', 'reason', 'shut'), {
    minLength: routes.length,
    maxLength: routes.length,
  });

  it('a way that safety shuts is in no course, neither by itself nor before or after another', () => {
    fc.assert(
      fc.property(verdicts, fc.boolean(), (list, isAsleep) => {
        const judged = routes.map((route, index): Judged => {
          const verdict = list[index];
          return {
            route,
            veto: verdict === 'open' ? undefined : { why: 'so', canOverride: verdict === 'reason' },
          };
        });
        const shut = judged.filter(({ veto }) => veto?.canOverride === false).map(({ route }) => route.id);
        const { courses } = waysFrom(judged, true, isAsleep);
        for (const { routes: gone, id } of courses) {
          if (id === 'retire') continue;
          for (const one of gone) expect(shut, `${id}: ${gone.join()}`).not.to.include(one);
        }
      }),
      { numRuns: 300 },
    );
  });

  it('one that is asleep is woken before anything is charged into it, or not at all', () => {
    fc.assert(
      fc.property(verdicts, (list) => {
        const judged = routes.map((route, index): Judged => ({
          route,
          veto: list[index] === 'open' ? undefined : { why: 'so', canOverride: list[index] === 'reason' },
        }));
        for (const { id, routes: gone } of waysFrom(judged, true, true).courses) {
          if (id === 'retire') continue;
          const first = gone.find((one) => one !== 'water-back');
          expect(first, `${id}: ${gone.join()}`).to.be.oneOf(['supply-wake', 'donor-wake', 'forced-start']);
        }
      }),
      { numRuns: 300 },
    );
  });
});

describe('an instrument of a check', () => {
  it('errs by its own error, not more: a thousand readings of one voltage', () => {
    const off = Array.from({ length: 1000 }, (_, index) => read(12.5, 'meterV', `n${index}`) - 12.5);
    const spread = Math.sqrt(off.reduce((sum, one) => sum + one * one, 0) / off.length);
    expect(spread).to.be.closeTo(12.5 * 0.0005, 0.0005);
  });
});
