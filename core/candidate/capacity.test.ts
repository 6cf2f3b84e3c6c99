import { expect } from 'chai';
import { chanceFrom } from '../chance/chance.ts';
import { draw } from '../model/discharge.ts';
import { twentyHourAh, type Rating } from '../model/parameters.ts';
import { candidate } from '../test/candidate.ts';
import { AGM_80, FLOODED_70 } from '../test/modelBench.ts';
import { capacityShare } from './capacity.ts';
import { DIMENSIONS } from './cube.ts';
import { chargedFrom } from './piece.ts';
import { traitsOf, type Setting, type Traits } from './traits.ts';

const GEL_12: Rating = { construction: 'gel', duty: 'standby', cells: 6, capacityAh: 12, hourRate: 20 };

const settingOf = (rating: Rating): Setting => ({
  rating,
  history: { construction: rating.construction, ageYears: 5, complaint: 'unknown' },
  tempC: 25,
});

/** By drawing it, as an analyser would. */
function drawnShare(traits: Traits, setting: Setting): number {
  const ratedAh = twentyHourAh(setting.rating);
  const cells = chargedFrom(traits, setting);
  return draw(cells, ratedAh / 20, 1.75 * setting.rating.cells, 60 * 3600).ah / ratedAh;
}

describe('capacity without drawing it', () => {
  for (const rating of [AGM_80, FLOODED_70, GEL_12])
    it(`is what the model gives, within half a hundredth, ${rating.construction}`, () => {
      const setting = settingOf(rating);
      const chance = chanceFrom(`capacity of ${rating.construction}`);
      const off: number[] = [];
      while (off.length < 60) {
        const traits = traitsOf(
          Float64Array.from({ length: DIMENSIONS }, () => chance()),
          setting,
        );
        // A dead cell is said to hold nothing, although its neighbours hold the battery up for a while.
        const share = capacityShare(chargedFrom(traits, setting), rating);
        if (share > 0) off.push(Math.abs(share - drawnShare(traits, setting)));
      }
      const within = off.filter((one) => one <= 0.005).length / off.length;
      expect(within).to.be.greaterThan(0.9);
      expect(Math.max(...off)).to.be.lessThan(0.03);
      expect(off.reduce((sum, one) => sum + one, 0) / off.length).to.be.lessThan(0.004);
    });

  it('is nothing with a dead cell or an open one, and half with a leak that takes as much as the test', () => {
    const setting = settingOf(AGM_80);
    const share = (traits: Partial<Traits>): number =>
      capacityShare(chargedFrom(candidate(traits), setting), AGM_80);
    expect(share({ cause: 'shorted-cell', severity: 0.2 })).to.equal(0);
    expect(share({ cause: 'open-cell', severity: 0.9 })).to.equal(0);
    expect(share({ cause: 'shorted-cell', severity: 1 })).to.be.within(0.4, 0.65);
    expect(share({ second: { fault: 'weak-cell', cell: 5, severity: 0.2 } })).to.be.lessThan(0.45);
  });

  it('drawn from where it stands, it gives what is charged', () => {
    const setting = settingOf(AGM_80);
    const cells = chargedFrom(candidate({ left: 1, hardShare: 0 }), setting);
    const full = capacityShare(cells, AGM_80, true);
    draw(cells, 4, 0, 5 * 3600);
    expect(full - capacityShare(cells, AGM_80, true)).to.be.closeTo(0.25, 0.01);
    expect(capacityShare(cells, AGM_80)).to.be.closeTo(full, 0.005);
  });
});
