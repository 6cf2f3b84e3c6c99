/**
 * Holds the belief against simulated batteries it has not seen, and writes what came out into docs/belief.
 * Takes minutes, in two processes; not part of the tests.
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { CAUSE_IDS, CAUSES, isSulfated, type CauseId } from '@cork-ember/core/candidate/causes.ts';
import { DECIDERS, type AdviceTrial, type Decider } from './adviceTrial.ts';
import {
  CHECKED,
  POPULATIONS,
  STAGES,
  type Checked,
  type Population,
  type Stage,
  type Trial,
} from './beliefTrial.ts';
import { errorOf, meanOf } from './means.ts';
import { keptOf, runKept, runnerOf, until } from './resumable.ts';
import { svgChart } from './svgChart.ts';

const FOLDER = 'docs/belief';
/** Batteries of each population, and put before each way of deciding. */
const TRIALS = Number(process.env['TRIALS'] ?? 1000);
const ADVISED = Number(process.env['ADVISED'] ?? Math.round(TRIALS * 0.24));
/** What is not done by then is done the next time it is started: what was worked out is kept, as long as the code is the same. */
const MOST_MINUTES = 110;
const BINS = 10;
const PARTS = 10;

const STAGE_WORDS: Record<Stage, string> = {
  standing: 'every check of a battery that stands there',
  full: 'the full set: charged, rested, held, capacity counted',
};
const percent = (share: number): string => `${(share * 100).toFixed(1)} %`;
const shareOf = (trials: readonly Trial[], is: (one: Trial) => boolean): number =>
  trials.filter(is).length / trials.length;

/** Sulfated is one illness in three degrees; told apart here only where the document says so. */
const illness = (cause: CauseId): string => (isSulfated(cause) ? 'sulfated' : cause);

function coverage(trials: readonly Trial[], stage: Stage, name: Checked): number {
  return shareOf(trials, ({ rank }) => rank[stage][name] >= 0.1 && rank[stage][name] <= 0.9);
}

function table(head: readonly string[], rows: readonly (readonly string[])[]): string {
  return [head, head.map(() => '---'), ...rows].map((row) => `| ${row.join(' | ')} |`).join('\n');
}

/** Said against happened, for every cause of every battery. */
function reliability(
  trials: readonly Trial[],
): readonly (readonly [said: number, happened: number, count: number])[] {
  const bins = Array.from({ length: BINS }, () => ({ said: 0, happened: 0, count: 0 }));
  for (const { cause, probabilities } of trials)
    for (const each of CAUSE_IDS) {
      const said = probabilities[each];
      const bin = bins[Math.min(BINS - 1, Math.floor(said * BINS))];
      if (!bin) continue;
      bin.said += said;
      bin.happened += each === cause ? 1 : 0;
      bin.count += 1;
    }
  return bins
    .filter(({ count }) => count > 0)
    .map(({ said, happened, count }) => [said / count, happened / count, count]);
}

/**
 * How many truths fall into each tenth of the belief; alike when it is honest. What equals the truth, as all of a
 * dead cell's capacity does, is broken by chance. @see Talts et al. 2018
 */
function ranks(trials: readonly Trial[], stage: Stage, name: Checked): number[] {
  const counts = Array.from({ length: BINS }, () => 0);
  for (const { even } of trials) {
    const bin = Math.min(BINS - 1, Math.floor(even[stage][name] * BINS));
    counts[bin] = (counts[bin] ?? 0) + 1;
  }
  return counts.map((count) => (count * BINS) / trials.length);
}

/** How uneven they are; of even ones 95 in 100 stay below {@link EVEN_BELOW}. @see Pearson 1900 */
function chiSquare(trials: readonly Trial[], stage: Stage, name: Checked): number {
  const expected = trials.length / BINS;
  return expected * ranks(trials, stage, name).reduce((sum, count) => sum + (count - 1) ** 2, 0);
}
/** Quantiles of chi-square with BINS − 1 = 9 degrees of freedom: 95 % of one, and of six all together (Šidák 1967). */
const EVEN_BELOW = { one: 16.92, allSix: 22.12 } as const;

/** Mean and its standard error. */
const meanWords = (values: readonly number[]): string =>
  `${meanOf(values).toFixed(2)} ± ${errorOf(values).toFixed(2)}`;

/** Ways worth as much but for the price of a minute of hands are as good as the same. */
const A_MINUTE = 0.5;

const DECIDED_BY: Record<Decider, string> = {
  staged: 'the advice in stages, until no check pays for its hands',
  paying: 'the advice of one way to its end, until no check pays for its hands',
  settled: 'the advice, until no check would change what is done',
  'every check': 'the belief after every check',
  strict: 'the strict school: below 10.5 V to the recycler, else charged',
  'charge everything': 'charging everything',
  looked: 'whoever charges it first, and then knows how each way on ends',
  oracle: 'an oracle that knows how each way ends',
};

