/**
 * Batteries matched into sets: multi-battery vehicles get whole sets replaced because one is bad, and the good ones
 * left over make new sets (handbook 3.6).
 */
import type { HouseRules } from '../rules/houseRules.ts';
import type { Finding } from './finding.ts';

/** How close the batteries of a set must lie by the house's rule (handbook 3.6); of age, what practice calls like. */
export const SET_LIMITS: Readonly<Record<HouseRules['setMatch'], Apart>> = {
  handbook: { capacityShare: 0.05, resistanceShare: 0.1, ocvV: 0.05, ageMonths: 12 },
  close: { capacityShare: 0.03, resistanceShare: 0.06, ocvV: 0.03, ageMonths: 12 },
  wide: { capacityShare: 0.1, resistanceShare: 0.2, ocvV: 0.1, ageMonths: 12 },
};

/** Figures that are older say nothing of a battery today: a year on the shelf takes what a month of sulfate does. */
export const FIGURES_HOLD_MS = 365 * 86_400_000;

/** One that may go into a set: all three figures measured, and good for something. */
export interface Member {
  readonly tag: string;
  readonly typeId: string;
  /** "2024-03" */
  readonly dateCode: string;
  readonly capacityShare: number;
  readonly milliohm: number;
  readonly ocvV: number;
}

export interface MatchedSet {
  readonly typeId: string;
  /** In the order of their tags. */
  readonly members: readonly Member[];
  /** How far they lie apart: of the larger, shares; V; months. */
  readonly apart: Apart;
}

export interface Apart {
  readonly capacityShare: number;
  readonly resistanceShare: number;
  readonly ocvV: number;
  readonly ageMonths: number;
}

/** Why one on the shelf can be in no set. */
export interface LeftOut {
  readonly tag: string;
  readonly why: string;
}

/** What stands there to be matched. */
export interface Shelf {
  readonly members: readonly Member[];
  readonly leftOut: readonly LeftOut[];
}

const monthOf = (dateCode: string): number => {
  const [year = 0, month = 0] = dateCode.split('-').map(Number);
  return year * 12 + month;
};

/** Rounding of readings is no difference. */
const HAIR = 1e-9;

function spread(values: readonly number[]): number {
  return Math.max(...values) - Math.min(...values);
}

export function apartOf(members: readonly Member[]): Apart {
  const share = (values: readonly number[]): number => spread(values) / Math.max(...values);
  return {
    capacityShare: share(members.map(({ capacityShare }) => capacityShare)),
    resistanceShare: share(members.map(({ milliohm }) => milliohm)),
    ocvV: spread(members.map(({ ocvV }) => ocvV)),
    ageMonths: spread(members.map(({ dateCode }) => monthOf(dateCode))),
  };
}

/** How much of each limit is used, the most used first to tell: 1 is at the limit. */
function strain(apart: Apart, limits: Apart): number {
  return Math.max(
    apart.capacityShare / limits.capacityShare,
    apart.resistanceShare / limits.resistanceShare,
    apart.ocvV / limits.ocvV,
    apart.ageMonths / limits.ageMonths,
  );
}

const isWithin = (members: readonly Member[], limits: Apart): boolean =>
  strain(apartOf(members), limits) <= 1 + HAIR;

/** A set is looked for among so many of those that lie closest to one of its batteries. */
const NEAREST = 12;

/** Every set of that many with this battery in it, of those closest to it, that lies within the limits. */
function setsWith(member: Member, all: readonly Member[], size: number, limits: Apart): Member[][] {
  const near = all
    .filter((other) => other !== member && isWithin([member, other], limits))
    .map((other) => ({ other, strain: strain(apartOf([member, other]), limits) }))
    .sort((a, b) => a.strain - b.strain)
    .slice(0, NEAREST)
    .map(({ other }) => other);
  const grow = (chosen: readonly Member[], from: number): Member[][] => {
    if (chosen.length === size) return [[...chosen]];
    return near.slice(from).flatMap((other, index) => {
      const next = [...chosen, other];
      return isWithin(next, limits) ? grow(next, from + index + 1) : [];
    });
  };
  return grow([member], 0);
}

/** Of batteries of one type the sets that lie closest, each battery in one; none of those left would make another. */
function closest(alike: readonly Member[], size: number, limits: Apart): MatchedSet[] {
  const taken = new Set<string>();
  const sets = alike
    .flatMap((member) => setsWith(member, alike, size, limits))
    .map((set) => ({ set, apart: apartOf(set) }))
    .sort((a, b) => strain(a.apart, limits) - strain(b.apart, limits))
    .flatMap(({ set, apart }) => {
      const members = set.sort((a, b) => a.tag.localeCompare(b.tag));
      const [first] = members;
      if (!first || members.some(({ tag }) => taken.has(tag))) return [];
      for (const { tag } of members) taken.add(tag);
      return [{ typeId: first.typeId, members, apart }];
    });
  if (sets.length === 0) return [];
  // Where all that lay closest to one were taken, those further off may still match it.
  const left = alike.filter(({ tag }) => !taken.has(tag));
  return [...sets, ...closest(left, size, limits)];
}

/**
 * Sets of a size, the closest first; no battery is in two.
 * @param size batteries in a set, 2 or more
 * @param limits how far they may lie apart
 * @throws RangeError for a set of fewer than two
 */
export function setsOf(members: readonly Member[], size: number, limits: Apart): MatchedSet[] {
  if (!(size >= 2)) throw new RangeError(`A set has at least 2 batteries; ${size} came.`);
  const byType = new Map<string, Member[]>();
  for (const member of [...members].sort((a, b) => a.tag.localeCompare(b.tag)))
    byType.set(member.typeId, [...(byType.get(member.typeId) ?? []), member]);
  return [...byType.values()].flatMap((alike) => closest(alike, size, limits));
}

/**
 * The latest of each battery: those that may be matched, and why the others may not. What was not measured is not
 * assumed.
 * @param findings of those that are not on the bench now, in any order
 */
export function shelfOf(findings: readonly Finding[]): Shelf {
  const latest = new Map<string, Finding>();
  for (const finding of [...findings].sort((a, b) => a.endedAt - b.endedAt)) latest.set(finding.tag, finding);
  const members: Member[] = [];
  const leftOut: LeftOut[] = [];
  for (const finding of latest.values()) {
    if (finding.outcome !== 'recovered') continue;
    const { tag, typeId, dateCode, capacityShare, milliohm, ocvV } = finding;
    const missing = [
      ...(capacityShare === undefined ? ['capacity'] : []),
      ...(milliohm === undefined ? ['resistance'] : []),
      ...(ocvV === undefined ? ['rested voltage'] : []),
    ];
    if (capacityShare !== undefined && milliohm !== undefined && ocvV !== undefined)
      members.push({ tag, typeId, dateCode, capacityShare, milliohm, ocvV });
    else leftOut.push({ tag, why: `${missing.join(' and ')} not measured` });
  }
  return { members, leftOut };
}
