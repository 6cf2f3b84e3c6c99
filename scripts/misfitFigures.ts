/**
 * How often a reading is said not to fit, into docs/belief/misfits.md: of batteries the model knows, of the same where one figure
 * was written down wrong, and of some with an illness no candidate has. `npm run misfit-figures -- 200` asks two hundred of each kind.
 */
import { writeFileSync } from 'node:fs';
import { SIZE } from '@cork-ember/core/belief/belief.ts';
import { misfitTrial } from '@cork-ember/core/test/misfitTrial.ts';

const count = Number(process.argv[2] ?? 100);
const SEED = 2_026_113;

const rows = (['agm', 'flooded'] as const).flatMap((kind) =>
  [...misfitTrial(kind, count, SIZE.standing, SEED)].map(([name, counted]) => {
    const share = (part: number, whole: number): string =>
      whole === 0 ? '—' : `${((100 * part) / whole).toFixed(0)} %`;
    const row = `| ${kind} | ${name} | ${share(counted.alarms, counted.tried)} | ${share(counted.named, counted.tried)} | ${counted.matters} | ${share(counted.alarmsThen, counted.matters)} |`;
    console.log(row);
    return row;
  }),
);

writeFileSync(
  'docs/belief/misfits.md',
  `# Readings that do not fit

${count} batteries of the belief’s own model and kind, read at rest with everything a shop can read then, through instruments;
${SIZE.standing} candidates each. A mistake matters where another illness is named first for it, or another grade expected. By
\`npm run misfit-figures -- ${count}\`.

| kind | what went wrong | alarm | what was wrong named first | it matters in | alarm then |
| --- | --- | --- | --- | --- | --- |
${rows.join('\n')}
`,
);
