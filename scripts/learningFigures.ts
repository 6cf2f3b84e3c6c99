/**
 * What simulated shops learn from their own jobs, and what their advice is worth by it, into docs/belief.
 * SHOPS shops; no new job is begun after MINUTES; what was worked out is kept and gone on with.
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { AFTER, DECIDED_BY, type DecidedBy } from './learningTrial.ts';
import { errorOf, meanOf } from './means.ts';
import { runKept, runnerOf, until } from './resumable.ts';

const FILE = 'docs/belief/learning.md';
const SHOPS = Number(process.env['SHOPS'] ?? 4);
const JOBS = Math.max(...AFTER);
/** Batteries put before each way of deciding, in each shop. */
const ASKED = Number(process.env['ASKED'] ?? 100);
const MOST_MINUTES = 110;

type Worths = Readonly<Record<DecidedBy, number>>;

const runner = await runnerOf('learning', 'scripts/learningShare.ts');
const untilMs = until(MOST_MINUTES);
const shops: (readonly Worths[])[] = [];
for (let shop = 0; shop < SHOPS; shop++) {
  const lessons = await runKept(runner, `lessons-${shop}`, JOBS, untilMs);
  if (lessons.length < JOBS) break;
  shops.push(await runKept<Worths>(runner, `decided-${shop}`, ASKED, untilMs));
}
write(shops.flat(), shops.filter((worths) => worths.length > 0).length);

function write(worths: readonly Worths[], shops: number): void {
  const over = (who: DecidedBy): number[] => worths.map((one) => one[who] - one.handbook);
  const gap = meanOf(over('one who knows'));
  const row = (who: DecidedBy): string => {
    const ahead = over(who);
    const name =
      who === 'handbook' ? 'the handbook alone' : typeof who === 'number' ? `what ${who} jobs taught` : who;
    const ofGap = gap === 0 ? '' : `${((meanOf(ahead) / gap) * 100).toFixed(0)} %`;
    return `| ${name} | ${meanOf(worths.map((one) => one[who])).toFixed(2)} | ${meanOf(ahead).toFixed(2)} ± ${errorOf(ahead).toFixed(2)} | ${ofGap} |`;
  };
  const lines = [
    '# What a shop learns from its own jobs',
    '',
    `Written by \`npm run learning-figures\`. ${shops} simulated shops whose causes are as often again or half as often as the handbook says (log-normal, 0.7), and whose ways bring back half to all of what the model says they should. Each works on up to ${JOBS} batteries, trying one of two ways on each in turn, and learns from them as the application does; then ${worths.length} new batteries are decided on, each read as it stands and no more. Worth is in the shop's money, checks left out; it is what the way then brings on average.`,
    '',
    '| decided by | worth of a battery | ahead of the handbook | of what knowing brings |',
    '| --- | --- | --- | --- |',
    ...DECIDED_BY.map(row),
    '',
  ];
  mkdirSync('docs/belief', { recursive: true });
  writeFileSync(FILE, lines.join('\n'));
}
