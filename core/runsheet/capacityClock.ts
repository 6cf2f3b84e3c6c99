/** The clock of a capacity test that is running: nobody has to count its minutes (handbook 3.2). */
import type { JobState } from './state.ts';

const MINUTE = 60_000;

export interface RunningTest {
  /** Since the load went on: the minute of the last look, and the clock since. */
  readonly minutes: number;
  /** What the last look read, V. */
  readonly lastV: number;
  /** The minute it was read at. */
  readonly lastMinute: number;
}

/**
 * The capacity test of the step at hand, once a look was taken at it.
 * @param amps it draws
 * @param now shop time, ms
 */
export function runningTest(
  { evidence, steps, cursor }: JobState,
  amps: number,
  now: number,
): RunningTest | undefined {
  const since = steps[cursor - 1]?.doneAt ?? 0;
  const last = evidence?.findLast(({ at, reading }) => at >= since && reading.kind === 'drain');
  if (last?.reading.kind !== 'drain' || last.reading.amps !== amps) return undefined;
  const { minute, volts } = last.reading;
  return { minutes: minute + (now - last.at) / MINUTE, lastV: volts, lastMinute: minute };
}
