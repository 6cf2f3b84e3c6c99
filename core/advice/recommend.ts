/** What to do, why in two sentences, and where it would change. */
import { percentText } from '../units/percent.ts';
import { inSentence } from '../units/inSentence.ts';
import { NO_CHARGE_CHANGES, type Scored } from './compare.ts';
import { isOfTheHouse } from './courses.ts';
import { coreOf, moneyText, valueOf, type Costs, type Valued } from './worth.ts';

export interface Recommendation {
  readonly course: string;
  /** The route the run sheet takes next. */
  readonly first: string;
  readonly title: string;
  readonly reason: string;
  readonly turns: string;
}

const comesBack = ({ odds }: Scored): number => odds.A + odds.B + odds.C;

export function hoursWords(hours: number): string {
  if (hours < 1) return 'at once';
  return hours < 48 ? `${hours.toFixed(0)} h` : `${(hours / 24).toFixed(1)} days`;
}

/** What one that comes back brings, on average. */
function broughtBack({ odds }: Scored, battery: Valued, costs: Costs): number {
  const back = odds.A + odds.B + odds.C;
  const sum = (['A', 'B', 'C'] as const).reduce(
    (total, mark) => total + odds[mark] * valueOf(mark, battery, costs),
    0,
  );
  return back > 0 ? sum / back : valueOf('B', battery, costs);
}

/** Odds of coming back at which a course is worth no more than another. */
function evenOdds(course: Scored, other: number, battery: Valued, costs: Costs): number {
  const core = coreOf(battery, costs);
  const gain = broughtBack(course, battery, costs) - core;
  return gain > 0 ? (other + course.cost - core) / gain : Number.POSITIVE_INFINITY;
}

function turningPoint(best: Scored, next: Scored | undefined, battery: Valued, costs: Costs): string {
  if (!next) return 'Nothing else is open to it.';
  // What is decided on the way does not hang on one figure: the distance to the next is what may turn it.
  if (best.tree || next.tree) {
    const behind = best.worth - next.worth;
    return behind < 0
      ? 'What it shows once it is charged decides.'
      : `${next.course.title} comes next, ${moneyText(behind)} behind: one more reading may turn it.`;
  }
  if (next.course.id === 'retire' || best.course.id === 'retire') {
    const [repair, retire] = best.course.id === 'retire' ? [next, best] : [best, next];
    const even = evenOdds(repair, retire.worth, battery, costs);
    if (even > 1)
      return `At what a recovered one brings here, ${inSentence(repair.course.title)} would not pay even if it always came back.`;
    const isRepair = repair === best;
    return `It would change ${isRepair ? `to retiring it below ${percentText(Math.max(0, even))}` : `to ${inSentence(repair.course.title)} above ${percentText(even)}`} odds of coming back; they stand at ${percentText(repair.carried)}.`;
  }
  const moreMin = best.handsMin - next.handsMin;
  const ahead = best.worth - next.worth;
  if (moreMin > 1) {
    const rate = costs.handsPerHour + ahead / (moreMin / 60);
    return `It would change to ${inSentence(next.course.title)} where an hour of hands costs more than ${moneyText(rate)}; here it is ${moneyText(costs.handsPerHour)}.`;
  }
  const moreDays = (best.hours - next.hours) / 24;
  if (moreDays > 0.5)
    return `It would change to ${inSentence(next.course.title)} where a day sooner is worth ${moneyText(ahead / moreDays)} and more.`;
  return `${next.course.title} comes next, ${moneyText(ahead)} behind: one more reading may turn it.`;
}

/** What was found of it before any forecast. */
export interface Found {
  /** Nobody has charged it since it came, and it did not come charged. */
  readonly isUncharged: boolean;
  /** What ends it whatever the odds, in a sentence. */
  readonly hardStop?: string;
}

const isRetiring = ({ course }: Scored): boolean => course.id === 'retire';
/** A way that charges it; to prove it as it stands does not. */
const isCharging = (one: Scored): boolean => !isRetiring(one) && one.course.id !== 'prove';

/** Why a battery is retired, by what was found and by what its ways would bring. */
function retiringReason(next: Scored | undefined, { isUncharged, hardStop }: Found): string {
  if (hardStop !== undefined) return hardStop;
  if (!next) return 'No way back is open.';
  const most = `${next.course.title} would bring back ${percentText(next.carried)}, at a cost of ${moneyText(next.cost)} each.`;
  return isUncharged
    ? `Uncharged as it is, no charge would change it. ${most}`
    : `Nothing that is open is worth its hands and its bay. ${most}`;
}

/**
 * An uncharged battery is condemned by a hard stop, or by odds that no charge could change, and by nothing else: what
 * pays is asked once it is charged (handbook 3.2: most batteries returned as bad only need charging).
 * @param all the most worth first
 * @param battery whose it is, and its size
 * @returns undefined where nothing is open at all
 */
export function recommend(
  all: readonly Scored[],
  battery: Valued,
  costs: Costs,
  found: Found = { isUncharged: false },
): Recommendation | undefined {
  const scored = all.filter(({ course }) => isOfTheHouse(course));
  const [most] = scored;
  if (!most) return undefined;
  const retiring = scored.find(isRetiring);
  const isStopped = found.hardStop !== undefined && retiring !== undefined;
  const charging = scored.find(isCharging);
  const isTooSoon =
    !isStopped &&
    found.isUncharged &&
    isRetiring(most) &&
    charging !== undefined &&
    charging.carried >= NO_CHARGE_CHANGES;
  const best = isStopped ? retiring : isTooSoon ? charging : most;
  // Held against a core stands what would bring it back, not proving it as it is.
  const next = isRetiring(best)
    ? (charging ?? scored.find((one) => one !== best))
    : scored.find((one) => one !== best);
  const { course } = best;
  const common = {
    course: course.id,
    first: course.routes[0] ?? course.id,
    title: course.title,
    turns: isStopped ? 'Nothing that is read later changes it.' : turningPoint(best, next, battery, costs),
  };
  if (isRetiring(best)) return { ...common, reason: retiringReason(next, found) };
  const good = best.odds.A + best.odds.B;
  const back = `${percentText(comesBack(best))} of such batteries come back this way, ${percentText(good)} as A or B, for ${best.handsMin.toFixed(0)} min of hands and ${hoursWords(best.hours)}.`;
  const core = moneyText(retiring?.worth ?? 0);
  return {
    ...common,
    reason: isTooSoon
      ? `${back} By money alone it would be retired, ${core} as a core against ${moneyText(best.worth)}; but uncharged it is not condemned: charge, rest, then judge.`
      : `${back} It is worth ${moneyText(best.worth)} on average against ${core} as a core.`,
  };
}
