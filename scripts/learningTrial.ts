/**
 * Simulated shops whose batteries and chargers are not the handbook's: what each learns from its first jobs, and what its advice
 * is worth by it, between one that goes by the handbook alone and one that knows its own odds.
 */
import { compare } from '@cork-ember/core/advice/compare.ts';
import { oddsBack } from '@cork-ember/core/advice/oddsBack.ts';
import { isBack } from '@cork-ember/core/advice/rows.ts';
import { outcomeOf, type Outcome } from '@cork-ember/core/advice/outcome.ts';
import { Belief, SIZE } from '@cork-ember/core/belief/belief.ts';
import { done } from '@cork-ember/core/belief/work.ts';
import { CAUSE_IDS, priorOf, type CauseId, type History } from '@cork-ember/core/candidate/causes.ts';
import type { Setting } from '@cork-ember/core/candidate/traits.ts';
import { chanceFrom, normal, type Chance } from '@cork-ember/core/chance/chance.ts';
import { causesHere } from '@cork-ember/core/learning/causesHere.ts';
import { learnedFrom, type InForce } from '@cork-ember/core/learning/learned.ts';
import type { Attempt, Lesson } from '@cork-ember/core/learning/lesson.ts';
import { USUAL_LEARNING } from '@cork-ember/core/learning/topics.ts';
import type { WayFactors } from '@cork-ember/core/learning/waysHere.ts';
import { AGM_80, FLOODED_70 } from '@cork-ember/core/test/modelBench.ts';
import { course, COSTS, coursesFor, STEPS } from './adviceTrial.ts';
import { historyOf, throughInstruments, truthOf, standingReadings, type Truth } from './beliefTrial.ts';

/** Jobs after which it is asked what the advice is worth. */
export const AFTER = [30, 100, 300] as const;
export const DECIDED_BY = ['handbook', ...AFTER, 'one who knows'] as const;
export type DecidedBy = (typeof DECIDED_BY)[number];

type Odds = Readonly<Record<CauseId, number>>;

/** What a shop is like, and nobody there knows. */
export interface HiddenShop {
  readonly name: string;
  /** How many times the handbook's odds each cause has. */
  readonly causes: Odds;
  /** Of those a way should bring back, the share it does, by way. */
  readonly kept: Readonly<Record<string, number>>;
}

/** Odds of causes differ between shops by a factor of about two, one standard deviation (assumed). */
const APART = 0.7;
/** Of what a way should bring back it may bring half (a weak charger, a cold room), or all. */
const KEPT: readonly [number, number] = [0.5, 1];

export function hiddenShop(index: number): HiddenShop {
  const name = `shop ${index}`;
  const chance = chanceFrom(name);
  const causes = Object.fromEntries(CAUSE_IDS.map((cause) => [cause, Math.exp(APART * normal(chance))]));
  const kept = Object.fromEntries(
    ['slow-charge', 'long-soak', 'constant-current', 'pulse'].map((way) => [
      way,
      KEPT[0] + (KEPT[1] - KEPT[0]) * chance(),
    ]),
  );
  return { name, causes: causes as Odds, kept };
}

/** Candidates that stand for what is believed, and those a forecast of one way rests on. */
const JUDGES = 40;
const STAND_INS = 16;
const CANDIDATES = 200;
/** Tried in turn, each on every second battery of its construction: whatever was believed of it. */
const TRIED = { agm: ['slow-charge', 'long-soak'], flooded: ['slow-charge', 'constant-current'] } as const;

interface Case {
  readonly setting: Setting;
  readonly truth: Truth;
  readonly belief: Belief;
  readonly chance: Chance;
}

/** A battery of this shop, read before any charge; believed about by the handbook's odds. */
function caseOf({ name, causes }: HiddenShop, index: number, candidates: number): Case {
  const chance = chanceFrom(`${name} ${index}`);
  const construction = index % 2 === 0 ? 'agm' : 'flooded';
  const history = historyOf(chance, construction);
  const setting: Setting = {
    rating: construction === 'agm' ? AGM_80 : FLOODED_70,
    history,
    tempC: 21,
    roomC: 21,
  };
  const truth = truthOf(chance, { ...setting, history: { ...history, here: causes } }, 'own');
  const belief = new Belief(setting, candidates, 17 + index);
  const { early, standing } = standingReadings(truth, setting, throughInstruments(`${name} ${index}`));
  belief.observe(...early, ...standing);
  belief.refine(1);
  return { setting, truth, belief, chance };
}

