/**
 * What stands beside the record so that lists need not fold it: where each job stands, how it ended, whose a battery is,
 * what was found. All of it follows from the entries and can be made anew from them at any time.
 */
import { findingOf } from '@cork-ember/core/ledger/finding.ts';
import type { JobStore } from '../store/jobStore.ts';
import type { Lists, Projected } from '../store/lists.ts';
import { readJob } from './reading.ts';

export interface Rebuilt {
  readonly looked: number;
  /** Tags of batteries whose job was not listed as its record says. */
  readonly mended: readonly string[];
  /** Tags of those whose record cannot be read: they stay as they are listed. */
  readonly apart: readonly string[];
}

/** Reads every job and lists it as its record says. */
export async function rebuild(store: JobStore, lists: Lists): Promise<Rebuilt> {
  const jobs = await store.jobs();
  const newest = new Map(jobs.map(({ tag, id }) => [tag, id]));
  const mended: string[] = [];
  const apart: string[] = [];
  for (const { id, tag } of jobs) {
    const state = await store.kept(id).then((kept) => {
      try {
        return readJob(kept).state;
      } catch {
        return undefined;
      }
    });
    if (!state) {
      apart.push(tag);
      continue;
    }
    const { bay, outcome, endedAt, opened } = state;
    const projected: Projected = {
      change: { bay, outcome: outcome ?? null, endedAt: endedAt ?? null },
      ...(newest.get(tag) === id ? { owned: { tag, owner: opened.battery.owner } } : {}),
      finding: findingOf(state) ?? null,
    };
    if (await lists.project(id, projected)) mended.push(tag);
  }
  return { looked: jobs.length, mended, apart };
}
