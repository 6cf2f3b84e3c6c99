import { expect } from 'chai';
import fc from 'fast-check';
import {
  capacityAt,
  capacityFromRun,
  hoursAtCurrent,
  hoursCovered,
  RATE_CLASSES,
  type RateClass,
} from './dischargeRates.ts';

const CLASSES = Object.keys(RATE_CLASSES) as RateClass[];

describe('discharge at another rate, by the class’s own table', () => {
  // Published constant currents, as shares of the class's own capacity, low and high (handbook 1).
  for (const [of, ratedH, hours, low, high] of [
    ['general-purpose', 20, 10, 0.092, 0.096],
    ['general-purpose', 20, 1, 0.58, 0.64],
    ['general-purpose', 20, 0.25, 1.7, 1.9],
    ['standby', 10, 3, 0.25, 0.265],
    ['gel-flat', 20, 5, 0.16, 0.172],
    ['gel-tubular', 10, 1, 0.5, 0.57],
    ['deep-cycle', 20, 3, 0.23, 0.25],
    ['starter', 20, 0.5, 1, 1.2],
  ] as const)
    it(`${of} gives for ${hours} h between ${low} and ${high} of its ${ratedH} h capacity`, () => {
      const share = capacityAt(of, 1, ratedH, hours) / hours;
      expect(share).to.be.within(low, high);
    });

  it('from 10 h to 20 h is no one exponent: flooded gains more than AGM', () => {
    expect(capacityAt('starter', 14, 10, 20)).to.be.closeTo(14 / 0.915, 0.01);
    expect(capacityAt('general-purpose', 14, 10, 20)).to.be.closeTo(14 / 0.94, 0.01);
    // Handbook 7: starter AGM k 1.10–1.15.
    expect(Math.log(2) / Math.log((2 * 14) / capacityAt('starter-agm', 14, 10, 20))).to.be.within(1.1, 1.15);
  });

  it('there and back is the same, and a slower rate never gives less', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...CLASSES),
        fc.double({ min: 1, max: 20, noNaN: true }),
        fc.double({ min: 1, max: 20, noNaN: true }),
        (of, one, other) => {
          expect(capacityAt(of, capacityAt(of, 60, one, other), other, one)).to.be.closeTo(60, 1e-9);
          const [fast, slow] = [Math.min(one, other), Math.max(one, other)];
          expect(capacityAt(of, 60, 20, slow)).to.be.at.least(capacityAt(of, 60, 20, fast) - 1e-9);
        },
      ),
    );
  });

  it('a current lasts as long as the capacity it gives, and outside the table nothing is drawn on', () => {
    fc.assert(
      fc.property(fc.constantFrom(...CLASSES), fc.double({ min: 0.2, max: 150, noNaN: true }), (of, amps) => {
        const hours = hoursAtCurrent(of, 60, 10, amps);
        const [, most] = hoursCovered(of);
        expect(capacityFromRun(of, amps, hours, 10)).to.be.closeTo(60, 1e-6);
        if (hours > most) expect(hours * amps).to.be.closeTo(capacityAt(of, 60, 10, most), 1e-9);
      }),
    );
  });
});
