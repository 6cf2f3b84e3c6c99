/** A battery off the bench at a moment: where it is, what is foretold of it, what it wants and by when. */
import type { Construction } from '../battery/construction.ts';
import { ageInMonths } from '../battery/dateCode.ts';
import { chargeAfterSoakByAge } from '../battery/stateOfCharge.ts';
import { harmLineV, rechargeLineV } from '../battery/shelfLines.ts';
import { isTaken, shortName, type ListedType } from '../battery/types.ts';
import { dueOf, type Due, type ShelfRules } from './due.ts';
import { placeOf, sinceOf, type Kept } from './keeping.ts';
import type { Place } from './places.ts';
import type { Prediction } from './prediction.ts';

/** One as the list has it. */
export interface ShelfItem {
  readonly tag: string;
  readonly typeId: string;
  readonly serial: string;
  /** "2024-03" */
  readonly dateCode: string;
  readonly owner: string;
  /** Of its last recovery. */
  readonly grade: string | null;
  readonly kept: Kept;
}

/** A dry-charged box: its plates lose charge as it stands, filled or not (handbook 2.5). */
export interface Dry {
  /** Months since it was made; undefined where nobody knows. */
  readonly months?: number;
  /** After filling and its soak, %. */
  readonly chargePct: number;
}

/** One whose age nobody knows is taken for as old as the oldest stock that is sold. */
const OLD_MONTHS = 36;

function dryOf(dateCode: string, now: number): Dry {
  const months = ageInMonths(dateCode, now);
  return {
    ...(months === undefined ? {} : { months }),
    chargePct: chargeAfterSoakByAge(months ?? OLD_MONTHS),
  };
}

export interface Shelved {
  readonly tag: string;
  readonly typeId: string;
  readonly serial: string;
  /** "AGM 12 V 9 Ah". */
  readonly type: string;
  readonly cells: number;
  readonly construction: Construction;
  readonly owner: string;
  /** "2024-03" */
  readonly dateCode: string;
  readonly grade: string | null;
  /** Nobody has said yet where it went, without it. */
  readonly place?: Place;
  readonly since?: number;
  readonly chargedAt?: number;
  readonly lastRead?: { readonly at: number; readonly volts: number };
  /** None where nothing is known of it, or its maintainer holds it. */
  readonly prediction?: Prediction;
  /** Not filled yet: how old, and what it would show once filled. */
  readonly dry?: Dry;
  /** Others of this name go with it. */
  readonly set?: string;
  /** So many with it; one of them may be on the bench, or gone. */
  readonly setOf?: number;
  /** When its tag was printed. */
  readonly taggedAt?: number;
  /** Its owner, or who has it, was called last. */
  readonly called?: { readonly at: number; readonly said: string };
  readonly rechargeV: number;
  readonly harmV: number;
  /** The soonest first. */
  readonly due: readonly Due[];
}

/**
 * One as lists have it.
 * @param type its type, as the shop has it now
 * @param prediction what is foretold of it as of now
 * @returns undefined for one of a kind the shop does not take
 */
export function shelvedOf(
  item: ShelfItem,
  type: ListedType,
  prediction: Prediction | undefined,
  rules: ShelfRules,
  now: number,
): Shelved | undefined {
  if (!isTaken(type)) return undefined;
  const { kept, tag, typeId, serial, owner, dateCode, grade } = item;
  const place = placeOf(kept);
  const since = sinceOf(kept);
  const spell = kept.spells.at(-1);
  const read = spell?.readings.at(-1);
  const isDry = place?.isDry === true && !spell;
  const shelved: { -readonly [Key in keyof Shelved]: Shelved[Key] } = {
    tag,
    typeId,
    serial,
    type: shortName(type),
    cells: type.cells,
    construction: type.construction,
    owner,
    dateCode,
    grade,
    rechargeV: rechargeLineV(type.construction, type.cells),
    harmV: harmLineV(type.cells),
    due: dueOf(type, kept, prediction, rules, now),
  };
  // Set one by one: thousands are listed, and most have most of it.
  if (place) shelved.place = place;
  if (since !== undefined) shelved.since = since;
  if (spell) shelved.chargedAt = spell.from;
  if (read) shelved.lastRead = { at: read.at, volts: read.volts };
  if (prediction) shelved.prediction = prediction;
  if (isDry) shelved.dry = dryOf(dateCode, now);
  if (kept.set !== undefined) shelved.set = kept.set;
  if (kept.setOf !== undefined) shelved.setOf = kept.setOf;
  if (kept.taggedAt !== undefined) shelved.taggedAt = kept.taggedAt;
  if (kept.called) shelved.called = kept.called;
  return shelved;
}

/** What was put nowhere yet, then what leaks, comes before all that is due, one that wants nothing last. */
function turnOf({ place, due, prediction }: Shelved): number {
  if (!place) return Number.NEGATIVE_INFINITY;
  return prediction?.isSuspect ? 0 : (due[0]?.by ?? Number.POSITIVE_INFINITY);
}

const TAGS = new Intl.Collator();

/** By what is due first. */
function byDue(a: Shelved, b: Shelved): number {
  const [ofA, ofB] = [turnOf(a), turnOf(b)];
  return ofA === ofB ? TAGS.compare(a.tag, b.tag) : ofA - ofB;
}

/**
 * All of them, what is due first first. What is of a type the shop has no more is left out.
 * @param predictionOf what is foretold of one as of now
 */
export function listed(
  items: readonly ShelfItem[],
  types: readonly ListedType[],
  predictionOf: (item: ShelfItem, type: ListedType) => Prediction | undefined,
  rules: ShelfRules,
  now: number,
): readonly Shelved[] {
  const byId = new Map(types.map((type) => [type.id, type]));
  return items
    .flatMap((item) => {
      const type = byId.get(item.typeId);
      return (type && shelvedOf(item, type, predictionOf(item, type), rules, now)) ?? [];
    })
    .sort(byDue);
}
