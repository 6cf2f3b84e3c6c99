import { expect } from 'chai';
import { AGM_80, FLOODED_70 } from '../test/modelBench.ts';
import { Belief } from './belief.ts';
import { possibleCauses } from '../candidate/causes.ts';
import { chanceFrom } from '../chance/chance.ts';
import { asReal } from './figures.ts';
import { Moves } from './moves.ts';
import { shownOf } from '../observation/shown.ts';
import { strataOf } from './strata.ts';
import { AXES } from '../candidate/cube.ts';
import { traitsOf, type Setting } from '../candidate/traits.ts';
import { done } from './work.ts';

const settings: readonly Setting[] = [AGM_80, FLOODED_70].map((rating) => ({
  rating,
  history: { construction: rating.construction, ageYears: 4, complaint: 'parked', flatMonths: 4 },
  tempC: 21,
}));
const CAUSE = AXES.indexOf('cause');
const CHARGE = AXES.indexOf('charge');

for (const setting of settings)
  describe(`where a candidate may go next, ${setting.rating.construction}`, () => {
    const { all } = new Belief(setting, 20, 5);
    const moves = new Moves(setting, chanceFrom(9));

    it('a nudge stays in the cube and never changes the cause', () => {
      for (const here of all) {
        const alike = all.filter(({ traits }) => traits.cause === here.traits.cause);
        const move = moves.nudged(here, alike);
        if (!move) continue;
        for (const value of move.point) expect(value).to.be.within(0, 1);
        expect(move.point[CAUSE]).to.equal(here.point[CAUSE]);
        expect(Number.isFinite(move.log)).to.equal(true);
      }
    });

    it('a nudge asks nobody in three of ten, and then goes anywhere along a few coordinates', () => {
      const here = all[0];
      if (!here) throw new Error('there are candidates');
      const alone = Array.from({ length: 400 }, () => moves.nudged(here, [])?.point)
        .filter((point) => point !== undefined)
        .map((point) => [...point].map((value, axis) => Math.abs(value - (here.point[axis] as number))))
        .filter((moved) => moved.filter((far) => far > 0).length <= 3);
      expect(alone.length).to.be.within(80, 180);
      const furthest = alone.map((moved) => Math.max(...moved));
      expect(Math.max(...furthest)).to.be.above(0.3);
      expect(furthest.filter((far) => far < 0.02).length).to.be.above(10);
    });

    it('a leap goes to the cause it was sent to', () => {
      for (const to of moves.possible)
        for (const here of all.slice(0, 8)) {
          const move = moves.leapt(here, to);
          if (move) expect(traitsOf(move.point, setting).cause).to.equal(to.cause);
        }
    });

    it('a leap keeps every degree of every illness, or where it lies; what it weighs leads back the same way', () => {
      let kept = 0;
      for (const here of all)
        for (const to of moves.possible)
          for (let attempt = 0; attempt < 3; attempt++) {
            const move = moves.leapt(here, to, true);
            if (!move) continue;
            const there = traitsOf(move.point, setting);
            const isAlike = (['dryShare', 'left', 'hardShare', 'low', 'layering'] as const).every(
              (name) => Math.abs(there[name] - here.traits[name]) < 1e-6,
            );
            if (isAlike && there.cause !== here.traits.cause) kept += 1;
            for (const value of move.point) expect(value).to.be.within(0, 1);
            expect(Number.isFinite(move.log)).to.equal(true);
          }
      expect(kept).to.be.greaterThan(10);
    });

    it('a leap that keeps the voltage leads back the same way, at the opposite weight', () => {
      const [empty, worn] = (['empty', 'worn'] as const).map((id) =>
        moves.possible.find(({ cause }) => cause === id),
      );
      let compared = 0;
      for (const here of all.filter(({ traits }) => traits.cause === 'empty'))
        for (let attempt = 0; attempt < 16; attempt++) {
          const there = moves.leapt(here, worn, true);
          // One in three keeps its charge instead of its voltage, at no weight.
          if (!there || there.log === 0) continue;
          const traits = traitsOf(there.point, setting);
          const shown = shownOf(traits, setting);
          expect(shown.ocvV()).to.be.closeTo(here.shown.ocvV(), 2e-3);
          const back = moves.leapt({ point: there.point, traits, shown }, empty, true);
          if (!back || back.log === 0) continue;
          expect(back.point[CHARGE]).to.be.closeTo(here.point[CHARGE] as number, 0.02);
          expect(back.log).to.be.closeTo(-there.log, 0.1);
          compared += 1;
        }
      expect(compared).to.be.greaterThan(2);
    });
  });

describe('causes side by side', () => {
  it('fill the axis without a gap, as wide as their odds', () => {
    for (const { history } of settings) {
      const possible = possibleCauses(history);
      let at = 0;
      for (const { from, width } of possible) {
        expect(from).to.be.closeTo(at, 1e-12);
        at += width;
      }
      expect(at).to.be.closeTo(1, 1e-12);
    }
  });

  it('strata hold what they are named for', () => {
    for (const setting of settings)
      for (const { cause, odds, candidates } of done(strataOf(setting, 3, 4))) {
        expect(odds, cause).to.be.greaterThan(0);
        expect(candidates, cause).to.have.length(3);
      }
  });
});

describe('a figure of a real battery', () => {
  it('is off in its charge by what the model may be off by, more after a charge, and in nothing that is not forecast', () => {
    expect(asReal('charge', 0.5, 'found', 0.5)).to.be.closeTo(0.5, 1e-9);
    expect(asReal('charge', 0.5, 'found', 0.8413)).to.be.closeTo(0.51, 1e-3);
    expect(asReal('charge', 0.5, 'charged', 0.8413)).to.be.closeTo(0.528, 1e-3);
    expect(asReal('capacity', 0.8, 'charged', 0.99)).to.equal(0.8);
  });

  it('is never less than nothing nor more than full', () => {
    expect(asReal('charge', 0.001, 'found', 0.01)).to.equal(0);
    expect(asReal('charge', 0.999, 'found', 0.99)).to.equal(1);
  });
});
