import { expect } from 'chai';
import { CATALOGUE } from '../../demo/catalogue.ts';
import { TestJob } from '../../test/testJob.ts';
import { chargeSpecs, massField, printedFields, voltageField } from './fields.ts';
import { contextOf } from '../state/context.ts';

function typeOf(id: string) {
  const type = CATALOGUE.find((candidate) => candidate.id === id);
  if (!type) throw new Error(`no type ${id}`);
  return type;
}

const context = (id: string) => contextOf(new TestJob(id).job.state, 1);

describe('fields of a run sheet', () => {
  it('halve every voltage on a 6 V battery', () => {
    const field = voltageField({
      id: 'ocvV',
      label: 'Open-circuit voltage',
      plausible: [10, 13.2],
      quantity: 'voltage',
    });
    const ranges = ['LW-A12/9', 'LW-A6/4'].map((id) => field.spec(context(id)).plausible);
    expect(ranges.map((range) => range.min)).to.deep.equal([10, 5]);
    expect(ranges[0]?.max).to.be.closeTo(13.2, 1e-9);
    expect(ranges[1]?.max).to.be.closeTo(6.6, 1e-9);
    expect(field.spec(context('LW-A6/4')).possible).to.deep.equal({ min: 0, max: 9 });
  });

  it('expect a filled battery to weigh its dry mass and its acid', () => {
    const { plausible } = massField('filledG', 'Mass, filled', true).spec(context('LW-A12/9'));
    const expected = 2910 + 492 * 1.32;
    expect(plausible.min).to.be.below(expected);
    expect(plausible.max).to.be.above(expected);
    expect(massField('dryG', 'Mass, dry', false).spec(context('LW-A12/9')).plausible.max).to.be.below(
      expected,
    );
  });

  it('expect no more current on charge than was set, with a tenth for the meter', () => {
    expect(chargeSpecs(typeOf('LW-A12/9'), 0.9).currentA.plausible.max).to.equal(0.99);
    expect(chargeSpecs(typeOf('LW-A12/9'), 0.9)).to.equal(chargeSpecs(typeOf('LW-A12/9'), 0.9));
    expect(chargeSpecs(typeOf('LW-A12/9'), 0.4).currentA.plausible.max).to.equal(0.44);
  });

  it('let no label value above half of capacity be typed in', () => {
    const current = printedFields.find((field) => field.id === 'chargeCurrentA');
    expect(current?.spec(context('LW-A12/9')).possible.max).to.equal(4.5);
    expect(current?.spec(context('BK-A12/55')).possible.max).to.equal(27.5);
    expect(printedFields.every((field) => field.optional)).to.equal(true);
  });
});
