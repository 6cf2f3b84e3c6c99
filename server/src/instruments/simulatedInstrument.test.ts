import { TestJob } from '@cork-ember/core/test/testJob.ts';
import { InstrumentError } from '@cork-ember/core/observation/instrument.ts';
import { expect } from 'chai';
import { simulatedBench } from './simulatedInstrument.ts';

describe('simulated instruments', () => {
  const sheet = new TestJob().soak();
  const instruments = simulatedBench(
    { job: () => Promise.resolve(sheet.job.state), hiddenIn: () => ({}) },
    { now: () => sheet.now },
  );

  it('say what they are and that they are simulated', async () => {
    const identities = await Promise.all(instruments.map((instrument) => instrument.identify()));
    expect(identities.map((identity) => identity.id)).to.deep.equal(['meter', 'scale', 'tester']);
    expect(identities.every((identity) => identity.isSimulated)).to.equal(true);
  });

  it('show as many digits as such a display has, at the moment of the shop', async () => {
    for (const [id, quantity, pattern] of [
      ['meter', 'voltage', /^12\.\d{1,2}$/],
      ['meter', 'temperature', /^2\d(\.\d)?$/],
      ['scale', 'mass', /^\d{4}$/],
      ['tester', 'cranking', /^1\d\d$/],
    ] as const) {
      const identities = await Promise.all(instruments.map((one) => one.identify()));
      const instrument = instruments[identities.findIndex((one) => one.id === id)];
      const reading = await instrument?.read(quantity, 'j1');
      expect(reading).to.include({ quantity, at: sheet.now });
      expect(String(reading?.value)).to.match(pattern);
    }
  });

  it('refuse what they cannot read', async () => {
    const problem = await instruments[1]?.read('voltage', 'j1').catch((error: unknown) => error);
    expect(problem).to.be.instanceOf(InstrumentError);
    expect((problem as Error).message).to.equal('The scale does not read voltage.');
  });
});
