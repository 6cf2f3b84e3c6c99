import { expect } from 'chai';
import type { HouseRules } from '../rules/houseRules.ts';
import { TestJob } from '../test/testJob.ts';
import { CAUSE_IDS, type CauseId } from '../candidate/causes.ts';
import { ASKED, explainedBy, explaining, type Explained, type Factors } from '../belief/explain.ts';
import type { Reading } from '../observation/readings.ts';
import { courseOf, settingOf } from './fromJob.ts';
import { strataOf } from '../belief/strata.ts';
import { factorWords, groupWords, illnessesOf, readingWords } from '../belief/words.ts';
import { done } from '../belief/work.ts';

const flooded = (): TestJob =>
  new TestJob('BK-F12/70', {}, undefined, 'recover-flooded', {
    battery: { tag: 'SK-0400', serial: '', dateCode: '2021-03', owner: 'pilot launch' },
  });

const NOBODY = Object.fromEntries(CAUSE_IDS.map((cause) => [cause, 0])) as Record<CauseId, number>;
const NOTHING_MOVED = { before: NOBODY, steps: [] };

describe('what a run sheet tells a belief', () => {
  it('age, history and warmth set the prior; triage readings come in order', () => {
    const sheet = flooded().triage(11.7, { testerA: 310, densities: [1.12, 1.12, 1.12, 1.05, 1.12, 1.12] });
    const { history, tempC } = settingOf(sheet.job.state);
    expect(history).to.include({ construction: 'flooded', complaint: 'parked', flatMonths: 4 });
    expect(history.ageYears).to.be.closeTo(5, 0.1);
    expect(tempC).to.equal(21);
    const readings = courseOf(sheet.job.state).readings;
    expect(readings[0]).to.deep.equal({ kind: 'ocv', volts: 11.7, isRested: true });
    expect(readings.filter(({ kind }) => kind === 'density')).to.have.length(6);
    expect(readings.at(-1)).to.deep.equal({ kind: 'tester', amps: 310 });
  });

  it('the load test is the house’s, and the warmth of the acid goes with its density', () => {
    const load = (rules: Partial<HouseRules>) =>
      settingOf(new TestJob('BK-F12/70', rules, undefined, 'recover-flooded').job.state).load;
    expect(load({})).to.deep.equal({ currentA: 640 / 0.9 / 2, seconds: 15 });
    expect(load({ loadTest: 'tripleLenient' })).to.deep.equal({ currentA: 210, seconds: 15 });
    expect(load({ loadTest: 'tenSeconds' })).to.deep.equal({ currentA: 640 / 0.9 / 2, seconds: 10 });
    const { readings } = courseOf(flooded().triage(11.7, { densities: [1.12] }).job.state);
    expect(readings.find(({ kind }) => kind === 'density')).to.have.property('tempC');
  });

  it('what was said at Intake sets the prior, until the bench knows better', () => {
    const told = { complaint: 'lights-left', flatMonths: 0.5 } as const;
    const sheet = new TestJob('BK-F12/70', {}, undefined, 'recover-flooded', { told });
    expect(settingOf(sheet.job.state).history).to.include(told);
    sheet.triage(11.7);
    expect(settingOf(sheet.job.state).history).to.include({ complaint: 'parked', flatMonths: 4 });
  });

  it('evidence taken beside the steps follows them, and stays with the job', () => {
    const sheet = flooded().triage(11.7);
    sheet.put('evidenced', { reading: { kind: 'load', amps: 210, seconds: 15, volts: 8.8 } });
    expect(courseOf(sheet.job.state).readings.at(-1)).to.include({ kind: 'load', volts: 8.8 });
    sheet.route('slow-charge').put('chargeStarted', { step: sheet.current.key, currentA: 3.5 });
    sheet.wait(60).read(13.1, 3.5, 24);
    expect(sheet.job.state.evidence).to.have.length(1);
  });

  it('a cell it does not have, and a commissioning, are refused', () => {
    const sheet = flooded().triage(11.7);
    expect(() => sheet.put('evidenced', { reading: { kind: 'density', cell: 7, density: 1.2 } })).to.throw(
      'cells 1 to 6',
    );
    expect(() => sheet.put('evidenced', { reading: { kind: 'dips', volts: [2, 2] } })).to.throw(
      '7 are needed',
    );
    expect(() => new TestJob().put('evidenced', { reading: { kind: 'tester', amps: 100 } })).to.throw(
      'brought back',
    );
  });
});

