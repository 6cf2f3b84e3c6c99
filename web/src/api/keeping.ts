/** What the browser keeps of the shop beyond what views ask for: fetched ahead, and the bench as it changes. */
import { QueryObserver } from '@tanstack/react-query';
import type { JobAnswer, OpenJob } from '@cork-ember/core/contract/answers.ts';
import { packed, type Outline } from '@cork-ember/core/runsheet/log/outline.ts';
import { keepAnswer, keptAnswer } from '../store/answers.ts';
import { idle } from './gently.ts';
import { askKnown } from './known.ts';
import { OPEN_JOBS } from './jobs.ts';
import { jobPath, JOBS, queryClient } from './queries.ts';

/** What every view opens with: with the server away it is there, looked at before or not. */
const AHEAD = [
  '/api/shelf',
  '/api/types',
  '/api/stock',
  '/api/shop/changes',
  '/api/quarantine',
  '/api/tags/next',
  '/api/ledger/ways',
  '/api/ledger/learned',
  '/api/ledger/shelf',
  '/api/instruments',
] as const;

const lastSeqOf = (body: unknown): number => (body as JobAnswer).events.at(-1)?.seq ?? 0;

/** Fetches ahead what views open with and the log of every battery on the bench that is not kept as it stands. */
export async function fetchAhead(): Promise<void> {
  try {
    for (const path of AHEAD) {
      await idle();
      await askKnown<unknown>(path);
    }
    for (const { state, seq } of queryClient.getQueryData<readonly Outline[]>(JOBS) ?? []) {
      await idle();
      const path = jobPath(state.job);
      if (((await keptAnswer(path, lastSeqOf)) ?? 0) < seq) await askKnown<unknown>(path);
    }
  } catch {
    // Away, or a record that cannot be read: what was kept before stays.
  }
}

/** So long the bench stands still before what stands on it is kept, ms. */
const KEEP_AFTER_MS = 500;

/** Keeps what stands on the bench as it changes: a page that is opened again with the server away finds it so. */
export function beginKeeping(): void {
  let due: ReturnType<typeof setTimeout> | undefined;
  new QueryObserver(queryClient, OPEN_JOBS).subscribe(({ data }) => {
    if (!data) return;
    clearTimeout(due);
    due = setTimeout(
      () =>
        void keepAnswer(
          '/api/jobs',
          data.map((outline): OpenJob => ({ id: outline.state.job, ...packed(outline) })),
        ),
      KEEP_AFTER_MS,
    );
  });
}
