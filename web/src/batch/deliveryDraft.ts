/** A delivery as it is typed, kept through anything that happens to the page, and as the server is asked to take it in. */
import { v4 as uuid } from 'uuid';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import type { BatteryRecord } from '@cork-ember/core/contract/answers.ts';
import { SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import type { Assignment } from '@cork-ember/core/schedule/planner.ts';
import { Shelf } from '../store/shelf.ts';
import type { Line, LineBattery, Taken } from './deliveryLines.ts';

/** A delivery that was sent and not answered: it is sent again as it was, so that it is taken in once. */
export interface Unanswered {
  readonly lines: string;
  readonly sent: readonly Sending[];
}

export interface Draft {
  readonly lines: readonly Line[];
  readonly unanswered?: Unanswered;
}

const isLine = (value: unknown): boolean =>
  typeof value === 'object' && value !== null && 'id' in value && 'count' in value && 'promised' in value;
const isDraft = (value: unknown): value is Draft =>
  typeof value === 'object' &&
  value !== null &&
  'lines' in value &&
  Array.isArray(value.lines) &&
  value.lines.every(isLine);

/** What was typed stays, whatever happens to the page. */
export const DELIVERY_DRAFT = new Shelf<Draft>(
  'cork-ember-delivery',
  'The delivery that was typed',
  2,
  isDraft,
);

/** A battery as the server is asked to take it in. */
interface Requested {
  readonly battery: BatteryRecord;
  readonly type?: ListedType;
  readonly bay: number;
  readonly plannedAt?: number;
  readonly promisedAt: number;
  readonly requestKey: string;
}

/** Each with the line it is of: its tag may be another battery's by the time the answer comes. */
export interface Sending extends Taken {
  readonly request: Requested;
}

/** @param startsNow those that go into their bay at once; the others are booked, and wait on the shelf for their start */
export function requestsOf(
  assignments: readonly Assignment[],
  wanted: readonly LineBattery[],
  startsNow: readonly Assignment[],
  lines: readonly Line[],
): Sending[] {
  const brought = new Set<string>();
  return assignments.flatMap((assignment): Sending[] => {
    const one = wanted.find(({ id }) => id === assignment.id);
    if (!one) return [];
    const { battery, type } = one.opened;
    // A type of its own comes with the first battery that has it.
    const brings = one.isOwn && !brought.has(type.id);
    brought.add(type.id);
    const isJustThese = lines.find(({ id }) => id === one.line)?.isJustThese === true;
    return [
      {
        line: one.line,
        isOwn: one.isOwn,
        typeId: type.id,
        request: {
          battery: { ...battery, typeId: type.id },
          ...(brings ? { type: isJustThese ? { ...type, isRetired: true } : type } : {}),
          ...(startsNow.includes(assignment)
            ? { bay: assignment.bay }
            : { bay: SHELF, plannedAt: Math.round(assignment.layout.from) }),
          promisedAt: one.dueAt,
          requestKey: uuid(),
        },
      },
    ];
  });
}