function adviceLines(advised: readonly AdviceTrial[]): string[] {
  const minutes = (name: keyof AdviceTrial['minutes']): number =>
    advised.reduce((sum, one) => sum + one.minutes[name], 0) / advised.length;
  const share = (is: (one: AdviceTrial) => boolean): string =>
    percent(advised.filter(is).length / advised.length);
  const full = minutes('every check');
  const stops = ['paying', 'settled'] as const;
  return [
    '## Is the advice worth it?',
    '',
    `${advised.length} batteries of the same kind, each charged, soaked, pulsed, watered, proved or retired as decided. Worth is what it then brings, less hands, bay, energy, water and the minutes of the checks, at the usual costs; mean and standard error. Beside it how much more the advice is worth on the same batteries.`,
    '',
    table(
      ['decided by', 'worth of a battery', 'the paying advice is ahead', 'the settled advice is ahead'],
      DECIDERS.map((name) => [
        DECIDED_BY[name],
        meanWords(advised.map(({ worth }) => worth[name])),
        ...stops.map((stop) =>
          stop === name ? '' : meanWords(advised.map(({ worth }) => worth[stop] - worth[name])),
        ),
      ]),
    ),
    '',
    table(
      [
        'asked until',
        'minutes of checks',
        'fewer',
        'the very way of every check',
        'that, or worth the same within a minute of hands',
      ],
      stops.map((stop) => [
        DECIDED_BY[stop].replace('the advice, until ', ''),
        minutes(stop).toFixed(1),
        percent(1 - minutes(stop) / full),
        share(({ behind }) => behind[stop] < 1e-9),
        share(({ behind }) => behind[stop] < A_MINUTE),
      ]),
    ),
    '',
    `Every check takes ${full.toFixed(1)} min.`,
    '',
  ];
}

const POPULATION_WORDS: Record<Population, string> = {
  own: 'own prior and model',
  perturbed: 'widened and perturbed',
  compound: 'compound',
  porous: 'another model altogether',
};

/** Main causes among the first two that are said, sulfation counted as one. */
const isAmongTwo = ({ cause, probabilities }: Trial): boolean => {
  const odds = new Map<string, number>();
  for (const each of CAUSE_IDS) odds.set(illness(each), (odds.get(illness(each)) ?? 0) + probabilities[each]);
  const [one, two] = [...odds].sort((a, b) => b[1] - a[1]);
  return [one?.[0], two?.[0]].includes(illness(cause));
};

/** Of what is said at 98 % and more, the share that is so. @param nameOf cause or illness, as it is told */
function surelySo(trials: readonly Trial[], nameOf: (cause: CauseId) => string): string {
  const said = trials.flatMap(({ cause, probabilities }) => {
    const odds = new Map<string, number>();
    for (const each of CAUSE_IDS) odds.set(nameOf(each), (odds.get(nameOf(each)) ?? 0) + probabilities[each]);
    return [...odds].filter(([, share]) => share >= 0.98).map(([name]) => name === nameOf(cause));
  });
  return `${percent(said.filter(Boolean).length / Math.max(1, said.length))} of ${said.length}`;
}

type All = Readonly<Record<Population, readonly Trial[]>>;

