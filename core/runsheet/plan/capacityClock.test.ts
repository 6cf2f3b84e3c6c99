import { expect } from 'chai';
import { TestJob } from '../../test/testJob.ts';
import { atHand } from './atHand.ts';
import { runningTest } from './capacityClock.ts';

describe('the clock of a capacity test', () => {
  const sheet = (): TestJob => new TestJob('BK-A12/55', {}, undefined, 'recover-agm').toCapacity();
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

  it('calls for a look four times in what the rating would last, oftener near the end, at once at its end', () => {
    const job = look(sheet(), 0, 12.5);
    const due = (): { title?: string; inMin: number; lateInMin: number } => {
      const hand = atHand(job.job.state, job.now);
      const min = (at = 0): number => Math.round((at - job.now) / 60_000);
      return { title: hand?.title ?? '', inMin: min(hand?.dueAt), lateInMin: min(hand?.overdueAt) };
    };
    // 55 Ah at 25 A would last 132 min.
    expect(due()).to.deep.equal({ title: 'Look at the capacity test', inMin: 33, lateInMin: 43 });
    look(job.wait(60), 60, 11.4);
    expect(due()).to.deep.include({ inMin: 11 });
    look(job.wait(11), 71, 10.5).wait(3);
    expect(due()).to.include({ title: 'Load off: the capacity test is at its end', inMin: -3 });
    job.measure('prove-capacity', { method: 'reserve', reserveMin: 71 });
    expect(due().title).not.to.include('capacity');
  });

  it('calls at night too: it runs on when the shop shuts, and slow ones are seen every two hours', () => {
    // Ten past five; the shop shuts at six.
    const job = look(sheet().wait(9 * 60), 0, 12.8, 2.75);
    const hand = atHand(job.job.state, job.now);
    expect(hand && (hand.dueAt - job.now) / 60_000).to.equal(120);
  });

  it('is that of one current alone, and of this step alone', () => {
    const job = look(sheet(), 0, 12.6, 2.75);
    expect(runningTest(job.job.state, 25, job.now)).to.equal(undefined);
    look(job, 0, 12.5).wait(60).measure('prove-capacity', { method: 'reserve', reserveMin: 60 });
    expect(runningTest(job.job.state, 25, job.now)).to.equal(undefined);
  });
});
