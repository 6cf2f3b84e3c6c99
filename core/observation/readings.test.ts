import { expect } from 'chai';
import { candidate } from '../test/candidate.ts';
import { AGM_80, FLOODED_70 } from '../test/modelBench.ts';
import { readingDocumentSchema, readingSchema } from '../contract/readingSchema.ts';
import { Belief } from '../belief/belief.ts';
import { shownOf } from './shown.ts';
import { chanceFrom } from '../chance/chance.ts';
import { logLikelihood, mostLogLikelihood } from './likelihood.ts';
import { isDear, MINUTES, onChargeMin, type Reading } from './readings.ts';
import { readingWords } from '../belief/words.ts';
import type { Setting } from '../candidate/traits.ts';
import { effectiveOf, normalised, quantile } from '../belief/weights.ts';

const REST = { amps: 0, volts: 0, minutes: 1440 };
const settings: readonly Setting[] = [AGM_80, FLOODED_70].map((rating) => ({
  rating,
  history: { construction: rating.construction, ageYears: 4, complaint: 'parked', flatMonths: 4 },
  tempC: 21,
  passages: [{ amps: rating.capacityAh / 20, volts: 14.6, minutes: 600 }, REST],
}));

/** A reading of every kind, each as an instrument might show it. */
function anyReadings(setting: Setting, chance: () => number): Reading[] {
  const { cells } = setting.rating;
  const cell = 1 + Math.floor(chance() * cells);
  return [
    { kind: 'ocv', volts: 14 * chance(), isRested: chance() < 0.5 },
    { kind: 'load', amps: 240, seconds: 15, volts: 12 * chance() },
    { kind: 'load', amps: 240, seconds: 15, volts: 8, firstV: 12 * chance(), backV: 13 * chance() },
    { kind: 'tester', amps: 900 * chance() },
    { kind: 'density', cell, density: 1.05 + 0.3 * chance() },
    { kind: 'density', cell, density: 1.2, isMixed: false },
    { kind: 'level', cell, level: chance() < 0.5 ? 'low' : 'plates-bare' },
    { kind: 'dips', volts: Array.from({ length: cells + 1 }, () => 2.2 * chance()) },
    { kind: 'acceptance', volts: 14.4, amps: 16 * chance() },
    { kind: 'bubbles', cell, bubbles: chance() < 0.5 ? 'none' : 'lively' },
    { kind: 'bubbles', cell, bubbles: 'few', midway: 120 },
    { kind: 'density', cell, density: 1.2, midway: 120 },
    { kind: 'resistance', ohm: 0.03 * chance() },
    {
      kind: 'warmth',
      cells: [1, 2, 3].map((one) => ({ cell: one, tempC: 15 + 20 * chance() })),
      midway: 120,
    },
    { kind: 'warmth', cells: [{ cell, tempC: 22 }] },
    { kind: 'crank', volts: 12 * chance() },
    { kind: 'mass', deficitG: 1500 * chance() - 300 },
    { kind: 'charger', view: chance() < 0.5 ? 'refuses' : 'finishes', startV: 8 },
    { kind: 'look', minute: 300, volts: 12 + 3 * chance(), amps: 4 * chance(), tempC: 20 + 10 * chance() },
    { kind: 'reserve', stage: 2, amps: 25, minutes: 150 * chance() },
    { kind: 'drain', stage: 2, amps: 25, minute: 40, volts: 9 + 4 * chance() },
    { kind: 'hold', stage: 2, volts: 0.2 * chance() },
    { kind: 'ocv', stage: 2, volts: 12 + chance(), isRested: true },
  ];
}

