import { expect } from 'chai';
import fc from 'fast-check';
import { chargerSchema } from '../contract/chargerSchema.ts';
import { chargerFrom, TEMPLATES, type TemplateId } from './templates.ts';

describe('chargers from a question or two', () => {
  it('a knob says all its settings', () => {
    const charger = chargerFrom('knob', 'c1', { name: '', mostA: 0, settingsA: [10, 2, 6] });
    expect(charger).to.deep.include({ kind: 'bench', leastA: 2, mostA: 10, detentsA: [2, 6, 10] });
    expect(charger.name).to.equal('Charger with a current knob');
  });

  it('a gel charger stops where gel must', () => {
    expect(chargerFrom('automatic', 'c1', { name: 'G', mostA: 2, modes: ['gel'] }).mostV).to.equal(14.1);
    expect(chargerFrom('automatic', 'c1', { name: 'G', mostA: 2, modes: ['gel', 'agm'] }).mostV).to.equal(
      14.7,
    );
  });

  it('one that gives nothing is refused in a sentence', () => {
    for (const mostA of [0, -1, Number.NaN, 500])
      expect(() => chargerFrom('supply', 'c1', { name: '', mostA })).to.throw(
        RangeError,
        'above 0 and up to 200 A',
      );
  });

  it('whatever is answered, what is made passes the schema', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...(Object.keys(TEMPLATES) as TemplateId[])),
        fc.double({ min: 0.05, max: 200, noNaN: true }),
        fc.array(fc.double({ min: 0.05, max: 60, noNaN: true }), { maxLength: 5 }),
        (template, mostA, settingsA) => {
          const charger = chargerFrom(template, 'charger-1', { name: 'one', mostA, settingsA });
          expect(chargerSchema.validate(charger).error?.message).to.equal(undefined);
        },
      ),
    );
  });
});
