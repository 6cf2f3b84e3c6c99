/** The ceilings of a first charge, under fuzzing: no entry order and no label value lifts them. */
import { expect } from 'chai';
import fc from 'fast-check';
import { CATALOGUE } from '../demo/catalogue.ts';
import { RunSheetError } from '../runsheet/entries/errors.ts';
import { STANDARD_RULES } from '../rules/houseRules.ts';
import { TestJob } from '../test/testJob.ts';
import { absoluteCeilingA, settingFor } from './firstCharge.ts';

const types = CATALOGUE.filter(({ delivery }) => delivery === 'own-pack');
const anyType = fc.constantFrom(...types);
const ageMonths = fc.double({ min: 0, max: 80, noNaN: true });

describe('first-charge limits', () => {
  it('without a label rate never exceed C/10, 3 A up to 30 Ah, and C/5', () => {
    fc.assert(
      fc.property(
        anyType,
        ageMonths,
        fc.double({ min: 11, max: 13.2, noNaN: true }),
        (type, age, volts12) => {
          const unlabelled = { type: { ...type, label: {} }, rules: STANDARD_RULES, entered: {} };
          const restedV = (volts12 * type.cells) / 6;
          const { current, totalMin, modelMin, tailMin } = settingFor(unlabelled, {
            ageMonths: age,
            restedV,
          });
          expect(current.value).to.be.at.most(type.capacityAh / 10 + 1e-9);
          expect(current.value).to.be.at.most(type.capacityAh / 5);
          if (type.capacityAh <= 30) expect(current.value).to.be.at.most(3);
          expect(current.value).to.be.at.most(absoluteCeilingA(unlabelled));
          expect(totalMin).to.be.at.least(tailMin);
          expect(totalMin).to.be.at.least(modelMin ?? Number.NaN);
          expect(totalMin - (modelMin ?? Number.NaN)).to.be.below(5);
        },
      ),
      { seed: 11 },
    );
  });

  it('refuse every current above the setting, and any that is no current', () => {
    const ready = new TestJob().soak();
    fc.assert(
      fc.property(
        fc.oneof(
          fc.double({ min: 0.91, max: 1e6, noNaN: true }),
          fc.double({ min: -1e6, max: 0.08, noNaN: true }),
          fc.constant(Number.NaN),
        ),
        (currentA) => {
          const before = ready.job;
          expect(() => ready.put('chargeStarted', { step: 'charge#1', currentA })).to.throw(
            RunSheetError,
            'is outside 0.09 to 0.90 A',
          );
          expect(ready.job).to.equal(before);
        },
      ),
      { seed: 12, numRuns: 60 },
    );
  });

  it('older stock is never charged for less time', () => {
    fc.assert(
      fc.property(anyType, ageMonths, ageMonths, (type, a, b) => {
        const basis = { type, rules: STANDARD_RULES, entered: {} };
        const [young, old] = [Math.min(a, b), Math.max(a, b)];
        expect(settingFor(basis, { ageMonths: old }).totalMin).to.be.at.least(
          settingFor(basis, { ageMonths: young }).totalMin,
        );
      }),
      { seed: 13 },
    );
  });

  it('a charge of an AGM above 45 °C is always held, one at 45 never', () => {
    fc.assert(
      fc.property(fc.double({ min: 30, max: 89, noNaN: true }), (tempC) => {
        const sheet = new TestJob()
          .soak()
          .put('chargeStarted', { step: 'charge#1', currentA: 0.9 })
          .wait(20)
          .read(14, 0.9, tempC);
        expect(sheet.current.status).to.equal(tempC > 45 ? 'held' : 'open');
      }),
      { seed: 14, numRuns: 60 },
    );
  });
});
