/** A log as a person reads it: each entry once, as it stands now, with what it said before and who mended it. */
import { describeEvent } from './describe.ts';
import { entryKey } from './entryKey.ts';
import type { Job } from './fold.ts';
import type { JobEvent } from './events.ts';

export interface Mended {
  readonly words: string;
  readonly at: number;
  readonly by: string;
  readonly why: string;
}

export interface HistoryEntry {
  readonly seq: number;
  /** How others refer to it: stable, and short. */
  readonly key: string;
  readonly at: number;
  readonly by: string;
  /** The entry as it stands; as it was, once taken back. */
  readonly event: JobEvent;
  readonly words: string;
  /** What it said before each mending, the first first, and who mended it. */
  readonly was: readonly Mended[];
  readonly takenBack?: { readonly at: number; readonly by: string };
}

/** Every entry of a job in the order it was made; mendings stand with what they mend. */
export function historyOf({ log, state }: Job): HistoryEntry[] {
  const entries = new Map<number, HistoryEntry>();
  for (const event of log) {
    if (event.kind !== 'corrected' && event.kind !== 'undone') {
      const { seq, at, by } = event;
      entries.set(seq, {
        seq,
        key: entryKey(seq),
        at,
        by,
        event,
        words: describeEvent(event, state),
        was: [],
      });
      continue;
    }
    const target = entries.get(event.payload.replaces);
    if (!target) continue;
    const { at, by } = event;
    if (event.kind === 'undone') {
      entries.set(target.seq, { ...target, takenBack: { at, by } });
      continue;
    }
    const mended = { ...target.event, payload: event.payload.payload } as JobEvent;
    entries.set(target.seq, {
      ...target,
      event: mended,
      words: describeEvent(mended, state),
      was: [...target.was, { words: target.words, at, by, why: event.payload.why ?? '' }],
    });
  }
  return [...entries.values()];
}
