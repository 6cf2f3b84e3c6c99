/** What to do, why in two sentences, and where it would change. */
import { inSentence } from '../units/inSentence.ts';
import type { Scored } from './compare.ts';
import { isOfTheHouse } from './courses.ts';
import { valueOf, type Costs } from './worth.ts';
import type { Setting } from '../belief/traits.ts';

export interface Recommendation {
  readonly course: string;
  /** The route the run sheet takes next. */
  readonly first: string;
  readonly title: string;
  readonly reason: string;
  readonly turns: string;
}

const percent = (share: number): string => `${(share * 100).toFixed(0)} %`;
const money = (amount: number): string => amount.toFixed(2);
const comesBack = ({ odds }: Scored): number => odds.A + odds.B + odds.C;

export function hoursWords(hours: number): string {
  if (hours < 1) return 'at once';
  return hours < 48 ? `${hours.toFixed(0)} h` : `${(hours / 24).toFixed(1)} days`;
}

/** What one that comes back brings, on average. */
function broughtBack({ odds }: Scored, setting: Setting, costs: Costs): number {
  const back = odds.A + odds.B + odds.C;
  const sum = (['A', 'B', 'C'] as const).reduce(
    (total, mark) => total + odds[mark] * valueOf(mark, setting.rating, costs),
    0,
  );
  return back > 0 ? sum / back : valueOf('B', setting.rating, costs);
}

/** Odds of coming back at which a course is worth no more than another. */
function evenOdds(course: Scored, other: number, setting: Setting, costs: Costs): number {
  const core = costs.corePays;
  const gain = broughtBack(course, setting, costs) - core;
  return gain > 0 ? (other + course.cost - core) / gain : Number.POSITIVE_INFINITY;
}

function turningPoint(best: Scored, next: Scored | undefined, setting: Setting, costs: Costs): string {
  if (!next) return 'Nothing else is open to it.';
  if (next.course.id === 'retire' || best.course.id === 'retire') {
    const [repair, retire] = best.course.id === 'retire' ? [next, best] : [best, next];
    const even = evenOdds(repair, retire.worth, setting, costs);
    if (even > 1)
      return `At what a recovered one brings here, ${inSentence(repair.course.title)} would not pay even if it always came back.`;
    const isRepair = repair === best;
    return `It would change ${isRepair ? `to retiring it below ${percent(Math.max(0, even))}` : `to ${inSentence(repair.course.title)} above ${percent(even)}`} odds of coming back; they stand at ${percent(comesBack(repair))}.`;
  }
  const moreMin = best.handsMin - next.handsMin;
  const ahead = best.worth - next.worth;
  if (moreMin > 1) {
    const rate = costs.handsPerHour + ahead / (moreMin / 60);
    return `It would change to ${inSentence(next.course.title)} where an hour of hands costs more than ${money(rate)}; here it is ${money(costs.handsPerHour)}.`;
  }
  const moreDays = (best.hours - next.hours) / 24;
  if (moreDays > 0.5)
    return `It would change to ${inSentence(next.course.title)} where a day sooner is worth ${money(ahead / moreDays)} and more.`;
  return `${next.course.title} comes next, ${money(ahead)} behind: one more reading may turn it.`;
}

/**
 * @param all the most worth first
 * @returns undefined where nothing is open at all
 */
export function recommend(
  all: readonly Scored[],
  setting: Setting,
  costs: Costs,
): Recommendation | undefined {
  const scored = all.filter(({ course }) => isOfTheHouse(course));
  const [best, next] = scored;
  if (!best) return undefined;
  const { course } = best;
  const retiring = scored.find((one) => one.course.id === 'retire');
  const common = {
    course: course.id,
    first: course.routes[0] ?? course.id,
    title: course.title,
    turns: turningPoint(best, next, setting, costs),
  };
  if (course.id === 'retire') {
    const most = next
      ? `${next.course.title} would bring back ${percent(comesBack(next))}`
      : 'No way back is open';
    return {
      ...common,
      reason: `Nothing that is open is worth its hands and its bay. ${most}${next ? `, at a cost of ${money(next.cost)} each` : ''}.`,
    };
  }
  const good = best.odds.A + best.odds.B;
  return {
    ...common,
    reason: `${percent(comesBack(best))} of such batteries come back this way, ${percent(good)} as A or B, for ${best.handsMin.toFixed(0)} min of hands and ${hoursWords(best.hours)}. It is worth ${money(best.worth)} on average against ${money(retiring?.worth ?? 0)} as a core.`,
  };
}
