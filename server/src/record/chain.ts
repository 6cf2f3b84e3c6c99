/**
 * Entries of a job as the record keeps them: each carries the hash of itself and of the one before it, so that nothing in
 * it can be changed, left out or put in later without every hash after it being another. SHA-256 (FIPS 180-4) over the
 * canonical JSON of RFC 8785.
 */
import { createHash } from 'node:crypto';
import canonicalize from 'canonicalize';
import { entryKey } from '@cork-ember/core/runsheet/entries/entryKey.ts';

/** What is hashed. */
export interface RecordEntry {
  readonly job: string;
  readonly seq: number;
  readonly key: string;
  /** Form of its kind it is written in. */
  readonly version: number;
  readonly kind: string;
  /** When it happened, as who recorded it says, ms. */
  readonly occurredAt: number;
  /** When the server had it, ms. */
  readonly recordedAt: number;
  /** Who recorded it: an id that stays, whatever the name becomes. */
  readonly actor: string;
  /** The name that person had then. */
  readonly by: string;
  /** With commitments in place of customers' names (`names.ts`). */
  readonly payload: unknown;
}

/** The same with its hash. */
export interface ChainedEntry extends RecordEntry {
  readonly hash: string;
}

/** What stands before the first entry. */
const NOTHING_BEFORE = '';

/** SHA-256 of a value's canonical JSON, hexadecimal. */
export function hashOf(value: unknown): string {
  const text = canonicalize(value);
  if (text === undefined) throw new TypeError('what is hashed must be JSON');
  return createHash('sha256').update(text).digest('hex');
}

function entryHash(entry: RecordEntry, before: string): string {
  const { job, seq, key, version, kind, occurredAt, recordedAt, actor, by, payload } = entry;
  return hashOf({ before, job, seq, key, version, kind, occurredAt, recordedAt, actor, by, payload });
}

/** Entries in a row, each with its hash, after one that has the hash given. */
export function chained(entries: readonly RecordEntry[], before = NOTHING_BEFORE): ChainedEntry[] {
  let last = before;
  return entries.map((entry) => {
    last = entryHash(entry, last);
    return { ...entry, hash: last };
  });
}

/**
 * Whether a whole job's entries are what was recorded.
 * @returns undefined where they are; else a sentence that names the first that is not
 */
export function chainBreak(entries: readonly ChainedEntry[]): string | undefined {
  let last = NOTHING_BEFORE;
  for (const [index, entry] of entries.entries()) {
    if (entry.seq !== index + 1) return `Entry ${entryKey(index + 1)} is missing.`;
    last = entryHash(entry, last);
    if (last !== entry.hash) return `Entry ${entryKey(entry.seq)} is not what was recorded.`;
  }
  return undefined;
}
