import { expect } from 'chai';
import fc from 'fast-check';
import { isSwitchable, shownAs, SWITCHABLE } from '../units/convert.ts';
import { isChoice, reckon, ReckonError, startOf, type Calculator, type Given } from './calculator.ts';
import { CALCULATORS } from './calculators.ts';

function calculator(id: string): Calculator {
  const found = CALCULATORS.find((one) => one.id === id);
  if (!found) throw new Error(`no calculator ${id}`);
  return found;
}

/** The first result, or the one with this label. */
function answer(id: string, given: Given, label?: string): number {
  const one = calculator(id);
  const { results } = reckon(one, { ...startOf(one), ...given });
  const found = label === undefined ? results[0] : results.find((result) => result.label === label);
  if (!found) throw new Error(`${id} has no ${label ?? 'result'}`);
  return found.value;
}

describe('the reckoner, against published figures', () => {
  for (const [id, given, label, published, source] of [
    // Perry: 36 % is 1.2647 at 25 °C, 1.2719 at 15 °C, 1.2685 at 20 °C.
    ['density-25', { density: 1.2719, tempC: 15 }, undefined, 1.2647, 'Perry'],
    ['density-25', { density: 1.2685, tempC: 20 }, undefined, 1.2647, 'Perry'],
    ['density-voltage', { density: 1.265 }, 'Rests at', 12.69, 'Bode, six cells'],
    ['density-voltage', { density: 1.28 }, 'Rests at', 12.78, 'Bode, six cells'],
    ['density-voltage', { density: 1.3 }, 'Rests at', 12.9, 'Bode, six cells'],
    ['voltage-density', { volts: 12.69 }, 'Acid at the plates', 1.265, 'Bode'],
    ['voltage-density', { volts: 12.24, kind: 'flooded' }, 'Charge, about', 50, 'BCI'],
    ['voltage-density', { volts: 12.45, kind: 'flooded' }, 'Charge, about', 75, 'BCI'],
    // Vinal: 1 part of 1.835 to 2.8 parts of water by volume gives 1.265 (table of mixing electrolyte, 80 °F).
    [
      'neutraliser',
      { ml: 1000, density: 1.2647 },
      'Takes',
      0.36 * 1264.7 * 1.713 * 1.1,
      'stoichiometry, and a tenth more',
    ],
    ['freezing', { density: 1.1 }, undefined, -7.7, 'Vinal'],
    ['freezing', { density: 1.2 }, undefined, -27, 'Vinal'],
    ['freezing', { density: 1.15 }, undefined, -15, 'Vinal'],
    ['compensation', { volts: 14.4, tempC: 5 }, undefined, 14.88, '−24 mV/K on six cells'],
    ['compensation', { volts: 14.4, tempC: -10 }, undefined, 15, 'held at 0 °C'],
    ['ventilation', { ah: 100, venting: 'vented', holding: 'float' }, 'Air', 0.15, 'IEC 62485-2'],
    [
      'ventilation',
      { ah: 100, venting: 'vented', holding: 'boost' },
      'Opening, in and out, each',
      16.8,
      'IEC',
    ],
    ['ventilation', { ah: 100, venting: 'valve-regulated', holding: 'boost' }, 'Air', 0.24, 'IEC 62485-2'],
    ['hydrogen', { amps: 1, cells: '6' }, 'Given off', 6 * 0.456, 'Faraday'],
    [
      'reserve-to-capacity',
      { minutes: 60, of: 'starter' },
      undefined,
      25 / 0.6,
      'table: 0.60 C20 for an hour',
    ],
    ['reserve-to-capacity', { minutes: 180, of: 'starter' }, undefined, 25 / 0.26, 'table: 0.26 C20 for 3 h'],
    ['capacity-to-reserve', { ah: 100, of: 'starter', amps: 60 }, 'Lasts', 60, 'table: 0.60 C20 for an hour'],
    [
      'capacity-to-reserve',
      { ah: 100, hours: 10, of: 'standby', amps: 17.5 },
      'Lasts',
      300,
      'table: 0.175 C10 for 5 h',
    ],
    ['load-test', { cca: 500, tempC: -18 }, 'Holds at least', 8.5, 'BCI'],
    ['load-test', { cca: 500, tempC: 21 }, 'Holds at least', 9.6, 'BCI'],
    ['load-test', { cca: 0, ah: 60 }, 'Load', 180, '3 × Ah'],
    ['cranking-standards', { amps: 100, from: 'SAE' }, 'DIN', 57, 'rule of thumb'],
    ['cut-off', { amps: 25 }, undefined, 10.5, 'handbook'],
    ['first-charge', { ah: 12, percent: 80 }, 'Set', 1.2, 'C10/10'],
    ['first-charge', { ah: 30, percent: 80 }, 'Set', 3, '3 A at most'],
    [
      'charge-time',
      { ah: 70, percent: 30, amps: 7, tail: 2 },
      undefined,
      49 / (7 * 0.92) + 2,
      'charge balance',
    ],
    ['energy', { chargeAh: 100, volts: 14, efficiency: 70 }, undefined, 2, 'definition'],
    [
      'parasitic',
      { milliamps: 50, ah: 60, monthly: 3 },
      'Until 12.4 V',
      (0.49 * 60) / (1.2 + 0.0591),
      'balance',
    ],
    [
      'parasitic',
      { milliamps: 50, ah: 60, monthly: 3, kind: 'flooded' },
      'Until 12.4 V',
      (0.31 * 60) / (1.2 + 0.0591),
      'balance',
    ],
    ['sulfate-solution', { ml: 2000, salt: 'sodium' }, undefined, 55, '27.5 g/L'],
    ['sulfate-solution', { ml: 2000, salt: 'glauber' }, undefined, (55 * 322.19) / 142.04, 'Na2SO4·10H2O'],
    ['batch', { count: 4, ah: 14, mlPerAh: 9.1, spare: 0 }, undefined, 4 * 14 * 6 * 9.1, 'product'],
    [
      'inrush',
      { donorV: 12.6, flatV: 6, donorMohm: 5, flatMohm: 40 },
      undefined,
      6.6 / (0.045 + 2 * 2 * (0.0175 / 16) + 0.004),
      'Ohm',
    ],
  ] as const)
    it(`${id} ${JSON.stringify(given)}: ${published.toPrecision(4)} (${source}), within 1 %`, () => {
      expect(answer(id, given, label)).to.be.closeTo(published, Math.abs(published) * 0.01);
    });

  it('dilution: the heat is the published one, and mass closes', () => {
    const given = { strong: 1.83, wanted: 1.265, ml: 1000 };
    const water = answer('dilution', given, '1. Water into the vessel');
    const acid = answer('dilution', given, '2. Acid into the water');
    expect(acid * 1.83 + water * 0.997).to.be.closeTo(1265, 3);
    // Volumes shrink by 4 to 6 % on the way to 36 %.
    expect((acid + water) / 1000).to.be.within(1.03, 1.07);
    expect(answer('dilution', given, 'Warms by up to')).to.be.within(55, 80);
  });
});

