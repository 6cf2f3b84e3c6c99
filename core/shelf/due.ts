/** What a battery off the bench wants of hands, and by when: by the shop's rule, and by what is foretold of it. */
import { CONSTRUCTION } from '../battery/construction.ts';
import { speedAt } from '../battery/selfDischarge.ts';
import { onSix, type BatteryType } from '../battery/types.ts';
import type { HouseRules } from '../rules/houseRules.ts';
import { placeOf, sinceOf, type Kept } from './keeping.ts';
import { PLACES, type PlaceKind } from './places.ts';
import type { Prediction } from './prediction.ts';
import { DAY_MS, USUAL_WARMTH, warmthAt } from './warmth.ts';

/** Read its volts; charge it; look at one that is maintained; give that one water; call whoever has it. */
export type Want = 'read' | 'recharge' | 'tend' | 'water' | 'call';

export interface Due {
  readonly want: Want;
  /** By when, ms. */
  readonly by: number;
  /** In a few words: "at its line, likely", "three months since its charge". */
  readonly because: string;
}

export type ShelfRules = Pick<HouseRules, 'shelfRecharge' | 'shelfLoss'>;

const MONTH_MS = 30 * DAY_MS;
const QUARTER_MS = 91 * DAY_MS;
const HALF_YEAR_MS = 182 * DAY_MS;
/** Days before winter and before summer on which an owner charges: the first of November and of May. */
const SEASONS = [
  [10, 1],
  [4, 1],
] as const;
/** One charged so lately goes through to the season after. */
const LATELY_MS = 45 * DAY_MS;
/** Between two readings of one battery at least, where the first raised no alarm. */
const READ_AGAIN_MS = 14 * DAY_MS;
/** What the trade says a battery loses: on six cells, V a month at 10 °C. */
const SPOKEN_V = 0.1;
const SPOKEN_AT_C = 10;

function nextSeason(after: number): number {
  const year = new Date(after).getUTCFullYear();
  const moments = [year, year + 1].flatMap((one) => SEASONS.map(([month, day]) => Date.UTC(one, month, day)));
  return Math.min(...moments.filter((moment) => moment > after));
}

/** When it would come to its recharge line by what the trade says, ms. */
export function spokenLineAt(type: BatteryType, kept: Kept, chargedAt: number): number {
  const { fullV, rechargeV } = CONSTRUCTION[type.construction];
  const tempC = warmthAt(placeOf(kept)?.warmth ?? USUAL_WARMTH, chargedAt);
  const aMonthV = SPOKEN_V * (speedAt(tempC) / speedAt(SPOKEN_AT_C));
  return chargedAt + (onSix(fullV - rechargeV, type) / onSix(aMonthV, type)) * MONTH_MS;
}

/** When the shop's rule has it charged again. */
function ruleBy(type: BatteryType, kept: Kept, chargedAt: number, rules: ShelfRules): Due {
  switch (rules.shelfRecharge) {
    case 'monthly':
      return { want: 'recharge', by: chargedAt + MONTH_MS, because: 'a month since its charge' };
    case 'sixMonthly':
      return { want: 'recharge', by: chargedAt + HALF_YEAR_MS, because: 'six months since its charge' };
    case 'seasons':
      return { want: 'recharge', by: nextSeason(chargedAt + LATELY_MS), because: 'before the season' };
    case 'predicted': {
      const by = chargedAt + QUARTER_MS;
      const spoken =
        rules.shelfLoss === 'spoken' ? spokenLineAt(type, kept, chargedAt) : Number.POSITIVE_INFINITY;
      return spoken < by
        ? { want: 'recharge', by: spoken, because: 'at its line, as the trade says' }
        : { want: 'recharge', by, because: 'three months since its charge' };
    }
  }
}

