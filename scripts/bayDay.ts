/** `npm run soak:day`: sixty-four bays for a day of the shop, twenty-four minutes of this machine's; writes docs/soak/day.md. A number after it says how many minutes. */
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { BAYS, bayDay, PACE } from './bayDayTrial.ts';
import { buildAll, isBuilt } from './building.ts';
import { meanOf } from './means.ts';

const FOLDER = 'data/day';
const RESULTS = 'docs/soak/day.md';
const USUAL_MINUTES = (24 * 60) / PACE;
const MOST_SHARE = 0.25;

const minutes = Number(process.argv[2] ?? USUAL_MINUTES);
if (!isBuilt()) await buildAll();
rmSync(FOLDER, { recursive: true, force: true });
mkdirSync(FOLDER, { recursive: true });
const day = await bayDay(join(FOLDER, 'shop.sqlite'), minutes, (one) =>
  process.stdout.write(`${JSON.stringify(one)}\n`),
);
const percent = (share: number): string => `${(share * 100).toFixed(1)} %`;
const shares = day.minutes.map(({ serverShare, benchShare }) => serverShare + benchShare);
const seconds = day.minutes.length * 60;
const eachUs = ((meanOf(shares) * seconds) / (BAYS * seconds)) * 1e6;
const every = Math.max(1, Math.floor(day.minutes.length / 8));
writeFileSync(
  RESULTS,
  [
    '# A day of sixty-four bays',
    '',
    `Written by \`npm run soak:day\`: ${BAYS} bays charge under their own supplies, over real sockets, for ${((minutes * PACE) / 60).toFixed(0)} h of the shop at ${PACE} times its pace. Each is looked at once a second by its bench, a program beside the server; each second is kept, and each quarter of an hour of the shop goes on the run sheet.`,
    '',
    `${day.kept} readings were kept. Server and bench together took ${percent(meanOf(shares))} of one core in the mean of all minutes, ${percent(Math.max(...shares))} in the worst (asked: less than ${percent(MOST_SHARE)}): ${eachUs.toFixed(0)} µs of a core for each reading, its share of the run sheet with it. Between two readings of a bay there were ${day.longestGapS.toFixed(2)} s at most; longer than 1.9 s: ${day.gaps}. Bays that went off by themselves: ${day.off.length}.`,
    '',
    '| minute | server, of a core | bench, of a core | server, MB | bench, MB |',
    '| --- | --- | --- | --- | --- |',
    ...day.minutes
      .map(
        ({ serverShare, benchShare, serverMb, benchMb }, index) =>
          `| ${index + 1} | ${percent(serverShare)} | ${percent(benchShare)} | ${serverMb.toFixed(0)} | ${benchMb.toFixed(0)} |`,
      )
      .filter((_, index) => index % every === every - 1),
    '',
    ...day.off.map((one) => `- ${one}`),
  ].join('\n'),
);
process.exit(day.off.length > 0 || day.gaps > 0 || meanOf(shares) > MOST_SHARE ? 1 : 0);
