/**
 * Several brought back at once: with which to begin. A minute of meter and eyes each says what a way back would probably bring; those
 * that bring most for an hour of hands go first, and what no charge would bring back is named (handbook 4).
 */
import { NO_CHARGE_CHANGES, type Scored } from './compare.ts';
import { isOfTheHouse } from './courses.ts';

export interface Tried {
  readonly id: string;
  /** Held against each other; the most worth first. */
  readonly scored: readonly Scored[];
  /** Cracked, bulged or leaking: it is not charged, whatever it may be worth. */
  readonly isDamaged: boolean;
}

export interface InOrder {
  readonly id: string;
  /** The way it would go; none where it is not to be tried. */
  readonly way?: Scored;
  /** Of coming back as A, B or C. */
  readonly odds: number;
  /** What the way brings more than a core does, an hour of hands, in the shop's money. */
  readonly perHour: number;
  readonly isHopeless: boolean;
}

/** No way is so quick that it takes no hands. */
const LEAST_HANDS_MIN = 5;

const isRetiring = ({ course }: Scored): boolean => course.id === 'retire';

function judged({ id, scored, isDamaged }: Tried): InOrder {
  const core = scored.find(isRetiring)?.worth ?? 0;
  const perHourOf = (way: Scored): number =>
    ((way.worth - core) / Math.max(LEAST_HANDS_MIN, way.handsMin)) * 60;
  // What the house does not take is not advised, as in `recommend`.
  const ways = scored
    .filter((one) => !isRetiring(one) && isOfTheHouse(one.course))
    .toSorted((a, b) => perHourOf(b) - perHourOf(a));
  const [way] = ways;
  if (!way || isDamaged) return { id, odds: 0, perHour: 0, isHopeless: true };
  const odds = Math.max(...ways.map(({ carried }) => carried));
  return odds < NO_CHARGE_CHANGES
    ? { id, odds, perHour: 0, isHopeless: true }
    : { id, way, odds, perHour: perHourOf(way), isHopeless: false };
}

/** The one to begin with first, the hopeless last. */
export function inOrder(all: readonly Tried[]): readonly InOrder[] {
  return all
    .map(judged)
    .sort(
      (a, b) =>
        Number(a.isHopeless) - Number(b.isHopeless) || b.perHour - a.perHour || a.id.localeCompare(b.id),
    );
}
