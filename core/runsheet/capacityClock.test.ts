import { expect } from 'chai';
import { TestJob } from '../test/testJob.ts';
import { runningTest } from './capacityClock.ts';

describe('the clock of a capacity test', () => {
  const sheet = (): TestJob => {
    const job = new TestJob('BK-A12/55', {}, undefined, 'recover-agm').triage(12.85).route('prove');
    job.affirm('prove-off').wait(1445);
    return job.measure('prove-ocv', { ocvV: 12.85, tempC: 21 });
  };
  const look = (job: TestJob, minute: number, volts: number, amps = 25): TestJob =>
    job.put('evidenced', { reading: { kind: 'drain', amps, minute, volts } });

  it('starts with the first look, and runs on from the minute the last one said', () => {
    const job = sheet();
    expect(runningTest(job.job.state, 25, job.now)).to.equal(undefined);
    look(job, 0, 12.5).wait(20);
    expect(runningTest(job.job.state, 25, job.now)).to.deep.equal({
      minutes: 20,
      lastV: 12.5,
      lastMinute: 0,
    });
    // The technician knows better: the load had been on for a while before.
    look(job, 26, 12.3).wait(14);
    expect(runningTest(job.job.state, 25, job.now)?.minutes).to.equal(40);
  });

  it('is that of one current alone, and of this step alone', () => {
    const job = look(sheet(), 0, 12.6, 2.75);
    expect(runningTest(job.job.state, 25, job.now)).to.equal(undefined);
    look(job, 0, 12.5).wait(60).measure('prove-capacity', { method: 'reserve', reserveMin: 60 });
    expect(runningTest(job.job.state, 25, job.now)).to.equal(undefined);
  });
});
