/** What entries say whose name is not proven yet, as their logs have it. */
import type { Claim } from '@cork-ember/core/access/people.ts';
import { historyOf } from '@cork-ember/core/runsheet/log/history.ts';
import { describeShelf } from '@cork-ember/core/shelf/describe.ts';
import { ProblemError } from '../problems.ts';
import type { ClaimKept } from '../store/accessStore.ts';
import type { Jobs } from './jobs.ts';
import type { Shelf } from './shelf.ts';

interface Logs {
  readonly jobs: Pick<Jobs, 'job'>;
  readonly shelf: Pick<Shelf, 'events'>;
}

/** @returns undefined where it is said nowhere by itself: what mends another, or a record nobody can read today */
async function wordsOf({ key, job, tag }: ClaimKept, { jobs, shelf }: Logs): Promise<string | undefined> {
  if (job === '') {
    const entry = (await shelf.events(tag)).find((one) => one.key === key);
    return entry && describeShelf(entry);
  }
  try {
    return historyOf(await jobs.job(job)).find(({ event }) => event.key === key)?.words;
  } catch (error) {
    if (error instanceof ProblemError) return undefined;
    throw error;
  }
}

export function inWords(claims: readonly ClaimKept[], logs: Logs): Promise<Claim[]> {
  return Promise.all(
    claims.map(async (claim) => {
      const { kind, ...rest } = claim;
      return { ...rest, says: (await wordsOf(claim, logs)) ?? kind };
    }),
  );
}