function tending(kept: Kept, type: BatteryType, since: number): Due[] {
  const tended = Math.max(since, kept.tendedAt ?? 0);
  const watered = Math.max(since, kept.wateredAt ?? 0);
  const look: Due = {
    want: 'tend',
    by: tended + MONTH_MS,
    because: 'a month since its maintainer was looked at',
  };
  return CONSTRUCTION[type.construction].isValveRegulated
    ? [look]
    : [look, { want: 'water', by: watered + QUARTER_MS, because: 'a quarter since its water' }];
}

/** Whoever has one of the shop's is called a month after; its owner before winter and before summer (handbook 4). */
function calling(kept: Kept, kind: PlaceKind, since: number): Due[] {
  const last = Math.max(since, kept.called?.at ?? 0);
  return kind === 'lent'
    ? [{ want: 'call', by: last + MONTH_MS, because: 'a month since it was lent, or last asked about' }]
    : [{ want: 'call', by: nextSeason(last + LATELY_MS), because: 'before the season: let them charge it' }];
}

/** So many readings of its own tell its rate better than any table (handbook 4). */
const KNOWN_FROM = 2;

/**
 * The default rule reads a battery where what is foretold of it leaves open whether it stays above its lines until it is charged
 * anyway: a month after a charge while its own rate is not known, and before one of ten comes to its recharge line, or one of
 * fifty to where it is harmed.
 */
function readingBy(kept: Kept, { recharge, harm, readings }: Prediction, chargeBy: number): Due | undefined {
  const spell = kept.spells.at(-1);
  if (!spell) return undefined;
  const again = (spell.readings.at(-1)?.at ?? Number.NEGATIVE_INFINITY) + READ_AGAIN_MS;
  const never = Number.POSITIVE_INFINITY;
  const [line, unknown]: readonly Due[] = [
    {
      want: 'read',
      by: Math.min(recharge.early ?? never, harm.soonest ?? never),
      because: 'it may come to its line',
    },
    {
      want: 'read',
      by: readings < KNOWN_FROM ? spell.from + MONTH_MS : never,
      because: 'its own rate is not known yet',
    },
  ];
  const first = line && unknown && unknown.by < line.by ? unknown : line;
  if (!first) return undefined;
  const by = Math.max(first.by, again);
  return by < chargeBy ? { ...first, by } : undefined;
}

/**
 * What it wants, the soonest first; empty for one nobody here looks after.
 * @param prediction as of now; none of one whose maintainer holds it, or of which nothing is known
 */
export function dueOf(
  type: BatteryType,
  kept: Kept,
  prediction: Prediction | undefined,
  rules: ShelfRules,
  now: number,
): readonly Due[] {
  const place = placeOf(kept);
  if (!place) return [];
  const since = sinceOf(kept) ?? now;
  const { isKept, isCalled } = PLACES[place.kind];
  const calls = isCalled ? calling(kept, place.kind, since) : [];
  if (!isKept) return calls;
  if (place.kind === 'maintainer') return tending(kept, type, since).sort(byMoment);
  const spell = kept.spells.at(-1);
  // Nobody reads what holds no acid; it is filled to order.
  if (place.isDry && !spell) return [];
  // Nothing is known of it: a reading is the first thing to know.
  if (!spell || !prediction) return [{ want: 'read', by: now, because: 'nobody has read it yet' }, ...calls];
  const byRule = ruleBy(type, kept, spell.from, rules);
  const { likely } = prediction.recharge;
  const isByLine = rules.shelfRecharge === 'predicted' && likely !== undefined && likely < byRule.by;
  const charge: Due = isByLine
    ? { want: 'recharge', by: likely, because: likely <= now ? 'below its line' : 'at its line, likely' }
    : byRule;
  // What is to be charged anyway is read on the bench.
  const read =
    rules.shelfRecharge === 'predicted' && charge.by > now
      ? readingBy(kept, prediction, charge.by)
      : undefined;
  return [...(read ? [read] : []), charge, ...calls].sort(byMoment);
}

const byMoment = (a: Due, b: Due): number => a.by - b.by;
