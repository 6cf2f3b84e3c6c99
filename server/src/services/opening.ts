/** What a job is opened with: what was asked at Intake, held against the shop's list, its work and the calendar. */
import { RULES_VERSION } from '@cork-ember/core/rules/houseRules.ts';
import {
  isTaken,
  kindName,
  LITHIUM_REFUSAL,
  type BatteryType,
  type ListedType,
} from '@cork-ember/core/battery/types.ts';
import type { BatteryRecord } from '@cork-ember/core/contract/answers.ts';
import { EDITION, type OpenedPayload, type Told } from '@cork-ember/core/runsheet/entries/events.ts';
import { procedureById, proceduresFor } from '@cork-ember/core/runsheet/procedures/procedures.ts';
import type { Procedure } from '@cork-ember/core/runsheet/definition/step.ts';
import { ProblemError } from '../problems.ts';
import type { ShopSettings } from './shop.ts';

export interface IntakeRequest {
  readonly battery: BatteryRecord;
  /** Its type, read off the label, where the list has none; it goes into the list. */
  readonly type?: ListedType;
  readonly bay: number;
  readonly promisedAt: number;
  /** Work to be done; the usual for the kind where it is not given. */
  readonly procedure?: string;
  readonly fitting?: boolean;
  readonly plannedAt?: number;
  readonly told?: Told;
  readonly by: string;
  readonly requestKey: string;
}

export interface Delivery {
  readonly by: string;
  readonly batteries: readonly Omit<IntakeRequest, 'by'>[];
}

/** What is to be done with a battery: as asked, or the usual for its kind. */
function workOn(type: BatteryType, asked: string | undefined): Procedure {
  const possible = proceduresFor(type);
  const procedure = asked === undefined ? possible[0] : possible.find(({ id }) => id === asked);
  if (procedure) return procedure;
  throw new ProblemError(
    'bad-input',
    `Work: ${kindName(type)} is not commissioned by “${procedureById(asked ?? '').title}”.`,
  );
}

/**
 * What a battery is taken in with, checked.
 * @throws ProblemError in one sentence
 */
export function openingOf(
  { battery, bay, promisedAt, procedure: asked, fitting, plannedAt, told, type: own }: IntakeRequest,
  { types, shop }: Pick<ShopSettings, 'types' | 'shop'>,
  now: number,
): OpenedPayload {
  const type = own ?? types.find((candidate) => candidate.id === battery.typeId);
  if (!type)
    throw new ProblemError('bad-input', `Type: there is no “${battery.typeId}” in this shop’s list.`);
  if (!isTaken(type)) throw new ProblemError('bad-input', LITHIUM_REFUSAL);
  const procedure = workOn(type, asked);
  if (promisedAt <= now) throw new ProblemError('bad-input', 'Promised: the time must lie ahead.');
  const { tag, serial, dateCode, owner } = battery;
  if (Date.parse(`${dateCode}-01T00:00:00Z`) > now)
    throw new ProblemError(
      'bad-input',
      `Date code: ${dateCode} lies ahead; a month that has begun is needed.`,
    );
  const { rules, hours } = shop;
  return {
    edition: EDITION,
    rulesVersion: RULES_VERSION,
    procedure: procedure.id,
    battery: { tag, serial, dateCode, owner },
    type,
    rules,
    hours,
    bay,
    promisedAt,
    ...(fitting === true ? { fitting } : {}),
    // What was planned for a moment that has gone by is to be begun now.
    ...(plannedAt !== undefined && plannedAt > now ? { plannedAt } : {}),
    ...(told && procedure.routes ? { told } : {}),
  };
}
