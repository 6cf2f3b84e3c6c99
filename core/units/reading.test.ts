import { expect } from 'chai';
import fc from 'fast-check';
import { checkReading, parseReading, type ReadingSpec } from './reading.ts';
import { PLAIN_REGION, type Region } from './region.ts';
import { celsiusFromFahrenheit } from './temperature.ts';

const volts: ReadingSpec = {
  label: 'Open-circuit voltage',
  unit: 'V',
  decimals: 2,
  possible: { min: 0, max: 18 },
  plausible: { min: 9, max: 14 },
};
const warmth: ReadingSpec = {
  label: 'Case temperature',
  unit: '°C',
  decimals: 1,
  possible: { min: -30, max: 90 },
  plausible: { min: 5, max: 60 },
};

describe('parseReading', () => {
  for (const [text, value] of [
    ['12.84', 12.84],
    [' 12,84 ', 12.84],
    ['12.84 V', 12.84],
    ['12840 mV', 12.84],
    ['.95e', undefined],
    ['12.8.4', undefined],
    ['1,234.5', undefined],
  ] as const)
    it(`reads “${text}” as ${value ?? 'not one number'}`, () => {
      const parsed = parseReading(text, volts);
      if (value === undefined) expect(parsed).to.have.property('kind', 'refused');
      else expect(parsed).to.include({ kind: 'value', value });
    });

  it('says how a comma decimal was read', () => {
    expect(parseReading('12,84', volts)).to.have.property('readAs', 'Read as 12.84 V.');
  });

  it('asks “13.10 V?” when 131 is typed, and cannot keep the impossible', () => {
    const parsed = parseReading('131', volts);
    expect(parsed).to.deep.include({ kind: 'ask', suggestion: 13.1 });
    expect(parsed).not.to.have.property('value');
    expect(parsed).to.have.property('question').that.includes('13.10 V?').and.includes('0 to 18 V');
  });

  it('refuses negative volts with the allowed range and a hint at the leads', () => {
    expect(parseReading('-12.6', volts))
      .to.have.property('sentence')
      .that.includes('below zero')
      .and.includes('0 to 18 V');
  });

  it('asks whether 77 was Fahrenheit', () => {
    expect(parseReading('77', warmth)).to.deep.include({ kind: 'ask', suggestion: 25 });
  });

  it('takes Fahrenheit when it says so', () => {
    expect(parseReading('77F', warmth)).to.include({ kind: 'value', value: 25 });
    expect(celsiusFromFahrenheit(-40)).to.equal(-40);
  });

  it('lets an unusual but possible reading be kept', () => {
    expect(parseReading('3.2', volts)).to.deep.include({ kind: 'ask', value: 3.2 });
  });

  it('refuses a unit of another quantity', () => {
    expect(parseReading('12.6 A', volts)).to.have.property('sentence').that.includes('A is not a unit');
  });

  it('never records a value outside what is possible', () => {
    fc.assert(
      fc.property(fc.double({ noNaN: true, min: -1e6, max: 1e6 }), (value) => {
        const parsed = checkReading(value, volts);
        if (parsed.kind === 'value' || (parsed.kind === 'ask' && parsed.value !== undefined))
          expect(parsed.value).to.be.within(0, 18);
      }),
    );
  });
});

describe('a reading typed where °F, ounces and a comma are used', () => {
  const region: Region = {
    ...PLAIN_REGION,
    temperature: '°F',
    mass: 'lb',
    volume: 'fl oz',
    decimalMark: ',',
  };
  const of = (spec: Partial<ReadingSpec>): ReadingSpec => ({ ...warmth, ...spec });
  for (const [text, spec, value] of [
    ['75,2', warmth, 24],
    ['75.2', warmth, 24],
    ['24 c', warmth, 24],
    ['94', of({ unit: 'g', plausible: { min: 0, max: 5000 } }), 2664.855],
    ['5,8 lb', of({ unit: 'g', plausible: { min: 0, max: 5000 } }), 2630.836],
    ['13,5', of({ unit: 'mL', plausible: { min: 0, max: 5000 } }), 399.243],
    ['400 mL', of({ unit: 'mL', plausible: { min: 0, max: 5000 } }), 400],
    ['13,5 fl oz', of({ unit: 'mL', plausible: { min: 0, max: 5000 } }), 399.243],
  ] as const)
    it(`“${text}” is ${value} ${spec.unit}`, () => {
      const parsed = parseReading(text, spec, region);
      expect(parsed.kind).to.equal('value');
      expect(parsed).to.have.property('value').that.is.closeTo(value, 0.001);
    });

  it('says how it read a comma only where a point is usual, and the other way round', () => {
    expect(parseReading('75,2', warmth, region)).not.to.have.property('readAs');
    expect(parseReading('75.2', warmth, region)).to.have.property('readAs');
  });

  it('asks whether a figure is of the other scale, and keeps it where it is not', () => {
    expect(parseReading('24', warmth, region)).to.deep.include({
      kind: 'ask',
      question: '24.0 °C? 24 looks like Celsius. Allowed: −30 to 90 °C.',
      suggestion: 24,
    });
    expect(parseReading('24', warmth, region))
      .to.have.property('value')
      .that.is.closeTo(-4.444, 0.001);
    expect(parseReading('60', warmth, region)).to.have.property('kind', 'value');
  });

  it('a point that slipped is not taken for another scale', () => {
    expect(parseReading('250', warmth)).to.deep.include({ question: '25.0 °C? Allowed: −30 to 90 °C.' });
  });
});
