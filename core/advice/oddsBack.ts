/** How likely it is that a way brings a battery back, by candidates that stand for what is believed. */
import type { Setting, Traits } from '../candidate/traits.ts';
import type { Work } from '../belief/work.ts';
import { outcomeOf } from './outcome.ts';
import { isBack } from './rows.ts';

/** @returns 0–1, both excluded: none of a few is not never. @see Jeffreys 1946 */
export function* oddsBack(
  way: string,
  candidates: readonly { readonly traits: Traits }[],
  setting: Setting,
): Work<number> {
  const course = { id: way, title: way, routes: [way] };
  let back = 0;
  for (const { traits } of candidates) {
    yield;
    if (isBack(outcomeOf(course, traits, setting))) back += 1;
  }
  return (back + 0.5) / (candidates.length + 1);
}
