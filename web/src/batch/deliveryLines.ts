/** The lines of a delivery: what each says, the batteries it stands for, and what is left of it once some were taken in. */
import type { LabelAnswers } from '@cork-ember/core/battery/labelledType.ts';
import { tagOf } from '@cork-ember/core/battery/tags.ts';
import { isTaken, type ListedType } from '@cork-ember/core/battery/types.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { EDITION } from '@cork-ember/core/runsheet/entries/events.ts';
import { procedureFor } from '@cork-ember/core/runsheet/procedures/procedures.ts';
import { momentOf } from '@cork-ember/core/clock/localTime.ts';
import type { PlanBattery } from '@cork-ember/core/schedule/planner.ts';
import { readLabel } from '../label/readLabel.ts';

/** Batteries planned at once, at most. */
export const MOST = 30;

export interface Line {
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
  /** Place of its line. */
  readonly line: number;
  /** Its type goes into the list with it. */
  readonly isOwn: boolean;
}

/** What of a delivery outlives the page. */
export const keptText = (lines: readonly Line[]): string =>
  JSON.stringify(lines.map(({ photos: _photos, ...rest }) => rest));

/** The type of a line: of the list, or as its label makes it. */
export function typeOf(
  { answers, typeId }: Line,
  types: readonly ListedType[],
  mark: string,
): ListedType | undefined {
  if (!answers) return types.find(({ id }) => id === typeId);
  const read = readLabel(answers, mark);
  return 'type' in read ? read.type : undefined;
}

const countOf = ({ count }: Line): number => (count > 0 ? Math.min(MOST, Math.floor(count)) : 0);

/** The tag of each line's first battery. */
export function marksOf(lines: readonly Line[], letters: string, firstTag: number): string[] {
  let number = firstTag;
  return lines.map((line) => {
    const mark = tagOf(letters, number);
    number += countOf(line);
    return mark;
  });
}

/** The batteries of every line that says enough to be planned. */
export function batteriesOf(
  lines: readonly Line[],
  types: readonly ListedType[],
  shop: Shop,
  firstTag: number,
): LineBattery[] {
  let number = firstTag;
  return lines.flatMap((line, index) => {
    const { dateCode, owner, promised, answers } = line;
    const first = number;
    number += countOf(line);
    const type = typeOf(line, types, tagOf(shop.tagLetters, first));
    const dueAt = momentOf(promised, shop.hours.timeZone);
    if (!type || !isTaken(type) || Number.isNaN(dueAt)) return [];
    if (!/^(\d{4}-(0[1-9]|1[0-2]))?$/.test(dateCode)) return [];
    const procedure = procedureFor(type);
    if (!procedure) return [];
    return Array.from({ length: countOf(line) }, (_, each): LineBattery => {
      const tag = tagOf(shop.tagLetters, first + each);
      return {
        id: tag,
        line: index,
        isOwn: answers !== undefined,
        dueAt,
        opened: {
          edition: EDITION,
          procedure: procedure.id,
          battery: { tag, serial: '', dateCode, owner: owner.trim() === '' ? 'stock' : owner },
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
export function leftOf(lines: readonly Line[], taken: readonly LineBattery[]): Line[] {
  return lines.flatMap((line, index) => {
    const its = taken.filter((one) => one.line === index);
    const count = line.count - its.length;
    if (count <= 0) return [];
    const [first] = its;
    if (!first?.isOwn) return [{ ...line, count }];
    const { answers: _read, isJustThese: _these, photos: _kept, ...rest } = line;
    return [{ ...rest, typeId: first.opened.type.id, count }];
  });
}
