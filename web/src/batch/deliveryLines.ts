/** The lines of a delivery: what each says, the batteries it stands for, and what is left of it once some were taken in. */
import type { LabelAnswers } from '@cork-ember/core/battery/labelledType.ts';
import { ownerFrom } from '@cork-ember/core/battery/owner.ts';
import { tagOf } from '@cork-ember/core/battery/tags.ts';
import { isTaken, LITHIUM_REFUSAL, type ListedType } from '@cork-ember/core/battery/types.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { EDITION } from '@cork-ember/core/runsheet/entries/events.ts';
import { procedureFor } from '@cork-ember/core/runsheet/procedures/procedures.ts';
import { momentOf } from '@cork-ember/core/clock/localTime.ts';
import type { PlanBattery } from '@cork-ember/core/schedule/planner.ts';
import { MOST_DELIVERED } from '@cork-ember/core/contract/limits.ts';
import { readLabel, type LabelCheck } from '../label/readLabel.ts';

export interface Line {
  /** Its own: two that say the same are two. */
  readonly id: string;
  readonly typeId: string;
  readonly count: number;
  readonly dateCode: string;
  readonly owner: string;
  readonly promised: string;
  /** Read off the label, where the list has no such type. */
  readonly answers?: LabelAnswers;
  /** The type read off it is not offered for others. */
  readonly isJustThese?: true;
  /** Pictures of the label, for the first battery of the line; they do not outlive the page. */
  readonly photos?: readonly File[];
}

/** A battery of a line, to be planned. */
export interface LineBattery extends PlanBattery {
  /** Its line. */
  readonly line: string;
  /** Its type goes into the list with it. */
  readonly isOwn: boolean;
}

/** What is known of a battery that was taken in, once its line is to be shortened. */
export interface Taken {
  readonly line: string;
  readonly isOwn: boolean;
  readonly typeId: string;
}

/** What of a delivery outlives the page. */
export const keptOf = (lines: readonly Line[]): readonly Line[] =>
  lines.map(({ photos: _photos, ...rest }) => rest);

/** The type of a line: of the list, or as its label makes it. */
export function typeOf(
  { answers, typeId }: Line,
  types: readonly ListedType[],
  mark: string,
  check: LabelCheck | undefined,
): ListedType | undefined {
  if (!answers) return types.find(({ id }) => id === typeId);
  const read = readLabel(answers, mark, check);
  return 'type' in read ? read.type : undefined;
}

const countOf = ({ count }: Line): number => (count > 0 ? Math.min(MOST_DELIVERED, Math.floor(count)) : 0);

/** The first of the lines with a label that says the same: they are of one type. */
const alike = (lines: readonly Line[], { answers }: Line): Line | undefined =>
  lines.find(
    (other) => other.answers !== undefined && JSON.stringify(other.answers) === JSON.stringify(answers),
  );

/** What names the type of each line, where it is read off its label: the tag of the first battery that has it. */
export function marksOf(
  lines: readonly Line[],
  letters: string,
  firstTag: number,
): ReadonlyMap<string, string> {
  let number = firstTag;
  const own = new Map<string, string>();
  for (const line of lines) {
    own.set(line.id, tagOf(letters, number));
    number += countOf(line);
  }
  return new Map(lines.map((line) => [line.id, own.get(alike(lines, line)?.id ?? line.id) ?? '']));
}

const DATE_CODE = /^(\d{4}-(0[1-9]|1[0-2]))?$/;

/** @returns what a line still wants before its batteries can be planned, in a sentence; undefined when nothing */
export function wantedOf(
  line: Line,
  type: ListedType | undefined,
  timeZone: string,
  now: number,
): string | undefined {
  const { answers, dateCode, promised } = line;
  if (!type) return answers ? undefined : 'Choose its type, or read it off the label.';
  if (!isTaken(type)) return LITHIUM_REFUSAL;
  if (countOf(line) === 0) return `How many: 1 to ${MOST_DELIVERED}.`;
  if (!DATE_CODE.test(dateCode))
    return `Date code “${dateCode}” is no month: year and month, such as 2026-01, the stamp as it stands, or nothing.`;
  if (dateCode !== '' && Date.parse(`${dateCode}-01T00:00:00Z`) > now)
    return `Date code ${dateCode} lies ahead; a month that has begun is needed.`;
  const dueAt = momentOf(promised, timeZone);
  if (Number.isNaN(dueAt)) return 'Promised: say when it is wanted.';
  return dueAt <= now ? 'Promised: the time must lie ahead.' : undefined;
}

/** The batteries of every line that says enough to be planned. */
export function batteriesOf(
  lines: readonly Line[],
  types: readonly ListedType[],
  shop: Shop,
  firstTag: number,
  now: number,
  check: LabelCheck | undefined,
): LineBattery[] {
  let number = firstTag;
  const marks = marksOf(lines, shop.tagLetters, firstTag);
  return lines.flatMap((line) => {
    const { dateCode, owner, promised, answers } = line;
    const first = number;
    number += countOf(line);
    const type = typeOf(line, types, marks.get(line.id) ?? '', check);
    const { timeZone } = shop.hours;
    if (!type || !isTaken(type) || wantedOf(line, type, timeZone, now) !== undefined) return [];
    const dueAt = momentOf(promised, timeZone);
    const procedure = procedureFor(type);
    if (!procedure) return [];
    return Array.from({ length: countOf(line) }, (_, each): LineBattery => {
      const tag = tagOf(shop.tagLetters, first + each);
      return {
        id: tag,
        line: line.id,
        isOwn: answers !== undefined,
        dueAt,
        opened: {
          edition: EDITION,
          procedure: procedure.id,
          battery: { tag, serial: '', dateCode, owner: ownerFrom(owner) },
          type,
          rules: shop.rules,
          hours: shop.hours,
          bay: 1,
          promisedAt: dueAt,
        },
      };
    });
  });
}

/** What stays on the list: lines with what was taken in off them, and a type that came with one chosen from the list now. */
export function leftOf(lines: readonly Line[], taken: readonly Taken[]): Line[] {
  return lines.flatMap((line) => {
    const its = taken.filter((one) => one.line === line.id);
    const count = line.count - its.length;
    if (count <= 0) return [];
    const [first] = its;
    if (!first?.isOwn) return [{ ...line, count }];
    const { answers: _read, isJustThese: _these, photos: _kept, ...rest } = line;
    return [{ ...rest, typeId: first.typeId, count }];
  });
}
