/** The model against what makers publish of each class (handbook 1): inside the range, or within a tenth of its middle. */
import { expect } from 'chai';
import { PUBLISHED } from '../battery/dischargeRates.ts';
import { CLASS_CASES, modelledShare } from '../test/classRates.ts';
import { ACID_G_PER_AH } from '../electrolyte/faraday.ts';
import { soundCell } from './parameters.ts';

const TENTH = 0.1;

describe('discharge of each class of battery', () => {
  for (const { of, name, rating, isFitted } of CLASS_CASES)
    it(`${of} ${name}: as published at every rate${isFitted ? ' (fitted)' : ' (predicted)'}`, () => {
      for (const published of PUBLISHED[of]) {
        const { hours, low, high } = published;
        const share = modelledShare(rating, published);
        const middle = (low + high) / 2;
        const isInside = share >= low && share <= high;
        expect(isInside || Math.abs(share / middle - 1) <= TENTH, `${hours} h: ${share.toFixed(3)}`).to.equal(
          true,
        );
      }
    });

  it('has acid left when its plates are used up, whatever the class', () => {
    for (const { of, rating } of CLASS_CASES) {
      const cell = soundCell(rating);
      expect(cell.acidG / ACID_G_PER_AH / cell.convertibleAh, of).to.be.within(1.05, 1.9);
    }
  });
});
