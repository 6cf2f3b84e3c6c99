import { expect } from 'chai';
import fc from 'fast-check';
import { chargeEstimate, type ChargeEvidenceNow } from './chargeEstimate.ts';

const AGM: ChargeEvidenceNow = {
  construction: 'agm',
  cells: 6,
  ocvV: 12.84,
  restMin: 65,
  isProvenFull: true,
};
const widthOf = ({ low, high }: { low: number; high: number }): number => high - low;

describe('the charge a battery is said to have', () => {
  it('a proof of full is not thrown away by a rested voltage that says less surely', () => {
    const together = chargeEstimate(AGM);
    const alone = chargeEstimate({ ...AGM, isProvenFull: false });
    expect(together.mean).to.be.above(95);
    expect(together.low).to.be.above(90);
    expect(widthOf(together)).to.be.below(0.7 * widthOf(alone));
  });

  it('13.24 V an hour off charge is surface charge: without a proof it is not “100 % (100 to 100 %)”', () => {
    const found = chargeEstimate({ ...AGM, ocvV: 13.24, isProvenFull: false });
    expect(widthOf(found)).to.be.above(10);
    expect(found.low).to.be.below(90);
  });

  it('the same voltage says more after a day than after an hour', () => {
    const early = chargeEstimate({ ...AGM, ocvV: 12.6, isProvenFull: false });
    const late = chargeEstimate({ ...AGM, ocvV: 12.6, isProvenFull: false, restMin: 24 * 60 });
    expect(widthOf(late)).to.be.below(widthOf(early));
    // Part of what is read an hour after its charge is surface charge.
    expect(early.mean).to.be.below(late.mean);
  });

  it('a density that says half, beside a proof of full, widens what is said instead of being averaged away', () => {
    const flooded = { ...AGM, construction: 'flooded', ocvV: 12.65 } as const;
    const agreeing = chargeEstimate({ ...flooded, density25: 1.268 });
    const contradicting = chargeEstimate({ ...flooded, density25: 1.19 });
    expect(widthOf(contradicting)).to.be.above(1.5 * widthOf(agreeing));
    expect(contradicting.mean).to.be.below(agreeing.mean);
  });

  it('cold reads low: 12.6 V at 5 °C are more charge than at 25 °C', () => {
    const at = (tempC: number): number =>
      chargeEstimate({ ...AGM, ocvV: 12.6, tempC, isProvenFull: false, restMin: 1440 }).mean;
    expect(at(5)).to.be.above(at(25));
  });

  it('is in order, within 0 and 100 %, and never surer than three points, whatever was read', () => {
    fc.assert(
      fc.property(
        fc.record({
          construction: fc.constantFrom('agm', 'flooded'),
          cells: fc.constantFrom(3, 6),
          ocvV: fc.double({ min: 0, max: 16, noNaN: true }),
          restMin: fc.double({ min: 0, max: 1e5, noNaN: true }),
          tempC: fc.double({ min: -30, max: 60, noNaN: true }),
          isProvenFull: fc.boolean(),
        }),
        (evidence) => {
          const found = chargeEstimate(evidence as ChargeEvidenceNow);
          expect(found.low).to.be.at.least(0);
          expect(found.high).to.be.at.most(100);
          expect(found.mean).to.be.within(found.low, found.high);
          expect(widthOf(found)).to.be.at.least(3 - 1e-9);
        },
      ),
      { seed: 12 },
    );
  });
});
