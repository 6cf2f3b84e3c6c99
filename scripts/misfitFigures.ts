/**
 * How often a reading is said not to fit, into docs/belief/misfits.md: of batteries the model knows, and of the same where one figure
 * was written down wrong. `npm run misfit-figures -- 200` asks two hundred for each line.
 */
import { writeFileSync } from 'node:fs';
import { SIZE } from '@cork-ember/core/belief/belief.ts';
import { misfitTrial, SPOILS, type Spoil } from '@cork-ember/core/test/misfitTrial.ts';

const count = Number(process.argv[2] ?? 100);
const SEED = 2_026_113;
const DENSITY = 'one cell’s density with its last two digits exchanged';
const asRead: Spoil = (readings) => readings;
const all: readonly (readonly [string, Spoil])[] = [['as it was read', asRead], ...Object.entries(SPOILS)];

const rows: string[] = [];
for (const construction of ['agm', 'flooded'] as const)
  for (const [name, spoil] of all) {
    // Nobody reads the density of a sealed one.
    if (construction === 'agm' && spoil === SPOILS[DENSITY]) continue;
    const { alarms, named } = misfitTrial(construction, count, SIZE.standing, SEED, spoil);
    const share = (of: number): string => `${((100 * of) / count).toFixed(0)} %`;
    rows.push(`| ${construction} | ${name} | ${share(alarms)} | ${share(named)} |`);
    console.log(rows.at(-1));
  }

writeFileSync(
  'docs/belief/misfits.md',
  `# Readings that do not fit

${count} batteries of the belief’s own model for each line, read at rest with everything a shop can read then, through instruments;
${SIZE.standing} candidates each. By \`npm run misfit-figures -- ${count}\`.

| kind | one figure was written down as | alarm | named first |
| --- | --- | --- | --- |
${rows.join('\n')}
`,
);