/** Whether the battery itself comes back that way in this shop. */
function comesBack({ setting, truth, chance }: Case, way: string, { kept }: HiddenShop): boolean {
  return isBack(outcomeOf(course(way, way), truth.traits, setting)) && chance() < (kept[way] ?? 1);
}

/** One job of the shop, and what it teaches. */
export function lessonFrom(shop: HiddenShop, index: number): Lesson {
  const one = caseOf(shop, index, CANDIDATES);
  const { setting, belief } = one;
  const judges = belief.spread(STAND_INS);
  const tried = TRIED[setting.history.construction === 'agm' ? 'agm' : 'flooded'];
  const way = tried[(index >> 1) % tried.length] ?? tried[0];
  const attempt: Attempt = {
    way,
    expected: done(oddsBack(way, judges, setting)),
    isBack: comesBack(one, way, shop),
  };
  return {
    job: `${index}`,
    endedAt: index,
    isWithdrawn: false,
    history: setting.history,
    causes: belief.summary().causes,
    attempts: [attempt],
    minutes: [],
    tester: [],
  };
}

/** What a shop goes by once so many jobs are known. */
export const learnedAfter = (lessons: readonly Lesson[], jobs: number): InForce =>
  learnedFrom(
    lessons.slice(0, jobs).map((lesson) => ({ lesson, isImported: false })),
    USUAL_LEARNING,
  ).inForce;

/** What its own odds are. */
function knownOf({ causes, kept }: HiddenShop, history: History): Known {
  const ways = Object.fromEntries(
    Object.entries(kept).map(([way, share]) => [way, { kept: share, gained: 0 }]),
  );
  return { here: causes, ways: { [history.construction]: ways } };
}

interface Known {
  readonly here: Odds | undefined;
  readonly ways: WayFactors;
}

/** What the way is worth on the battery itself that whoever knows this would take. */
export function decided(
  shop: HiddenShop,
  index: number,
  by: ReadonlyMap<DecidedBy, InForce>,
): Record<DecidedBy, number> {
  const one = caseOf(shop, index, SIZE.standing);
  const { setting, belief, truth } = one;
  const { history } = setting;
  const courses = coursesFor(history.construction === 'agm', truth.shown.ocvV() < 10.5);
  const judges = belief.spread(JUDGES);
  const outcomes = courses.map((one) => judges.map(({ traits }) => outcomeOf(one, traits, setting)));
  const own = courses.map((one): Outcome[] => [outcomeOf(one, truth.traits, setting)]);
  // Of many such batteries in this shop: what the way brings on average on this one.
  const truly = compare(courses, own, setting, COSTS, STEPS, {
    ways: knownOf(shop, history).ways[history.construction] ?? {},
  }).worths.map((row) => row[0] ?? 0);
  const handbook = priorOf(history);
  const worthOf = ({ here, ways }: Known): number => {
    const prior = here ? priorOf({ ...history, here }) : handbook;
    const weights = judges.map(({ traits: { cause } }) => prior[cause] / handbook[cause]);
    const sum = weights.reduce((all, weight) => all + weight, 0);
    const { worths } = compare(courses, outcomes, setting, COSTS, STEPS, {
      ways: ways[history.construction] ?? {},
    });
    const means = worths.map(
      (row) => row.reduce((all, worth, at) => all + worth * (weights[at] ?? 0), 0) / sum,
    );
    return truly[means.indexOf(Math.max(...means))] ?? 0;
  };
  const known = (who: DecidedBy): Known => {
    if (who === 'one who knows') return knownOf(shop, history);
    const learned = by.get(who);
    return learned
      ? { here: causesHere(history, learned.causes), ways: learned.ways }
      : { here: undefined, ways: {} };
  };
  return Object.fromEntries(DECIDED_BY.map((who) => [who, worthOf(known(who))])) as Record<DecidedBy, number>;
}
