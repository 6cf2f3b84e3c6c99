import { expect } from 'chai';
import { describeEvent, standingSeqs } from './describe.ts';
import type { JobEvent } from './events.ts';
import { TestJob } from '../test/testJob.ts';

describe('the log in words', () => {
  it('tells a whole commissioning without a machine’s name in it', () => {
    const sheet = new TestJob().soak().charge().test(12.84).decide('pass').affirm('hand-over', 'certify');
    const lines = sheet.job.log.map((event) => describeEvent(event, sheet.job.state));
    expect(lines).to.include.members([
      'Taken in for tide-gauge hut',
      'Match the pack’s code: P-09',
      'Bubbles in every chamber? All.',
      'Weigh it dry: left out',
      'Read voltage and warmth: 12.7 V, 27 °C',
      'Charger on at 0.90 A',
      'On charge: 14.70 V, 0.05 A, 28.0 °C',
      'Load it, or use the tester: load tester, 10.6 V',
      'Verdict: pass',
      'Sign the certificate',
    ]);
    expect(lines.join('\n')).not.to.match(/undefined|#\d/);
  });

  it('knows which entries still stand', () => {
    const sheet = new TestJob()
      .affirm('identify')
      .put('noted', { text: 'scratched lid' })
      .put('undone', { replaces: 3 });
    expect([...standingSeqs(sheet.job.log)]).to.deep.equal([2]);
    expect(describeEvent(sheet.job.log.at(-1) as JobEvent, sheet.job.state)).to.equal('Took back entry 3');
  });
});