function write(all: All, advised: readonly AdviceTrial[]): void {
  const { own, perturbed: hard } = all;
  mkdirSync(FOLDER, { recursive: true });
  const said = reliability(hard);
  writeFileSync(
    `${FOLDER}/reliability.svg`,
    svgChart({
      title: 'What is said of a cause, and how often it is so',
      x: 'probability said',
      y: 'share that was so',
      lines: [
        {
          name: 'honest',
          points: [
            [0, 0],
            [1, 1],
          ],
        },
        { name: 'the belief', points: said.map(([x, y]) => [x, y] as const), isDots: true },
      ],
    }),
  );
  writeFileSync(
    `${FOLDER}/ranks.svg`,
    svgChart({
      title: 'Where the truth lies in the belief (own model)',
      x: 'share of the belief below the truth',
      y: 'against even',
      lines: CHECKED.map((name) => ({
        name,
        points: ranks(own, 'standing', name).map((count, index) => [(index + 0.5) / BINS, count] as const),
      })),
    }),
  );
  const lines = [
    '# The belief against batteries it has not seen',
    '',
    `Written by \`npm run belief-figures\`; half of all batteries AGM, half flooded. ${own.length} from the belief's own prior and model, read with the very errors it allows for; ${hard.length} whose hidden truth came from a widened prior (three in ten causes drawn evenly) and a model every parameter of which is off by up to 10 %, read through instruments; and ${all.compound.length} compound ones: with that two illnesses or more, cells apart, three in ten of the bad cells with a second beside them, three in ten cold, and a label that is off by up to 20 %; and ${all.porous.length} of another model altogether, two porous electrodes with acid diffusing between them, of the belief's own prior but for those that stand reversed, which that model does not know. The tables after the first two are of the widened and perturbed ones.`,
    '',
    '## Do eight of ten truths lie in the 80 % interval?',
    '',
    table(
      ['figure', 'after', ...POPULATIONS.map((one) => POPULATION_WORDS[one])],
      STAGES.flatMap((stage) =>
        CHECKED.map((name) => [
          name,
          STAGE_WORDS[stage],
          ...POPULATIONS.map((one) => percent(coverage(all[one], stage, name))),
        ]),
      ),
    ),
    '',
    '## Is what is said so?',
    '',
    table(
      ['after the full set', ...POPULATIONS.map((one) => POPULATION_WORDS[one])],
      [
        [
          'the main cause is named first',
          ...POPULATIONS.map((one) =>
            percent(shareOf(all[one], ({ full, cause }) => illness(full) === illness(cause))),
          ),
        ],
        ['it is among the first two', ...POPULATIONS.map((one) => percent(shareOf(all[one], isAmongTwo)))],
        [
          'an illness that is said at 98 % and more is so',
          ...POPULATIONS.map((one) => surelySo(all[one], illness)),
        ],
        [
          'the same of each degree of sulfation',
          ...POPULATIONS.map((one) => surelySo(all[one], (cause) => cause)),
        ],
        [
          'one of the readings of a battery that stands there is said not to fit',
          ...POPULATIONS.map((one) => percent(shareOf(all[one], ({ hasRung }) => hasRung))),
        ],
      ],
    ),
    '',
    '## Is the first-named cause right?',
    '',
    table(
      ['after', 'the very cause', 'sulfation counted as one'],
      (['early', ...STAGES] as const).map((stage) => [
        stage === 'early' ? 'rested voltage and load test' : STAGE_WORDS[stage],
        percent(shareOf(hard, (one) => one[stage] === one.cause)),
        percent(shareOf(hard, (one) => illness(one[stage]) === illness(one.cause))),
      ]),
    ),
    '',
    table(
      ['cause', 'batteries', 'named first after the full set', 'taken most often for'],
      CAUSE_IDS.flatMap((cause) => {
        const these = hard.filter((one) => one.cause === cause);
        if (these.length === 0) return [];
        const wrong = new Map<CauseId, number>();
        for (const { full } of these) if (full !== cause) wrong.set(full, (wrong.get(full) ?? 0) + 1);
        const [most] = [...wrong].sort((a, b) => b[1] - a[1]);
        return [
          [
            CAUSES[cause],
            String(these.length),
            percent(shareOf(these, ({ full }) => full === cause)),
            most ? `${CAUSES[most[0]]} (${most[1]})` : '—',
          ],
        ];
      }),
    ),
    '',
    '## Is what is said of a cause so?',
    '',
    '![Reliability](reliability.svg)',
    '',
    table(
      ['said', 'was so', 'give or take', 'times said'],
      said.map(([x, y, count]) => [
        percent(x),
        percent(y),
        percent(Math.sqrt((x * (1 - x)) / count)),
        String(count),
      ]),
    ),
    '',
    '## Are the ranks flat?',
    '',
    '![Ranks](ranks.svg)',
    '',
    table(
      ['figure', ...Array.from({ length: BINS }, (_, index) => `${index * 10}–${index * 10 + 10} %`), 'χ²'],
      STAGES.flatMap((stage) =>
        CHECKED.map((name) => [
          `${name}, ${stage}`,
          ...ranks(own, stage, name).map((count) => count.toFixed(2)),
          chiSquare(own, stage, name).toFixed(1),
        ]),
      ),
    ),
    '',
    `1 is even. Of even ranks 95 in 100 stay below χ² = ${EVEN_BELOW.one} with ${BINS - 1} degrees of freedom; of six such rows all stay below ${EVEN_BELOW.allSix} in 95 of 100.`,
    '',
  ];
  writeFileSync(`${FOLDER}/results.md`, [...lines, ...adviceLines(advised)].join('\n'));
}

const runner = await runnerOf('belief', 'scripts/beliefShare.ts');
const untilMs = until(MOST_MINUTES);
// A tenth of each at a time: a run that stops early has something of all of them.
for (let part = 1; part <= PARTS; part++) {
  const share = part / PARTS;
  for (const kind of POPULATIONS) await runKept(runner, kind, Math.round(share * TRIALS), untilMs);
  await runKept(runner, 'advice', Math.round(share * ADVISED), untilMs);
}
const of = (kind: Population): Trial[] => keptOf<Trial>(runner.folder, kind);
const all: All = {
  own: of('own'),
  perturbed: of('perturbed'),
  compound: of('compound'),
  porous: of('porous'),
};
write(all, keptOf<AdviceTrial>(runner.folder, 'advice'));
