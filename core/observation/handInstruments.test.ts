import { expect } from 'chai';
import { bandReading } from '../adapters/lookedInto.ts';
import { LOAD_COLOURS, loadTestFor, voltsOfColour, type LoadColour } from '../battery/loadTest.ts';
import { courseOf } from '../adapters/fromJob.ts';
import { GENERIC_TYPES } from '../battery/genericTypes.ts';
import { isTaken } from '../battery/types.ts';
import { readingWords } from '../belief/words.ts';
import { readingSchema } from '../contract/readingSchema.ts';
import { BANDS, type Band } from '../runsheet/definition/fields.ts';
import { LOADED_FIRST, TESTED_FIRST, testerFields } from '../runsheet/definition/testerFields.ts';
import { brought } from '../test/broughtIn.ts';
import { givenBy, isShownBy } from './handInstruments.ts';

describe('instruments told once', () => {
  it('choose the answer a step begins with, in the order the step prefers them', () => {
    expect(givenBy(LOADED_FIRST, {})).to.equal(undefined);
    expect(givenBy(LOADED_FIRST, { loadTester: 'colours', tester: 'slip' })).to.equal('scale');
    expect(givenBy(LOADED_FIRST, { loadTester: 'none', tester: 'slip' })).to.equal('tester');
    expect(givenBy(TESTED_FIRST, { loadTester: 'volts', tester: 'figure' })).to.equal('tester');
    expect(givenBy(TESTED_FIRST, { loadTester: 'volts', tester: 'none' })).to.equal('load');
  });

  it('ask for what a slip prints only where one is printed, or nothing was told', () => {
    const asked = (held: Parameters<typeof isShownBy>[1]): string[] =>
      testerFields()
        .filter(({ shownBy }) => isShownBy(shownBy, held))
        .map(({ id }) => id);
    expect(asked({ tester: 'figure' })).to.deep.equal(['testerA']);
    expect(asked({ tester: 'slip' })).to.have.length(4);
    expect(asked({})).to.have.length(4);
  });
});

describe('a colour under load is the interval it is', () => {
  for (const type of GENERIC_TYPES.filter(isTaken))
    it(`${type.id}: the three lie one beside the other, the floor between yellow and green`, () => {
      const test = loadTestFor(type, 'halfCranking', 25);
      const ends = (['red', 'yellow', 'green'] as const).map((colour) => {
        const { volts, within } = voltsOfColour(colour, test, type);
        return [volts - within, volts + within] as const;
      });
      expect(ends[0]?.[1]).to.be.closeTo(ends[1]?.[0] ?? 0, 1e-9);
      expect(ends[1]?.[1]).to.be.closeTo(test.floorV, 1e-9);
      expect(ends[2]?.[0]).to.be.closeTo(test.floorV, 1e-9);
      expect(ends[0]?.[0]).to.be.greaterThan(0);
    });

  it('goes from the run sheet to the belief, is said as one, and passes the check of a reading', () => {
    const sheet = brought('TQ-F12/14').triage(12.4, { load: { by: 'scale', scale: 'yellow' } });
    const load = courseOf(sheet.job.state).readings.find(({ kind }) => kind === 'load');
    expect(load).to.deep.include({ kind: 'load', within: 0.5 });
    if (load) {
      expect(readingWords(load)).to.match(/by its colour \d+\.\d to \d+\.\d V$/);
      const { stage: _stage, ...bare } = load as typeof load & { stage?: number };
      expect(readingSchema.validate(bare).error).to.equal(undefined);
    }
  });

  it('a band of a hydrometer is anywhere between its ends', () => {
    for (const band of Object.keys(BANDS) as Band[]) {
      const reading = bandReading(band, 2);
      expect(reading).to.deep.include({ kind: 'density', cell: 2 });
      expect(readingSchema.validate(reading).error).to.equal(undefined);
    }
    expect(Object.keys(LOAD_COLOURS) as LoadColour[]).to.deep.equal(['green', 'yellow', 'red']);
  });
});
