/**
 * What is the matter with the batteries of this shop, where the handbook's odds are the prior. A job never says for sure what
 * it was: it counts for each cause by what was believed of it in the end (expectation–maximisation), and each of three
 * questions (how it is built, what was said of it, how old it is) has its own odds, shrunk to what the others expect.
 * @see Dempster, Laird & Rubin 1977, Maximum likelihood from incomplete data via the EM algorithm
 * @see Gelman et al. 2013, Bayesian Data Analysis, 3.4 (multinomial data, Dirichlet prior)
 */
import { group } from 'd3-array';
import { CAUSE_IDS, priorOf, type CauseId, type History } from '../candidate/causes.ts';
import type { Lesson } from './lesson.ts';

type Odds = Readonly<Record<CauseId, number>>;

/** What is asked of a history, and answered by one of a few words. */
const ASKED = {
  construction: ({ construction }: History): string => construction,
  complaint: ({ complaint }: History): string => complaint,
  age: ({ ageYears }: History): string => ageBandOf(ageYears),
} as const satisfies Record<string, (history: History) => string>;
export type Asked = keyof typeof ASKED;
const ASKED_IDS = Object.keys(ASKED) as Asked[];

/** Years that tell one kind of ageing from another (practice): within its warranty, in its prime, past it. */
const AGE_BANDS = [
  ['up to 2 years', 2],
  ['2 to 5 years', 5],
  ['over 5 years', Number.POSITIVE_INFINITY],
] as const;

function ageBandOf(years: number | undefined): string {
  if (years === undefined) return 'of unknown age';
  return AGE_BANDS.find(([, most]) => years <= most)?.[0] ?? '';
}

/** By question, by answer: how many times the handbook's odds each cause has here. */
export type CauseFactors = Readonly<Record<Asked, Readonly<Record<string, Odds>>>>;

/** The handbook's word counts for as many jobs as these (reasoned: its odds are round, and wide on purpose). */
const HANDBOOK_COUNTS = 20;
const ROUNDS = 40;
const SETTLED = 1e-4;

/** A figure of each cause, in their order. */
type Row = Float64Array;

const rowOf = (odds: Odds): Row => Float64Array.from(CAUSE_IDS, (cause) => odds[cause]);
const oddsOf = (row: Row): Odds =>
  Object.fromEntries(CAUSE_IDS.map((cause, at) => [cause, row[at] as number])) as Record<CauseId, number>;
const ones = (): Row => new Float64Array(CAUSE_IDS.length).fill(1);

function normalise(row: Row): void {
  const sum = row.reduce((total, value) => total + value, 0);
  for (let at = 0; at < row.length; at++) row[at] = (row[at] as number) / sum;
}

/** What the shop's jobs make of the handbook's odds for a history; 1 where they say nothing. */
export function causesHere(history: History, factors: CauseFactors): Odds {
  const here = ones();
  for (const asked of ASKED_IDS) {
    const odds = factors[asked][ASKED[asked](history)];
    if (odds) CAUSE_IDS.forEach((cause, at) => (here[at] = (here[at] as number) * odds[cause]));
  }
  return oddsOf(here);
}

/** One answer to one question: its factors, renewed round by round. */
interface Answer {
  readonly asked: Asked;
  readonly answer: string;
  readonly jobs: readonly Judged[];
  factors: Row;
}

interface Judged {
  readonly handbook: Row;
  /** What was believed of it in the end over what the handbook said: what its readings say. */
  readonly told: Row;
  /** What was answered of it. */
  readonly answers: Answer[];
}

/** Odds before anything is read, as the answers have it. */
function expected({ handbook, answers }: Judged, without: Answer | undefined, into: Row): void {
  into.set(handbook);
  for (const one of answers)
    if (one !== without)
      for (let at = 0; at < into.length; at++) into[at] = (into[at] as number) * (one.factors[at] as number);
  normalise(into);
}

/**
 * One answer's factors anew: posterior mean of its Dirichlet over what the other questions expect of the same jobs.
 * @returns by how much they moved at most
 */
function renew(answer: Answer): number {
  const [others, found, row] = [ones().fill(0), ones().fill(0), ones()];
  const add = (sum: Row): void => {
    for (let at = 0; at < sum.length; at++) sum[at] = (sum[at] as number) + (row[at] as number);
  };
  for (const job of answer.jobs) {
    expected(job, answer, row);
    add(others);
    expected(job, undefined, row);
    for (let at = 0; at < row.length; at++) row[at] = (row[at] as number) * (job.told[at] as number);
    normalise(row);
    add(found);
  }
  const count = answer.jobs.length;
  let most = 0;
  answer.factors = answer.factors.map((before, at) => {
    const mean = (others[at] as number) / count;
    if (mean === 0) return before;
    const now = (HANDBOOK_COUNTS * mean + (found[at] as number)) / (HANDBOOK_COUNTS + count) / mean;
    most = Math.max(most, Math.abs(now - before));
    return now;
  });
  return most;
}

/**
 * @param lessons those that count
 * @returns factors on the handbook's odds; none where there are no lessons
 */
export function causeFactors(lessons: readonly Lesson[]): CauseFactors {
  const judged = lessons.map(({ history, causes }) => {
    const handbook = rowOf(priorOf(history));
    const told = rowOf(causes).map((odds, at) => (handbook[at] === 0 ? 0 : odds / (handbook[at] as number)));
    return { history, job: { handbook, told, answers: [] } satisfies Judged as Judged };
  });
  const answers = ASKED_IDS.flatMap((asked) =>
    [...group(judged, ({ history }) => ASKED[asked](history))].map(([answer, those]): Answer => {
      const one = { asked, answer, jobs: those.map(({ job }) => job), factors: ones() };
      for (const job of one.jobs) job.answers.push(one);
      return one;
    }),
  );
  for (let round = 0; round < ROUNDS; round++) if (Math.max(0, ...answers.map(renew)) < SETTLED) break;
  const factors: Record<Asked, Record<string, Odds>> = { construction: {}, complaint: {}, age: {} };
  for (const one of answers) factors[one.asked][one.answer] = oddsOf(one.factors);
  return factors;
}

/** Of one answer to one question: what the handbook said of such jobs, what they were, and what is said from now on. */
export interface CausesSaid {
  readonly asked: Asked;
  readonly answer: string;
  readonly jobs: number;
  /** Means over those jobs, the likeliest first. */
  readonly causes: readonly {
    readonly cause: CauseId;
    readonly handbook: number;
    readonly found: number;
    readonly now: number;
  }[];
}

/** @param factors as the same lessons gave them */
export function causesSaid(lessons: readonly Lesson[], factors: CauseFactors): CausesSaid[] {
  const told = lessons.map(({ history, causes }) => ({
    history,
    handbook: priorOf(history),
    found: causes,
    now: priorOf({ ...history, here: causesHere(history, factors) }),
  }));
  return ASKED_IDS.flatMap((asked) =>
    [...group(told, ({ history }) => ASKED[asked](history))].map(([answer, those]): CausesSaid => {
      const mean = (which: 'handbook' | 'found' | 'now', cause: CauseId): number =>
        those.reduce((sum, one) => sum + one[which][cause], 0) / those.length;
      const causes = CAUSE_IDS.map((cause) => ({
        cause,
        handbook: mean('handbook', cause),
        found: mean('found', cause),
        now: mean('now', cause),
      })).sort((a, b) => b.now - a.now);
      return { asked, answer, jobs: those.length, causes };
    }),
  ).sort((a, b) => b.jobs - a.jobs);
}
