import { verbatim } from '../../units/localise.ts';
import { expect } from 'chai';
import { describeEvent } from './describe.ts';
import { historyOf } from './history.ts';
import { brought } from '../../test/broughtIn.ts';
import { TestJob } from '../../test/testJob.ts';

describe('the log in words', () => {
  it('tells a whole commissioning without a machine’s name in it', () => {
    const sheet = new TestJob().soak().charge().test(12.84).decide('pass').affirm('hand-over', 'certify');
    const lines = sheet.job.log.map((event) => describeEvent(event, sheet.job.state));
    expect(lines).to.include.members([
      'Taken in for tide-gauge hut',
      'Match the pack’s code: P-09',
      'Bubbles in every chamber? All.',
      'Weigh it dry: left out',
      'Read voltage and warmth: Open-circuit voltage 12.70 V, Case temperature 27.0 °C',
      'Charger on at 0.90 A',
      'On charge: 14.70 V, 0.05 A, 28.0 °C',
      'Load it, or use the tester: Tested with: load tester, Lowest voltage under load 10.60 V',
      'Verdict: pass',
      'Sign the certificate',
    ]);
    expect(lines.join('\n')).not.to.match(/undefined|#\d/);
  });

  it('shows each entry once, with what it said before, who mended it and why', () => {
    const sheet = new TestJob().soak(12.89);
    const read = sheet.job.log.at(-1);
    const place = read?.seq ?? 0;
    const replaces = `#${place}`;
    const mend = (ocvV: number, tempC: number, why: string): TestJob =>
      sheet.put('corrected', {
        replaces,
        payload: { step: 'ocv-soak#1', values: { ocvV, tempC }, source: 'keypad' },
        why,
      });
    mend(13.05, 27, 'misread the meter');
    const once = historyOf(sheet.job).find(({ seq }) => seq === place);
    // What a second correction begins from is the value in force.
    expect(once?.event.payload).to.deep.include({ values: { ocvV: 13.05, tempC: 27 } });
    expect(once?.words).to.include('13.05 V');
    mend(13.05, 24, 'the probe had slipped');
    const twice = historyOf(sheet.job).find(({ seq }) => seq === place);
    expect(twice?.place).to.equal(replaces);
    expect(twice?.words).to.include('13.05 V').and.include('24.0 °C');
    expect(twice?.was.map(({ words, why }) => [/\d+\.\d+ V/.exec(words)?.[0], why])).to.deep.equal([
      ['12.89 V', 'misread the meter'],
      ['13.05 V', 'the probe had slipped'],
    ]);
  });

  it('an entry taken back stays readable, with who took it', () => {
    const sheet = new TestJob().affirm('identify').put('noted', { text: 'scratched lid' });
    sheet.put('undone', { replaces: '#3' });
    const note = historyOf(sheet.job).find(({ seq }) => seq === 3);
    expect(note).to.include({ words: `Note: ${verbatim('scratched lid')}` });
    expect(note?.takenBack?.by).to.equal('Ines');
  });

  it('says the routes of a recovery and their reasons in words', () => {
    const sheet = brought('BK-A12/55').triage(5).route('donor-wake', 'the supply is away');
    sheet.put('routeLeft', { step: sheet.current.key, reason: 'no donor at hand' });
    sheet.put('evidenced', { reading: { kind: 'tester', amps: 300 } });
    const words = sheet.job.log.slice(-3).map((event) => describeEvent(event, sheet.job.state));
    expect(words).to.deep.equal([
      'Route: Wake beside a donor, “the supply is away”',
      `Route left: ${verbatim('no donor at hand')}`,
      'Found out: Tester shows 300 A',
    ]);
  });
});

describe('a correction', () => {
  const soaked = (): TestJob => new TestJob().soak();
  const last = (sheet: TestJob): number => sheet.job.log.at(-1)?.seq ?? 0;

  it('holds what the entry it replaces must hold', () => {
    const sheet = soaked();
    expect(() =>
      sheet.put('corrected', { replaces: `#${last(sheet)}`, payload: { step: 'ocv-soak#1' } as never }),
    ).to.throw(`Entry #${last(sheet)} holds “values”; the correction has none.`);
  });

  it('stays with its step, and a note is not corrected', () => {
    const sheet = soaked();
    const payload = { step: 'label#1', values: {}, source: 'keypad' };
    expect(() => sheet.put('corrected', { replaces: `#${last(sheet)}`, payload })).to.throw('another step');
    sheet.put('noted', { text: 'lid scratched' });
    expect(() => sheet.put('corrected', { replaces: `#${last(sheet)}`, payload })).to.throw(
      'is not corrected',
    );
  });

  it('is refused once the job has ended, and so is taking back', () => {
    const sheet = soaked().charge().test(12.84).decide('pass').affirm('hand-over', 'certify');
    const payload = { step: 'ocv-soak#1', values: { ocvV: 12.6, tempC: 27 }, source: 'keypad' };
    expect(() => sheet.put('corrected', { replaces: '#5', payload })).to.throw('its papers are out');
    expect(() => sheet.put('undone', { replaces: '#5' })).to.throw('its papers are out');
  });
});
