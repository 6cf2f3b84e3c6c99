/** The fold, to be measured as it ships. */
import { Bench } from 'tinybench';
import { foldJob } from '@cork-ember/core/runsheet/log/fold.ts';
import { TestJob } from '@cork-ember/core/test/testJob.ts';

/** Check-in, filling and soak, then a charge read until the log holds 500 entries. */
function longJob(): TestJob {
  const sheet = new TestJob().soak().put('chargeStarted', { step: 'charge#1', currentA: 0.9 });
  while (sheet.job.log.length < 500) sheet.wait(0.4).read(14.4, 0.5);
  return sheet;
}

export async function foldMedianMs(): Promise<number> {
  const { log } = longJob().job;
  const bench = new Bench({ time: 1500, warmupTime: 500 });
  bench.add('fold', () => {
    foldJob(log);
  });
  const [task] = await bench.run();
  return task?.result.state === 'completed' ? task.result.latency.p50 : Number.NaN;
}
