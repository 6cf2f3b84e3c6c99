/** What is asked in What-if, as it stands in the address: it can be kept, sent and gone back to. */
import { CONSTRUCTIONS } from '@cork-ember/core/battery/construction.ts';
import type { LabelAnswers } from '@cork-ember/core/battery/labelledType.ts';
import { CHARGERS } from '@cork-ember/core/charge/chargers.ts';
import { PLAN_NAMES } from '@cork-ember/core/charge/library.ts';
import {
  FAULT_NAMES,
  type Condition,
  type FaultChoice,
  type PlanChoice,
  type Room,
} from '@cork-ember/core/whatif/question.ts';
import type { ByHand } from './choice.ts';
import { MARKS } from './marks.ts';

export interface Asked {
  /** "hand", "label", "type:" or "tag:" with which. */
  readonly battery: string;
  readonly byHand: ByHand;
  readonly answers: LabelAnswers;
  /** As it was moved; undefined while it is what is known of the battery. */
  readonly condition?: Condition | undefined;
  readonly plans: readonly PlanChoice[];
  readonly hours: number;
  /** Where it is not the shop's own. */
  readonly room?: Room;
  readonly isTable: boolean;
}

export const SPANS = [
  { hours: 24, name: '24 h' },
  { hours: 48, name: '48 h' },
  { hours: 168, name: '7 days' },
] as const;
const USUAL_HOURS = 48;
const DUTIES = ['starter', 'deep-cycle', 'standby'] as const;
const BY_HAND: ByHand = { construction: 'agm', duty: 'starter', cells: 6, capacityAh: 80 };
const FIRST_PLANS: readonly PlanChoice[] = [
  { plan: 'tenth-timed', charger: 'supply' },
  { plan: 'constant-voltage', charger: 'supply' },
];

/** A figure within what its slider or field takes; undefined for anything else. */
function figure(text: string | undefined, least: number, most: number): number | undefined {
  const value = Number(text);
  return text !== undefined && text !== '' && value >= least && value <= most ? value : undefined;
}

const oneOf = <T extends string>(all: readonly T[], text: string | undefined): T | undefined =>
  all.find((one) => one === text);

function handIn(text: string | null): ByHand {
  const [kind, duty, cells, capacityAh] = (text ?? '').split(',');
  return {
    construction: oneOf(CONSTRUCTIONS, kind) ?? BY_HAND.construction,
    duty: oneOf(DUTIES, duty) ?? BY_HAND.duty,
    cells: figure(cells, 1, 24) ?? BY_HAND.cells,
    capacityAh: figure(capacityAh, 0.5, 5000) ?? BY_HAND.capacityAh,
  };
}

function conditionIn(text: string | null): Condition | undefined {
  const [charge, sulfation, years, tempC, fault] = (text ?? '').split(',');
  const read = {
    charge: figure(charge, 0, 1),
    sulfation: figure(sulfation, 0, 1),
    years: figure(years, 0, 30),
    tempC: figure(tempC, -20, 60),
    fault: oneOf(Object.keys(FAULT_NAMES) as FaultChoice[], fault),
  };
  return Object.values(read).every((value) => value !== undefined) ? (read as Condition) : undefined;
}

function labelIn(text: string | null): LabelAnswers {
  try {
    const read: unknown = JSON.parse(text ?? '{}');
    return typeof read === 'object' && read !== null ? (read as LabelAnswers) : {};
  } catch {
    return {};
  }
}

function roomIn(text: string | null): Room | undefined {
  const [volume, price] = (text ?? '').split(',');
  const volumeM3 = figure(volume, 1, 10_000);
  const pricePerKwh = figure(price, 0, 100);
  return volumeM3 === undefined || pricePerKwh === undefined ? undefined : { volumeM3, pricePerKwh };
}

function plansIn(texts: readonly string[]): readonly PlanChoice[] {
  const read = texts.flatMap((text): PlanChoice[] => {
    const [plan, charger] = text.split('.');
    const id = PLAN_NAMES.find((one) => one.id === plan)?.id;
    return id && CHARGERS.some((one) => one.id === charger) ? [{ plan: id, charger: charger ?? '' }] : [];
  });
  return read.length === 0 ? FIRST_PLANS : read.slice(0, MARKS.length);
}

/** What an address asks; what in it is no answer is as if it were not there. */
export function askedIn(params: URLSearchParams): Asked {
  const condition = conditionIn(params.get('at'));
  const room = roomIn(params.get('room'));
  const hours = Number(params.get('hours'));
  return {
    battery: params.get('battery') ?? 'hand',
    byHand: handIn(params.get('hand')),
    answers: labelIn(params.get('label')),
    ...(condition ? { condition } : {}),
    plans: plansIn(params.getAll('plan')),
    hours: SPANS.some((span) => span.hours === hours) ? hours : USUAL_HOURS,
    ...(room ? { room } : {}),
    isTable: params.get('as') === 'table',
  };
}

const isUsual = (one: unknown, usual: unknown): boolean => JSON.stringify(one) === JSON.stringify(usual);

/** The same as an address; what is as usual is left out. */
export function addressOf({
  battery,
  byHand,
  answers,
  condition,
  plans,
  hours,
  room,
  isTable,
}: Asked): URLSearchParams {
  const params = new URLSearchParams();
  if (battery !== 'hand') params.set('battery', battery);
  if (!isUsual(byHand, BY_HAND)) params.set('hand', Object.values({ ...BY_HAND, ...byHand }).join());
  if (!isUsual(answers, {})) params.set('label', JSON.stringify(answers));
  if (condition) {
    const { charge, sulfation, years, tempC, fault } = condition;
    params.set('at', [charge, sulfation, years, tempC, fault].join());
  }
  if (!isUsual(plans, FIRST_PLANS))
    for (const { plan, charger } of plans) params.append('plan', `${plan}.${charger}`);
  if (hours !== USUAL_HOURS) params.set('hours', String(hours));
  if (room) params.set('room', `${room.volumeM3},${room.pricePerKwh}`);
  if (isTable) params.set('as', 'table');
  return params;
}
