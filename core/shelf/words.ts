/** What is said of a battery off the bench, in a line. */
import { dayText } from '../clock/clockText.ts';
import type { Due, Want } from './due.ts';
import type { Dry, Shelved } from './overview.ts';
import { placeName, PLACES } from './places.ts';
import { DAY_MS } from './warmth.ts';

export interface Said {
  readonly words: string;
  readonly tone: 'calm' | 'care' | 'stop';
}

const NOW: Readonly<Record<Want, string>> = {
  read: 'read it',
  recharge: 'recharge',
  tend: 'look at its maintainer',
  water: 'give it water',
  call: 'call about it',
};

const BY: Readonly<Record<Want, string>> = {
  read: 'read by',
  recharge: 'recharge by',
  tend: 'look at its maintainer by',
  water: 'water by',
  call: 'call by',
};

/** What is due within these days is read on a round. */
const ROUND_DAYS = 3;

/** What hands are to do: "read it". */
export const doesOf = (want: Want): string => NOW[want];

/** Rack 10 comes after rack 9. */
const NAMES = new Intl.Collator(undefined, { numeric: true });

/** In the order one walks: rack by rack, tag by tag. */
export const byPlace = (a: Shelved, b: Shelved): number => {
  const [at, other] = [a.place ? placeName(a.place) : '', b.place ? placeName(b.place) : ''];
  return NAMES.compare(at, other) || NAMES.compare(a.tag, b.tag);
};

/** Whether the tag that is on it says what is not so any more: it was charged since. */
export const needsTag = ({ place, chargedAt, taggedAt }: Shelved): boolean =>
  place !== undefined && PLACES[place.kind].isKept && chargedAt !== undefined && chargedAt > (taggedAt ?? 0);

/** Whether it wants this by then. */
export const isWantedBy = ({ due }: Shelved, wanted: Want, moment: number): boolean =>
  due.some(({ want, by }) => want === wanted && by <= moment);

/** Whether a round today reads it. */
export const isOnRound = (one: Shelved, now: number): boolean =>
  isWantedBy(one, 'read', now + ROUND_DAYS * DAY_MS);

/** Whether hands are wanted today. */
export const isDueBy = (due: Due | undefined, now: number): boolean => due !== undefined && due.by <= now;

function dueSaid(due: Due, now: number, timeZone: string): Said {
  if (!isDueBy(due, now)) return { words: `${BY[due.want]} ${dayText(due.by, now, timeZone)}`, tone: 'calm' };
  const isLate = now - due.by > DAY_MS;
  return {
    words: `${NOW[due.want]}${isLate ? `, due since ${dayText(due.by, now, timeZone)}` : ' today'}: ${due.because}`,
    tone: 'care',
  };
}

/** Past so many months it may start at half a charge, and goes first or never (handbook 4). */
const OLD_MONTHS = 36;

function drySaid({ months, chargePct }: Dry): Said {
  const age = months === undefined ? 'age unknown' : `${months.toFixed(0)} months`;
  return {
    words: `not filled yet, ${age}: about ${chargePct.toFixed(0)} % once filled; filled to order`,
    tone: months === undefined || months >= OLD_MONTHS ? 'care' : 'calm',
  };
}

/** How it stands. @param now shop time, ms */
export function saidOf(one: Shelved, now: number, timeZone: string): Said {
  const { place, prediction, harmV, due, dry } = one;
  if (!place) return { words: 'where did it go?', tone: 'care' };
  if (dry) return drySaid(dry);
  const [first] = due;
  const { harm } = prediction ?? {};
  if (harm?.likely !== undefined && harm.likely <= now)
    return {
      words: `below ${harmV.toFixed(2)} V since ${dayText(harm.likely, now, timeZone)}, likely: recharge`,
      tone: 'stop',
    };
  if (prediction?.isSuspect)
    return {
      words: `loses ${prediction.rate.likely.toFixed(0)} times what its kind does: suspect a leak or contamination`,
      tone: 'stop',
    };
  return first ? dueSaid(first, now, timeZone) : { words: 'nothing is due', tone: 'calm' };
}

/** "AGM 12 V 9 Ah · Dry rack 3". */
export const whereOf = ({ type, place, set }: Shelved): string =>
  [
    place ? `${type} · ${placeName(place)}${place.to === undefined ? '' : `, ${place.to}`}` : type,
    ...(set === undefined ? [] : [`set ${set}`]),
  ].join(' · ');
