import type { EntryName, JobEvent } from './events.ts';

/** "#7": how people refer to an entry. Its place in its log, which nothing changes, whatever is mended later. */
export const entryKey = (seq: number): string => `#${seq}`;

/**
 * The place of an entry in its log, by the name it is referred to.
 * @returns undefined where the log has no such entry
 */
export function seqOfEntry(log: readonly JobEvent[], name: EntryName): number | undefined {
  return log.find(({ key, seq }) => key === name || entryKey(seq) === name)?.seq;
}
