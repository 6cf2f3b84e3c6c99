/** A job as lists have it: where it stands, without the log that tells how it came there. */
import type { Entry, JobEvent } from '../entries/events.ts';
import { entryKey } from '../entries/entryKey.ts';
import { changesIn, type Job } from './fold.ts';
import { reduce } from './reduce.ts';
import type { JobState, ReadingChain } from '../state/jobState.ts';

export interface Outline {
  /** Place of its last entry, and when that was made. */
  readonly seq: number;
  readonly at: number;
  readonly state: JobState;
}

/** An outline on its way: looks on charge as a list, the oldest first. */
export interface PackedOutline extends Omit<Outline, 'state'> {
  readonly state: Omit<JobState, 'readings'>;
  readonly looks: readonly Omit<ReadingChain, 'before'>[];
}

export function outlineOf({ log, state }: Job): Outline {
  const last = log.at(-1);
  return { seq: last?.seq ?? 0, at: last?.at ?? state.openedAt, state };
}

/** Of one charge so many looks go into an outline: hourly ones of six days, and of a denser row its newest. */
export const MOST_LOOKS = 144;
/** The newest are kept as they are, since what is due goes by them. */
const NEWEST = 48;

type Look = PackedOutline['looks'][number];

/** Looks of one charge: the newest as they are, those before them evenly fewer. */
function fewer(looks: readonly Look[]): Look[] {
  if (looks.length <= MOST_LOOKS) return [...looks];
  const early = looks.slice(0, -NEWEST);
  const every = Math.ceil(early.length / (MOST_LOOKS - NEWEST));
  return [...early.filter((_, index) => index % every === 0), ...looks.slice(-NEWEST)];
}

/** The looks of a job by charge, in order of time; what they come to stands with the newest of each alone. */
function looksOf(readings: ReadingChain | undefined): Look[] {
  const byStep = new Map<string, Look[]>();
  for (let link = readings; link; link = link.before) {
    const { step, reading, watch } = link;
    const its = byStep.get(step);
    if (its) its.push({ step, reading });
    else byStep.set(step, [watch ? { step, reading, watch } : { step, reading }]);
  }
  // A chain begins with its newest look, and the latest charge.
  return [...byStep.values()].reverse().flatMap((looks) => fewer(looks.reverse()));
}

/** An outline as it is sent: plain, and bounded however long a charge was watched. */
export function packed({ state: { readings, ...state }, ...outline }: Outline): PackedOutline {
  return { ...outline, state, looks: looksOf(readings) };
}

export function unpacked({ looks, state, ...outline }: PackedOutline): Outline {
  const readings = looks.reduce<ReadingChain | undefined>(
    (before, look) => (before ? { ...look, before } : look),
    undefined,
  );
  return { ...outline, state: readings ? { ...state, readings } : state };
}

/**
 * An outline with one more entry.
 * @returns undefined where that takes the whole log: an entry that changes others, or does not follow
 * @throws RunSheetError when the run sheet does not take it
 */
export function onward(outline: Outline, event: JobEvent): Outline | undefined {
  if (event.seq !== outline.seq + 1 || changesIn(event).length > 0) return undefined;
  return { seq: event.seq, at: event.at, state: reduce(outline.state, event) };
}

/**
 * The same, of an entry that is about to be recorded.
 * @throws RunSheetError when the run sheet does not take it
 */
export function onwardWith(outline: Outline, entry: Entry, at: number, by: string): Outline | undefined {
  const seq = outline.seq + 1;
  return onward(outline, { job: outline.state.job, seq, key: entryKey(seq), at, by, ...entry });
}