describe('every calculator', () => {
  it('has a name, a source, a question, and answers what it starts with', () => {
    const ids = CALCULATORS.map(({ id }) => id);
    expect(new Set(ids).size).to.equal(ids.length);
    expect(ids.length).to.be.at.least(19);
    for (const one of CALCULATORS) {
      const { results, working } = reckon(one, startOf(one));
      expect(one.question, one.id).to.match(/[?]$/);
      expect(one.source.length, one.id).to.be.above(10);
      expect(results.length, one.id).to.be.above(0);
      for (const { value } of results) expect(value, one.id).to.satisfy(Number.isFinite);
      for (const line of working) expect(line, one.id).not.to.match(/undefined|NaN|Infinity/);
    }
  });

  for (const one of CALCULATORS)
    it(`${one.id} rejects the impossible in one sentence that names the field`, () => {
      for (const ask of one.asks) {
        const wrong = isChoice(ask)
          ? ['by guess', 7]
          : [ask.min - Math.max(1, Math.abs(ask.min)), ask.max * 2 + 1, Number.NaN, 'much'];
        for (const value of wrong)
          try {
            reckon(one, { ...startOf(one), [ask.id]: value });
            expect.fail(`${one.id} took ${ask.id} = ${value}`);
          } catch (error) {
            expect(error, `${one.id} ${ask.id}`).to.be.instanceOf(ReckonError);
            const { message, field } = error as ReckonError;
            expect(field).to.equal(ask.id);
            expect(message).to.match(/^[^.]*: .*[.]$/);
          }
      }
    });

  it('never gives what is no number, whatever possible is asked', () => {
    for (const one of CALCULATORS) {
      const given = fc.record(
        Object.fromEntries(
          one.asks.map((ask) => [
            ask.id,
            isChoice(ask)
              ? fc.constantFrom(...Object.keys(ask.options))
              : fc.double({ min: ask.min, max: ask.max, noNaN: true }),
          ]),
        ),
      );
      fc.assert(
        fc.property(given, (values) => {
          try {
            for (const { value } of reckon(one, values).results)
              expect(value, `${one.id} ${JSON.stringify(values)}`).to.satisfy(Number.isFinite);
          } catch (error) {
            if (!(error instanceof ReckonError)) throw error;
            expect(error.message).to.match(/[.]$/);
          }
        }),
        { numRuns: 60, seed: 11 },
      );
    }
  });
});

describe('units', () => {
  it('go there and back within 1e-9', () => {
    for (const unit of Object.keys(SWITCHABLE))
      fc.assert(
        fc.property(fc.double({ min: -50, max: 10_000, noNaN: true }), (value) => {
          const way = shownAs(unit, true);
          expect(way.from(way.to(value))).to.be.closeTo(value, 1e-9 * Math.max(1, Math.abs(value)));
        }),
        { numRuns: 200, seed: 3 },
      );
  });

  it('agree with what is published', () => {
    expect(shownAs('°C', true).to(25)).to.equal(77);
    expect(shownAs('mL', true).to(1000)).to.be.closeTo(33.814, 0.001);
    expect(shownAs('g', true).to(1000)).to.be.closeTo(35.274, 0.001);
    expect(shownAs('kg/L', true).to(1.265)).to.be.closeTo(1.2687, 1e-4);
    expect(isSwitchable('V')).to.equal(false);
    expect(shownAs('V', true).to(12.6)).to.equal(12.6);
  });
});

describe('any kind, any number of cells', () => {
  it('gel is charged no faster than a fifth, and reads its own charge at rest', () => {
    expect(() => answer('charge-time', { ah: 40, kind: 'gel', amps: 12 })).to.throw(
      'a gel battery is charged no faster',
    );
    expect(answer('voltage-density', { volts: 2.15, cells: '1', kind: 'gel' })).to.be.within(95, 100);
  });
});
