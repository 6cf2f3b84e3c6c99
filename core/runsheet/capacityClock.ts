/** The clock of a capacity test that is running: nobody has to count its minutes, nobody forgets it (handbook 3.2). */
import type { Reading } from '../belief/readings.ts';
import type { JobState } from './state.ts';

const MINUTE = 60_000;

interface Look {
  readonly at: number;
  readonly drain: Extract<Reading, { kind: 'drain' }>;
}

/** The last look at the capacity test of the step at hand. */
function lastLook({ evidence, steps, cursor }: JobState): Look | undefined {
  const since = steps[cursor - 1]?.doneAt ?? 0;
  const last = evidence?.findLast(({ at, reading }) => at >= since && reading.kind === 'drain');
  return last?.reading.kind === 'drain' ? { at: last.at, drain: last.reading } : undefined;
}

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
export function runningTest(state: JobState, amps: number, now: number): RunningTest | undefined {
  const look = lastLook(state);
  if (look?.drain.amps !== amps) return undefined;
  const { minute, volts } = look.drain;
  return { minutes: minute + (now - look.at) / MINUTE, lastV: volts, lastMinute: minute };
}

/** Where it ends, on 12 V. */
export const TEST_END_V = 10.5;
/** Below this it falls fast, on 12 V. */
const NEAR_END_V = 11.5;
/** Looks in the time the rating would last, and the longest from one to the next, min (reasoned: as often as a fall can be missed). */
const LOOKS = 4;
const LONGEST_MIN = 120;
const OFTENER_NEAR_END = 3;

/**
 * When a running capacity test is to be looked at again: a discharge left alone ruins the battery.
 * @returns shop time, ms, the moment of the last look where that was at its end; undefined where none runs
 */
export function testLookAt(
  state: JobState,
): { readonly dueAt: number; readonly isOver: boolean } | undefined {
  if (state.steps[state.cursor]?.stepId !== 'prove-capacity') return undefined;
  const look = lastLook(state);
  if (!look) return undefined;
  const { capacityAh, cells } = state.opened.type;
  const { amps, volts } = look.drain;
  const on12V = (volts * 6) / cells;
  if (on12V <= TEST_END_V) return { dueAt: look.at, isOver: true };
  const everyMin = Math.min(LONGEST_MIN, ((capacityAh / amps) * 60) / LOOKS);
  return {
    dueAt: look.at + (on12V < NEAR_END_V ? everyMin / OFTENER_NEAR_END : everyMin) * MINUTE,
    isOver: false,
  };
}
