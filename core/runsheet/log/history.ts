/** A log as a person reads it: each entry once, as it stands now, with what it said before and who mended it. */
import { describeEvent } from './describe.ts';
import { entryKey, seqOfEntry } from '../entries/entryKey.ts';
import { changesIn, type Job } from './fold.ts';
import type { Change, EventKind, JobEvent } from '../entries/events.ts';

export interface Mended {
  readonly words: string;
  readonly at: number;
  readonly by: string;
  readonly why: string;
}

export interface HistoryEntry {
  readonly seq: number;
  /** How others refer to it: stable, and short. */
  readonly place: string;
  readonly at: number;
  /** When the server had it, where that was later. */
  readonly recordedAt?: number;
  readonly by: string;
  /** The entry as it stands; as it was, once taken back. */
  readonly event: JobEvent;
  readonly words: string;
  /** What it said before each mending, the first first, and who mended it. */
  readonly was: readonly Mended[];
  readonly takenBack?: { readonly at: number; readonly by: string; readonly why?: string };
}

/** Carries one change out on the entry it names. */
function mend(
  target: HistoryEntry,
  { at, by, payload: said }: JobEvent,
  change: Change,
  state: Job['state'],
): HistoryEntry {
  const why = 'why' in said ? said.why : undefined;
  if (change.payload === undefined)
    return { ...target, takenBack: { at, by, ...(why === undefined ? {} : { why }) } };
  const event = { ...target.event, payload: change.payload } as JobEvent;
  return {
    ...target,
    event,
    words: describeEvent(event, state),
    was: [...target.was, { words: target.words, at, by, why: why ?? '' }],
  };
}

/** Entries that are told with what they mend, and not once more for themselves. */
const TOLD_ELSEWHERE: readonly EventKind[] = ['corrected', 'undone'];

/** Every entry of a job in the order it was made; mendings stand with what they mend. */
export function historyOf({ log, state }: Job): HistoryEntry[] {
  const entries = new Map<number, HistoryEntry>();
  for (const event of log) {
    for (const change of changesIn(event)) {
      const target = entries.get(seqOfEntry(log, change.replaces) ?? 0);
      if (target) entries.set(target.seq, mend(target, event, change, state));
    }
    if (TOLD_ELSEWHERE.includes(event.kind)) continue;
    const { seq, at, recordedAt, by } = event;
    entries.set(seq, {
      seq,
      place: entryKey(seq),
      at,
      ...(recordedAt === undefined ? {} : { recordedAt }),
      by,
      event,
      words: describeEvent(event, state),
      was: [],
    });
  }
  return [...entries.values()];
}

/** What was changed of sealed entries after this place in the log, and the amendments' reasons, for the paper that replaces. */
export function changedSince(job: Job, sealed: number): HistoryEntry[] {
  const changed = new Set(
    job.log
      .filter(({ seq }) => seq > sealed)
      .flatMap((event) => changesIn(event).map(({ replaces }) => seqOfEntry(job.log, replaces) ?? 0)),
  );
  return historyOf(job).filter(({ seq }) => seq <= sealed && changed.has(seq));
}