describe('how likely a reading is', () => {
  const chance = chanceFrom(404);
  for (const setting of settings) {
    const { construction } = setting.rating;
    const belief = new Belief(setting, 12, 9);

    it(`${construction}: is never more likely than the most it could be, whatever candidate and reading`, () => {
      for (const { shown } of belief.all)
        for (const reading of anyReadings(setting, chance)) {
          const log = logLikelihood(reading, shown, setting);
          expect(Number.isNaN(log), readingWords(reading)).to.equal(false);
          expect(log, readingWords(reading)).to.be.at.most(mostLogLikelihood(reading, setting) + 1e-9);
        }
    });

    it(`${construction}: falls with every step away from what the candidate shows`, () => {
      const [candidate] = belief.all;
      const shown = candidate?.shown;
      if (!shown) throw new Error('no candidate');
      const away: readonly (readonly [string, (off: number) => Reading])[] = [
        ['ocv', (off) => ({ kind: 'ocv', volts: shown.ocvV() + off, isRested: true })],
        [
          'load',
          (off) => ({ kind: 'load', amps: 240, seconds: 15, volts: shown.load(240, 15).lowestV + off }),
        ],
        ['tester', (off) => ({ kind: 'tester', amps: shown.testerA() + 100 * off })],
        ['density', (off) => ({ kind: 'density', cell: 1, density: shown.density(1) + off / 20 })],
        ['dips', (off) => ({ kind: 'dips', volts: shown.dips().map((volts) => volts + off / 5) })],
        [
          'acceptance',
          (off) => ({
            kind: 'acceptance',
            volts: 14.4,
            amps: shown.acceptedA(14.4, setting.rating.capacityAh / 5) + 10 * off,
          }),
        ],
      ];
      for (const [name, reading] of away) {
        const logs = [0, 0.2, 0.5, 1].map((off) => logLikelihood(reading(off), shown, setting));
        expect(logs, name).to.deep.equal([...logs].sort((a, b) => b - a));
      }
    });
  }

  it('density before water has mixed says nothing of any candidate', () => {
    const [, setting] = settings;
    if (!setting) throw new Error('no setting');
    const belief = new Belief(setting, 8, 2);
    const unmixed: Reading = { kind: 'density', cell: 1, density: 1.07, isMixed: false };
    expect(new Set(belief.all.map(({ shown }) => logLikelihood(unmixed, shown, setting)))).to.deep.equal(
      new Set([0]),
    );
  });

  it('warm acid floats the hydrometer lower: 7 thousandths in ten kelvins are no evidence', () => {
    const [, setting] = settings;
    if (!setting) throw new Error('no setting');
    const [one] = new Belief(setting, 8, 2).all;
    if (!one) throw new Error('no candidate');
    const log = (density: number, tempC?: number): number =>
      logLikelihood(
        { kind: 'density', cell: 1, density, ...(tempC === undefined ? {} : { tempC }) },
        one.shown,
        setting,
      );
    const seen = one.shown.density(1);
    expect(log(seen - 0.007, setting.tempC + 10)).to.be.closeTo(log(seen), 1e-6);
    expect(log(seen - 0.007)).to.be.below(log(seen) - 0.1);
  });

  it('an odd reading does not decide alone: its odds are bounded where a normal law’s would not be', () => {
    const [setting] = settings;
    if (!setting) throw new Error('no setting');
    const traits = candidate({ charge: 0.6, dryShare: 0.01, cell: 1, severity: 0.5 });
    const shown = shownOf(traits, setting);
    const log = (off: number): number =>
      logLikelihood({ kind: 'ocv', volts: shown.ocvV() + off, isRested: true }, shown, setting);
    expect(log(0) - log(1)).to.be.within(8, 25);
  });

  it('what needs a test or a charge of its own is asked last', () => {
    const dear = anyReadings(settings[0] as Setting, chance).filter(isDear);
    expect(new Set(dear.map(({ kind }) => kind))).to.deep.equal(
      // Bubbles, density and warmth where they are seen on charge.
      new Set([
        ...['load', 'acceptance', 'crank', 'look', 'reserve', 'drain', 'hold', 'ocv'],
        ...['bubbles', 'density', 'warmth'],
      ]),
    );
  });
});

describe('a reading as it is sent', () => {
  const chance = chanceFrom(7);
  for (const reading of anyReadings(settings[1] as Setting, chance).filter(
    (one) => onChargeMin(one) === undefined && one.stage === undefined,
  ))
    it(`passes the door: ${readingWords(reading)}`, () => {
      expect(readingSchema.validate(reading).error).to.equal(undefined);
      expect(readingDocumentSchema.validate(reading).error).to.equal(undefined);
      expect(MINUTES[reading.kind]).to.be.greaterThan(0);
    });

  for (const [what, reading, sentence] of [
    ['a cell too many', { kind: 'density', cell: 13, density: 1.2 }, 'Cell: 1 to 12'],
    ['no battery’s density', { kind: 'density', cell: 1, density: 1.9 }, 'Density'],
    ['a voltage of a house', { kind: 'ocv', volts: 230, isRested: true }, 'Voltage'],
    ['a load for an hour', { kind: 'load', amps: 200, seconds: 3600, volts: 9 }, 'Length'],
    ['a charger of another kind', { kind: 'charger', view: 'sulks', startV: 8 }, 'view'],
    ['a test before it began', { kind: 'drain', amps: 25, minute: -1, volts: 12 }, 'Minutes so far'],
    ['a cell on fire', { kind: 'warmth', cells: [{ cell: 2, tempC: 300 }] }, 'Warmth of the cell'],
    ['a resistance of nothing', { kind: 'resistance', ohm: -1 }, 'Resistance'],
    ['a lift-off', { kind: 'load', amps: 200, seconds: 15, volts: 9, backV: 99 }, 'springs back'],
    ['minutes without end', { kind: 'reserve', amps: 25, minutes: 1e6 }, 'Minutes'],
  ] as const)
    it(`is refused in one sentence: ${what}`, () => {
      expect(readingSchema.validate(reading).error?.message).to.include(sentence);
    });
});

describe('weights', () => {
  it('sum to one, however small the logarithms', () => {
    const weights = normalised(Float64Array.from([-1e4, -1e4 - 1, -1e4 - 2]));
    expect(weights.reduce((sum, weight) => sum + weight, 0)).to.be.closeTo(1, 1e-12);
    expect(weights[0]).to.be.greaterThan(weights[1] ?? 1);
  });

  it('rest on all where alike, on one where one carries all', () => {
    expect(effectiveOf(new Float64Array(10).fill(0.1))).to.be.closeTo(10, 1e-9);
    expect(effectiveOf(Float64Array.from([1, 0, 0]))).to.equal(1);
  });

  for (const [share, expected] of [
    [0.1, 1],
    [0.5, 2],
    [0.95, 3],
  ] as const)
    it(`the ${share * 100} % point of unequal weights is ${expected}`, () => {
      expect(quantile([3, 1, 2], Float64Array.from([0.2, 0.4, 0.4]), share)).to.equal(expected);
    });
});
