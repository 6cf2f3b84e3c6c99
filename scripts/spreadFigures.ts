/**
 * What is believed of a battery that was charged full and rested, all its cells alike but one that stands low, into
 * docs/belief/spread.md. By kind, and by what of its cells can be read there.
 */
import { writeFileSync } from 'node:fs';
import { Belief, SIZE } from '@cork-ember/core/belief/belief.ts';
import { CAUSES, isOfCell, type CauseId } from '@cork-ember/core/candidate/causes.ts';
import type { Passage } from '@cork-ember/core/candidate/passage.ts';
import { shownOf, type Shown } from '@cork-ember/core/observation/shown.ts';
import type { Setting } from '@cork-ember/core/candidate/traits.ts';
import type { Rating } from '@cork-ember/core/model/parameters.ts';
import { besideEachOther, type Reading } from '@cork-ember/core/observation/readings.ts';
import { candidate } from '@cork-ember/core/test/candidate.ts';
import { AGM_80, FLOODED_70 } from '@cork-ember/core/test/modelBench.ts';
import { meanOf } from './means.ts';

/** How far one cell stands below the others, g/cm³, and by 0.84 V and density (handbook 2.2) as many volts. */
const LOW_BY = [0, 0.02, 0.04, 0.06, 0.08] as const;
const CELL = 3;
/** As much as it may lack beside the others, and how often that is halved to find how much. */
const MOST_LOW = 0.7;
const HALVINGS = 12;
/** Beliefs of each line, from seeds of their own. */
const SEEDS = [1, 2, 3, 4] as const;

interface Read {
  readonly name: string;
  readonly rating: Rating;
  /** How its cells are read one by one; not at all where it is sealed. */
  readonly by: 'density' | 'dips' | 'nothing';
}

const KINDS: readonly Read[] = [
  { name: 'flooded, 6 cells, density of each', rating: FLOODED_70, by: 'density' },
  { name: 'flooded, 6 cells, steps between dips', rating: FLOODED_70, by: 'dips' },
  {
    name: 'flooded, 3 cells, density of each',
    rating: { ...FLOODED_70, cells: 3 },
    by: 'density',
  },
  { name: 'AGM, 6 cells, its posts alone', rating: AGM_80, by: 'nothing' },
];

const FULL_V = 2.43;

function passagesOf({ capacityAh, cells }: Rating): Passage[] {
  return [
    { amps: capacityAh / 20, volts: FULL_V * cells, minutes: 24 * 60 },
    { amps: 0, volts: 0, minutes: 24 * 60 },
  ];
}

/** Sound, but for one cell that a full charge leaves so far below the others. */
function standsLow(setting: Setting, lowBy: number): Shown {
  const at = (low: number): Shown =>
    shownOf(
      candidate({ cause: 'empty', charge: 0.3, hardShare: 0.02, left: 0.97, cell: CELL, low, lowHard: 0.9 }),
      setting,
    );
  const spread = (shown: Shown): number => shown.after(2).density(CELL - 1) - shown.after(2).density(CELL);
  let [least, most] = [0, MOST_LOW];
  for (let halving = 0; lowBy > 0 && halving < HALVINGS; halving++) {
    const middle = (least + most) / 2;
    if (spread(at(middle)) < lowBy) least = middle;
    else most = middle;
  }
  return at(lowBy === 0 ? 0 : most);
}

function cellsOf({ rating, by }: Read, rested: Shown): Reading[] {
  if (by === 'nothing') return [];
  if (by === 'dips') return [{ kind: 'dips', stage: 2, volts: rested.dips() }];
  return Array.from({ length: rating.cells }, (_, index): Reading => ({
    kind: 'density',
    stage: 2,
    cell: index + 1,
    density: rested.density(index + 1),
  }));
}

function row(kind: Read, lowBy: number): string {
  const { rating } = kind;
  const setting: Setting = {
    rating,
    history: { construction: rating.construction, complaint: 'lights-left', ageYears: 3 },
    tempC: 21,
    roomC: 21,
    passages: passagesOf(rating),
  };
  const shown = standsLow(setting, lowBy);
  const rested = shown.after(2);
  const readings = besideEachOther([
    { kind: 'ocv', volts: shown.ocvV(), isRested: true },
    { kind: 'ocv', stage: 2, volts: rested.ocvV(), isRested: true },
    ...cellsOf(kind, rested),
  ]);
  const all = SEEDS.map((seed) => {
    const belief = new Belief(setting, SIZE.standing, seed);
    belief.observe(...readings);
    belief.refine(2);
    const misfits = belief.misfits();
    let step = misfits.next();
    while (!step.done) step = misfits.next();
    return { summary: belief.summary(), alarm: step.value.length > 0 };
  });
  const oddsOf = (cause: CauseId): number => meanOf(all.map(({ summary }) => summary.causes[cause]));
  const ofCell = (Object.keys(CAUSES) as CauseId[]).filter(isOfCell);
  const [first] = (Object.keys(CAUSES) as CauseId[]).sort((a, b) => oddsOf(b) - oddsOf(a));
  const behind = meanOf(all.map(({ summary }) => summary.figures.capacity.middle));
  const percent = (share: number): string => `${(100 * share).toFixed(0)} %`;
  const bad = ofCell.reduce((sum, cause) => sum + oddsOf(cause), 0);
  const behindOdds = meanOf(
    all.map(({ summary }) =>
      Object.values(summary.together).reduce((sum, beside) => sum + beside['low-cell'], 0),
    ),
  );
  return `| ${kind.name} | ${lowBy.toFixed(2)} | ${first ? `${CAUSES[first]} ${percent(oddsOf(first))}` : ''} | ${percent(behindOdds)} | ${percent(bad)} | ${percent(behind)} | ${all.filter(({ alarm }) => alarm).length} of ${all.length} |`;
}

const rows = KINDS.flatMap((kind) => LOW_BY.map((lowBy) => row(kind, lowBy)));
writeFileSync(
  'docs/belief/spread.md',
  `# One cell that stands low after a full charge

Charged for a day at a twentieth of its capacity, rested for a day; sound but for cell ${CELL}, which lacks as much as leaves
it so far below the others then. Rested voltage as it came and after the rest, and what of its cells can be read. Means over
${SEEDS.length} beliefs of ${SIZE.standing} candidates. By \`npm run spread-figures\`.

| kind and what is read | low by, g/cm³ or V | named first | one cell behind the others, with whatever else | a bad cell | capacity, middle | alarm |
| --- | --- | --- | --- | --- | --- | --- |
${rows.join('\n')}
`,
);
