/** Does a share of `npm run learning-figures`: jobs a simulated shop learns from, or new batteries it decides on by what it learned. */
import { dirname } from 'node:path';
import type { Lesson } from '@cork-ember/core/learning/lesson.ts';
import { AFTER, decided, hiddenShop, learnedAfter, lessonFrom } from './learningTrial.ts';
import { doShare, keptOf, shareAsked } from './resumable.ts';

/** New ones come after the jobs a shop learns from. */
const NEW_FROM = 10_000;

const share = shareAsked();
const [what, at] = share.kind.split('-');
const shop = hiddenShop(Number(at));
if (what === 'lessons') doShare(share, (index) => lessonFrom(shop, index));
else {
  const lessons = keptOf<Lesson>(dirname(share.file), `lessons-${at}`);
  const by = new Map(AFTER.map((jobs) => [jobs, learnedAfter(lessons, jobs)] as const));
  doShare(share, (index) => decided(shop, NEW_FROM + index, by));
}
