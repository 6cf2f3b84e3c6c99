/** Batteries that came back together: what was read of each in a minute, and the run sheet it would be tried on. */
import {
  nominalV,
  onSix,
  isTaken,
  shortName,
  type BatteryType,
  type ListedType,
} from '@cork-ember/core/battery/types.ts';
import { tagOf } from '@cork-ember/core/battery/tags.ts';
import { isStock } from '@cork-ember/core/battery/owner.ts';
import type { Machine } from '@cork-ember/core/battery/machines.ts';
import type { MachineAnswer, Shop } from '@cork-ember/core/contract/answers.ts';
import type { Reading } from '@cork-ember/core/observation/readings.ts';
import { EDITION, type Told } from '@cork-ember/core/runsheet/entries/events.ts';
import { foldJob } from '@cork-ember/core/runsheet/log/fold.ts';
import { isGone, isOnBench } from '@cork-ember/core/ledger/togetherInMachine.ts';
import type { Place } from '@cork-ember/core/shelf/places.ts';
import { proceduresFor } from '@cork-ember/core/runsheet/procedures/procedures.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { Shelf } from '../store/shelf.ts';

export interface BroughtRow {
  readonly id: string;
  /** It has one; the others get the next of the shop's row. */
  readonly tag?: string;
  /** As it is known already. */
  readonly serial?: string;
  readonly typeId: string;
  readonly volts?: number;
  readonly dateCode: string;
  readonly isDamaged: boolean;
}

export interface BroughtDraft {
  readonly owner: string;
  readonly rows: readonly BroughtRow[];
}

const isRow = (value: unknown): boolean =>
  typeof value === 'object' && value !== null && 'id' in value && 'typeId' in value && 'dateCode' in value;
const isDraft = (value: unknown): value is BroughtDraft =>
  typeof value === 'object' &&
  value !== null &&
  'owner' in value &&
  'rows' in value &&
  Array.isArray(value.rows) &&
  value.rows.every(isRow);

/**
 * What was typed stays, whatever happens to the page.
 * @param machine tag of the machine they came out of together; nothing where they came out of none
 */
export const broughtDraft = (machine: string): Shelf<BroughtDraft> =>
  new Shelf<BroughtDraft>(
    machine === '' ? 'cork-ember-brought' : `cork-ember-brought-${machine}`,
    'The batteries that were brought back together',
    1,
    isDraft,
  );

/** The set of a machine: those that are known to work in it, and a row for each that is not. */
export const rowsOfMachine = (
  { batteries, carries, typeId }: MachineAnswer,
  newId: () => string,
): readonly BroughtRow[] => {
  const known = batteries.filter((one) => !isGone(one) && !isOnBench(one));
  const more = Math.max(0, carries - known.length);
  return [
    ...known.map((one) => ({
      id: newId(),
      tag: one.tag,
      serial: one.serial,
      typeId: one.typeId,
      dateCode: one.dateCode,
      isDamaged: false,
    })),
    ...Array.from({ length: more }, () => ({ id: newId(), typeId, dateCode: '', isDamaged: false })),
  ];
};

/** What each is called: by its own tag, or by the next of the shop's row that is free, in their order. */
export function namesOf(
  rows: readonly BroughtRow[],
  letters: string,
  firstTag: number,
): ReadonlyMap<string, string> {
  const taken = new Set(rows.flatMap(({ tag }) => tag ?? []));
  let number = firstTag;
  const next = (): string => {
    while (taken.has(tagOf(letters, number))) number += 1;
    number += 1;
    return tagOf(letters, number - 1);
  };
  return new Map(rows.map(({ id, tag }) => [id, tag ?? next()]));
}

/** Where a battery of a machine goes back to once it leaves the bench. */
export const placeIn = ({ tag, name, owner }: Machine): Place =>
  isStock(owner)
    ? { kind: 'laidUp', name, machine: tag }
    : { kind: 'customer', name: '', machine: tag, to: owner };

/** The recovery of a type; undefined where it has none. */
export const recoveryOf = (type: ListedType): string | undefined =>
  proceduresFor(type).find(({ routes }) => routes !== undefined)?.id;

/** Types that can be brought back, by what stands on them. */
export const choicesOf = (
  types: readonly ListedType[],
): readonly { readonly value: string; readonly label: string }[] =>
  types
    .filter((type) => type.isRetired !== true && recoveryOf(type) !== undefined)
    .map((type) => ({ value: type.id, label: `${type.id}, ${shortName(type)}` }));

/** As it came, nothing connected: it stood for a while on the way. */
export const readingOf = (volts: number): Reading => ({ kind: 'ocv', volts, isRested: true });

const MONTH = /^(\d{4}-(0[1-9]|1[0-2]))?$/;
/** More than its cells can rest at, on six of them, V. */
const MOST_V = 14;
/** Nobody waits for it: what came back is promised for a fortnight on, ms. */
export const PROMISED_WITHIN = 14 * 24 * 3_600_000;

/** @returns what it still wants, in a sentence; undefined where it can be judged */
export function wantedOf(row: BroughtRow, type: ListedType | undefined): string | undefined {
  if (!type || !isTaken(type)) return 'Choose its type.';
  if (!MONTH.test(row.dateCode.trim()))
    return `Date code “${row.dateCode}” is no month: year and month, such as 2021-05, or nothing.`;
  const most = onSix(MOST_V, type);
  if (row.volts === undefined) return 'Read its voltage.';
  return Number.isNaN(row.volts) || row.volts < 0 || row.volts > most
    ? `Voltage: from 0 to ${most.toFixed(0)} V for ${nominalV(type)} V.`
    : undefined;
}

/** What one is judged by: where that changes, it is judged anew. */
export const markOf = ({ id, typeId, volts, dateCode }: BroughtRow, owner: string): string =>
  [id, typeId, volts ?? '', dateCode, toldOf(owner).whose].join(' ');

/** Whose it is decides what it is worth to bring back; nothing else was said of it. */
export const toldOf = (owner: string): Told => ({
  complaint: 'unknown',
  whose: isStock(owner.trim()) ? 'stock' : 'customer',
});

/** The run sheet it would have, with what was read put down: nothing of it is recorded. */
export function trialOf(
  row: BroughtRow,
  type: BatteryType,
  procedure: string,
  shop: Shop,
  at: number,
  owner: string,
): JobState {
  const job = `trial ${markOf(row, owner)}`;
  const opened = {
    edition: EDITION,
    procedure,
    battery: { tag: row.id, serial: '', dateCode: row.dateCode.trim(), owner: '' },
    type,
    rules: shop.rules,
    hours: shop.hours,
    bay: 1,
    promisedAt: at + PROMISED_WITHIN,
    told: toldOf(owner),
  };
  return foldJob([
    { job, seq: 1, key: '#1', at, by: '', kind: 'opened', payload: opened },
    {
      job,
      seq: 2,
      key: '#2',
      at,
      by: '',
      kind: 'evidenced',
      payload: { reading: readingOf(row.volts ?? 0) },
    },
  ]).state;
}