describe('why a cause is likely', () => {
  const sheet = flooded().triage(10.6);
  const setting = settingOf(sheet.job.state);
  const strata = done(strataOf(setting, ASKED.still, 3));
  const explained = (...readings: Reading[]): Explained[] => {
    const factors = new Map<string, Factors>();
    const so = (): Explained[] => explainedBy(factors, readings, NOTHING_MOVED, NOBODY);
    expect(so().every((one) => one.factors === undefined)).to.equal(true);
    done(explaining(strata, readings, setting, factors));
    return so();
  };

  it('10.6 V at rest speaks for a dead cell, and against an open one', () => {
    const [ocv] = explained({ kind: 'ocv', volts: 10.6, isRested: true });
    expect(ocv?.factors?.['shorted-cell']).to.be.above(5);
    expect(ocv?.factors?.['open-cell']).to.be.below(1);
  });

  it('a load that collapses from a good voltage speaks for an open cell or hard sulfate, not for empty', () => {
    const [load] = explained({ kind: 'load', amps: 210, seconds: 15, volts: 0.5 });
    expect(load?.factors?.['open-cell']).to.be.above(2);
  });

  it('every cause has as many to ask, however rare, so that chance does not speak for or against one', () => {
    const odds = strata.map((one) => one.odds);
    expect(odds.reduce((sum, share) => sum + share, 0)).to.be.closeTo(1, 1e-12);
    for (const { candidates } of strata) expect(candidates).to.have.length(ASKED.still);
    // A standing voltage tells nothing of what will one day drain it.
    for (const volts of [11.8, 12.0, 12.3]) {
      const [ocv] = explained({ kind: 'ocv', volts, isRested: true });
      expect(ocv?.factors?.contaminated, `${volts} V`).to.be.within(0.4, 2.5);
    }
  });

  it('the odds of a reading under each cause hold together: what speaks for one speaks against the rest', () => {
    const [load] = explained({ kind: 'load', amps: 210, seconds: 15, volts: 9.1 });
    const posterior = strata.map(({ cause, odds }) => {
      const after = (odds / (1 - odds)) * (load?.factors?.[cause] ?? 1);
      return after / (1 + after);
    });
    expect(posterior.reduce((sum, share) => sum + share, 0)).to.be.closeTo(1, 1e-9);
  });

  it('plates that stand bare speak for one dried out, in words', () => {
    const [low] = explained({ kind: 'level', cell: 2, level: 'plates-bare' });
    const words = CAUSE_IDS.flatMap((cause) => factorWords(cause, low?.factors?.[cause] ?? 1) ?? []);
    expect(words.join()).to.match(/×[\d.]+ for dried out/);
  });

  it('what was seen of every cell is judged and said together', () => {
    const cells = [1, 2, 3, 4, 5, 6];
    const [together, alone] = explained(
      ...cells.map((cell) => ({ kind: 'level', cell, level: 'plates-bare' }) as const),
      { kind: 'ocv', volts: 12, isRested: true },
    );
    expect(together?.readings).to.have.length(6);
    expect(alone?.readings).to.have.length(1);
    expect(together?.factors?.dry).to.be.greaterThan(10);
    expect(groupWords(together?.readings ?? [])).to.equal('Cells, levels: all plates bare');
    const mixed = cells.map(
      (cell) => ({ kind: 'bubbles', cell, bubbles: cell === 4 ? 'none' : 'lively' }) as const,
    );
    expect(groupWords(mixed)).to.equal('Cells: 1, 2, 3, 5, 6 bubbles lively; 4 silent');
    expect(
      groupWords([
        { kind: 'density', cell: 1, density: 1.2 },
        { kind: 'density', cell: 2, density: 1.21 },
      ]),
    ).to.equal('Density from the positive post: 1.200, 1.210');
  });

  it('sulfation is one illness in three degrees, in its place among the others', () => {
    const none = Object.fromEntries(CAUSE_IDS.map((cause) => [cause, 0])) as Record<CauseId, number>;
    const [first, second] = illnessesOf({
      ...none,
      worn: 0.4,
      'sulfated-light': 0.3,
      'sulfated-moderate': 0.25,
      'sulfated-hard': 0.05,
    });
    expect(first).to.deep.include({ name: 'Sulfated', degrees: 'light 30 %, moderate 25 %, hard 5 %' });
    expect(first?.probability).to.be.closeTo(0.6, 1e-9);
    expect(second).to.deep.equal({ name: 'Worn out', probability: 0.4 });
  });

  for (const [reading, words] of [
    [{ kind: 'charger', view: 'refuses', startV: 8 }, 'Charger that starts at 8.0 V: does not start on it'],
    [{ kind: 'crank', volts: 9.8 }, 'Cranking dips to 9.80 V'],
    [{ kind: 'mass', deficitG: 620 }, 'Lighter than it should be by 620 g'],
    [{ kind: 'mass', deficitG: -40 }, 'Heavier than a full one by 40 g'],
    [{ kind: 'reserve', amps: 25, minutes: 62 }, 'Gives 25.0 A for 62 min'],
    [{ kind: 'hold', volts: 0.06 }, 'Lost 60 mV standing'],
    [{ kind: 'look', minute: 60, volts: 13.1, amps: 4, tempC: 22 }, 'On charge: 13.10 V, 4.00 A, 22.0 °C'],
  ] as const)
    it(`“${words}”`, () => {
      expect(readingWords(reading)).to.equal(words);
    });

  it('a charger that does not start on it speaks for a deep one, one that comes to its end against a short', () => {
    const [refuses, finishes] = explained(
      { kind: 'charger', view: 'refuses', startV: 8 },
      { kind: 'charger', view: 'finishes', startV: 8 },
    );
    expect(refuses?.factors?.['shorted-cell']).to.be.lessThan(2);
    expect(finishes?.factors?.['shorted-cell']).to.be.lessThan(0.5);
  });

  it('a silent cell among lively ones speaks for a short, and for the same whichever cell it is', () => {
    const charging = { ...setting, passages: [{ amps: 7, volts: 14.4, minutes: 300 }] };
    const candidates = done(strataOf(charging, ASKED.charged, 3));
    const factorsOf = (silent: number): Factors | undefined => {
      const bubbles = [1, 2, 3, 4, 5, 6].map((cell): Reading => ({
        kind: 'bubbles',
        cell,
        bubbles: cell === silent ? 'none' : 'lively',
        midway: 150,
      }));
      const factors = new Map<string, Factors>();
      done(explaining(candidates, bubbles, charging, factors));
      return explainedBy(factors, bubbles, NOTHING_MOVED, NOBODY)[0]?.factors;
    };
    const [third, fifth] = [factorsOf(3), factorsOf(5)];
    expect(third?.['shorted-cell']).to.be.greaterThan(2);
    for (const cause of CAUSE_IDS) expect(third?.[cause], cause).to.be.closeTo(fifth?.[cause] ?? 0, 1e-9);
  });

  it('says which cell lacks volts along the cells, and which is warm, in words', () => {
    const dips = (volts: number[]): string => readingWords({ kind: 'dips', volts });
    expect(dips([1.74, 2.1, 1.65, 1.65, 2.1, 2.1, 0.36])).to.match(
      /; cell 3 or its neighbour reads 0.90 V below/,
    );
    expect(dips([1.74, 2.1, 2.1, 2.1, 2.08, 2.1, 0.36])).not.to.include('below');
    const warmth = (third: number): string =>
      readingWords({
        kind: 'warmth',
        cells: [1, 2, 3, 4].map((cell) => ({ cell, tempC: cell === 3 ? third : 24 })),
      });
    expect(warmth(33)).to.equal(
      'Warmth of the cells: 1: 24, 2: 24, 3: 33, 4: 24 °C; cell 3 is 9 K warmer than the others',
    );
    expect(warmth(19)).to.include('cell 3 is 5 K cooler');
    expect(warmth(25)).not.to.include('others');
    expect(readingWords({ kind: 'resistance', ohm: 0.0072 })).to.equal('Resistance 7.2 mΩ');
  });

  it('a dip to two volts while cranking speaks for an open cell', () => {
    const [dip] = explained({ kind: 'crank', volts: 1.5 });
    expect(dip?.factors?.['open-cell']).to.be.above(2);
  });

  it('looks at one capacity test are judged and said together', () => {
    const drain = (minute: number, volts: number): Reading => ({ kind: 'drain', amps: 25, minute, volts });
    expect(groupWords([drain(20, 12.3)])).to.equal('Discharge, 20 min at 25.0 A: 12.30 V');
    expect(groupWords([drain(20, 12.3), drain(50, 11.9)])).to.equal(
      '2 looks, the last: Discharge, 50 min at 25.0 A: 11.90 V',
    );
    const [together, ...more] = explained(drain(5, 12.1), drain(15, 11.8));
    expect(together?.readings).to.have.length(2);
    expect(more).to.deep.equal([]);
  });

  it('a load test says all that was seen of it', () => {
    const load = { kind: 'load', amps: 210, seconds: 15, volts: 8.8 } as const;
    expect(readingWords({ ...load, firstV: 9.9, backV: 12.1 })).to.equal(
      'Load 210 A for 15 s: 8.80 V, 9.90 V at first, back to 12.10 V',
    );
    expect(readingWords({ ...load, backV: 12.1 })).to.equal('Load 210 A for 15 s: 8.80 V, back to 12.10 V');
  });

  it('a battery that springs back low speaks for a weak cell, one that springs back for none', () => {
    const load = { kind: 'load', amps: 210, seconds: 15, volts: 8.2, firstV: 11.2 } as const;
    const factorOf = (backV: number): number => explained({ ...load, backV })[0]?.factors?.['weak-cell'] ?? 0;
    expect(factorOf(11)).to.be.greaterThan(2 * factorOf(12.1));
  });

  it('every reading has words', () => {
    expect(readingWords({ kind: 'load', amps: 210, seconds: 15, volts: 8.8 })).to.equal(
      'Load 210 A for 15 s: 8.80 V',
    );
    expect(readingWords({ kind: 'density', cell: 2, density: 1.19, isMixed: false })).to.include(
      'not mixed yet',
    );
    expect(factorWords('worn', 1.1)).to.equal(undefined);
    expect(factorWords('worn', 1 / 4000)).to.equal('÷over 1000 for worn out');
  });
});
