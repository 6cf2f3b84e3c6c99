/** What the shop was heard to say, for all who keep what a page shows: some of them are fetched after the page. */
import type { StreamMessage } from '@cork-ember/core/contract/answers.ts';
import type { JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';

/** Something was recorded: on a job, or of a battery off the bench. */
export type News = Extract<StreamMessage, { readonly kind: 'event' | 'shelf' }>;

/** Events of jobs heard lately: an answer that was on its way meanwhile may be without them. */
const lately: JobEvent[] = [];
const MOST_LATELY = 200;

const takers = new Set<(news: News) => void>();
const greeters = new Set<(wasAway: boolean) => void>();
let isThere = false;

export function tellNews(news: News): void {
  if (news.kind === 'event') {
    lately.push(news.event);
    if (lately.length > MOST_LATELY) lately.shift();
  }
  for (const take of takers) take(news);
}

/** Calls with each of them from now on. */
export function onNews(take: (news: News) => void): () => void {
  takers.add(take);
  return () => takers.delete(take);
}

export const newsLately = (): readonly JobEvent[] => lately;

/** Somebody listens to the shop. @param wasAway what was said before, it has missed */
export function tellThere(wasAway: boolean): void {
  isThere = true;
  for (const greet of greeters) greet(wasAway);
}

export function tellAway(): void {
  isThere = false;
}

/** Calls whenever the shop is there again, and at once where it is. */
export function whenThere(greet: (wasAway: boolean) => void): void {
  greeters.add(greet);
  if (isThere) greet(false);
}
