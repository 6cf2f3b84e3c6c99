/** Between an event as the run sheet folds it and the entry the record keeps of it. */
import { EVENT_VERSION, upcastEvent } from '@cork-ember/core/runsheet/entries/upcast.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import { chained, type ChainedEntry } from '../record/chain.ts';
import { withNames, withoutName, type KeptName } from '../record/names.ts';

export interface ToKeep {
  readonly entries: readonly ChainedEntry[];
  readonly names: readonly KeptName[];
}

/**
 * Events in a row, as the record keeps them.
 * @param before hash of the entry before the first
 * @param actorOf id of the person of this name
 */
export function toEntries(
  events: readonly JobEvent[],
  before: string | undefined,
  actorOf: (name: string) => string,
): ToKeep {
  const names: KeptName[] = [];
  const entries = events.map(({ job, seq, key, kind, at, recordedAt, by, payload: said }) => {
    const { payload, kept } = withoutName(kind, said);
    if (kept) names.push(kept);
    return {
      job,
      seq,
      key,
      version: EVENT_VERSION,
      kind,
      occurredAt: at,
      recordedAt: recordedAt ?? at,
      actor: actorOf(by),
      by,
      // As it will be read again: what JSON leaves out is not hashed.
      payload: JSON.parse(JSON.stringify(payload)) as unknown,
    };
  });
  return { entries: chained(entries, before), names };
}

/**
 * The event an entry tells of, in today's form.
 * @param names of the job's customers, by commitment
 */
export function toEvent(entry: ChainedEntry, names: ReadonlyMap<string, string>): unknown {
  const { job, seq, key, version, kind, occurredAt: at, recordedAt, by, payload } = entry;
  const late = recordedAt > at ? { recordedAt } : {};
  const said = JSON.parse(withNames(JSON.stringify(payload), names)) as unknown;
  return upcastEvent({ job, seq, key, at, ...late, by, kind, payload: said }, version);
}
