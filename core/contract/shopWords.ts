/** A change of the shop in words, for the record: what it is now, and what it was. */
import { localised, MONEY, verbatim } from '../units/localise.ts';
import { minutesText } from '../units/entryTime.ts';
import { DATE_FORMS, PLAIN_REGION, type Region } from '../units/region.ts';
import { inSentence } from '../units/inSentence.ts';
import { COST_WORDS, costAt, isShare, priceText, type ShopCosts } from '../advice/worth.ts';
import { USUAL_LEARNING, type LearningRule } from '../learning/topics.ts';
import { TOPIC_IDS, TOPICS } from '../learning/topics.ts';
import type { ListedType, PrintedValues } from '../battery/types.ts';
import type { Charger } from '../charge/charger.ts';
import type { Device } from '../devices/device.ts';
import { READINGS_MONTHS } from '../devices/samples.ts';
import type { DeviceProfile } from '../devices/profile.ts';
import { HOUSE_RULES, optionText, RULE_IDS, type HouseRules } from '../rules/houseRules.ts';
import type { ShopHours } from '../clock/shopHours.ts';
import { storeNamed, type Store } from '../shelf/stores.ts';
import { warmthText } from '../shelf/warmthText.ts';
import type { Bay, RoomAndCosts, Shop } from './answers.ts';
import {
  HAND_INSTRUMENT_IDS,
  HAND_INSTRUMENTS,
  type HandInstruments,
} from '../observation/handInstruments.ts';
import { FIRST_DAY, FIRST_DAY_STEPS, type FirstDay } from './firstDay.ts';

export interface ShopParts {
  readonly rules?: Partial<HouseRules>;
  readonly chargers?: readonly Charger[];
  readonly bays?: readonly Bay[];
  readonly room?: RoomAndCosts;
  readonly costs?: ShopCosts;
  readonly name?: string;
  readonly tagLetters?: string;
  readonly hours?: ShopHours;
  readonly people?: readonly string[];
  readonly types?: readonly ListedType[];
  readonly firstDay?: FirstDay;
  readonly region?: Region;
  readonly handInstruments?: HandInstruments;
  readonly stores?: readonly Store[];
  readonly learning?: LearningRule;
  readonly devices?: readonly Device[];
  readonly profiles?: readonly DeviceProfile[];
  readonly alarmsTo?: string;
  readonly readingsMonths?: number;
}

function alarmsToWords(before = '', after = ''): string[] {
  const where = (address: string): string => (address === '' ? 'nowhere' : verbatim(address));
  return before === after ? [] : [`Alarms go to ${where(after)} (was ${where(before)})`];
}

function readingsWords(before = READINGS_MONTHS, after = READINGS_MONTHS): string[] {
  return before === after
    ? []
    : [`Readings of each second are kept whole for ${after} months (was ${before})`];
}

function ruleWords(before: HouseRules, after: HouseRules): string[] {
  return RULE_IDS.filter((id) => before[id] !== after[id]).map(
    (id) => `${HOUSE_RULES[id].title}: ${optionText(id, after)} (was ${optionText(id, before)})`,
  );
}

/** Added, gone and altered, by what each is called. */
function listWords<T extends { readonly id: string }>(
  what: string,
  before: readonly T[],
  after: readonly T[],
  nameOf: (one: T) => string,
): string[] {
  const old = new Map(before.map((one) => [one.id, one]));
  const kept = new Set(after.map(({ id }) => id));
  const words = after.flatMap((one) => {
    const was = old.get(one.id);
    if (!was) return [`${what} ${nameOf(one)} added`];
    return JSON.stringify(was) === JSON.stringify(one) ? [] : [`${what} ${nameOf(one)} changed`];
  });
  const gone = before.filter(({ id }) => !kept.has(id)).map((one) => `${what} ${nameOf(one)} removed`);
  return [...words, ...gone];
}

function bayWords(shop: Shop, after: Shop): string[] {
  const named = ({ chargers }: Shop, id: string): string =>
    chargers.find((charger) => charger.id === id)?.name ?? id;
  return listWords(
    'Bay',
    shop.bays.map(({ number, charger }) => ({ id: String(number), charger })),
    after.bays.map(({ number, charger }) => ({ id: String(number), charger })),
    ({ id, charger }) => `${id} (${named(after, charger)})`,
  );
}

/** Values a label or a maker's sheet may print: what each is called, and its unit. */
export const PRINTED: readonly (readonly [id: keyof PrintedValues, label: string, unit: string])[] = [
  ['chargeCurrentA', 'Charge current', 'A'],
  ['quickCurrentA', 'Quick, attended', 'A'],
  ['chargeTimeH', 'Charge time', 'h'],
  ['ceilingV', 'Charge voltage', 'V'],
  ['packDwellMin', 'Pack stays on', 'min'],
  ['soakMin', 'Soak', 'min'],
  ['fillDensity', 'Electrolyte', 'g/cm³'],
  ['postTorqueNm', 'Post torque', 'N·m'],
];

/** How the record begins a line about a type. */
export const typeMark = (id: string): string => `Type ${id}`;

/** A type's printed values one by one, so that each has its own who and when; what else changed in one line. */
function typeWords(was: ListedType, now: ListedType): string[] {
  const printed = (['label', 'sheet'] as const).flatMap((part) =>
    PRINTED.filter(([id]) => was[part][id] !== now[part][id]).map(([id, label, unit]) => {
      const text = (value: number | undefined): string => (value === undefined ? 'none' : `${value} ${unit}`);
      return `${typeMark(now.id)}, ${part}: ${inSentence(label)} ${text(now[part][id])} (was ${text(was[part][id])})`;
    }),
  );
  const rest = ({ label: _label, sheet: _sheet, ...others }: ListedType): string => JSON.stringify(others);
  return rest(was) === rest(now) ? printed : [...printed, `${typeMark(now.id)} changed`];
}

function typesWords(before: readonly ListedType[], after: readonly ListedType[]): string[] {
  const old = new Map(before.map((type) => [type.id, type]));
  const both = after.flatMap((type) => {
    const was = old.get(type.id);
    return was ? typeWords(was, type) : [];
  });
  const comeAndGone = listWords('Type', before, after, ({ id }) => id).filter(
    (line) => !line.endsWith(' changed'),
  );
  return [...comeAndGone, ...both];
}

function firstDayWords(before: FirstDay = {}, after: FirstDay = {}): string[] {
  return FIRST_DAY_STEPS.flatMap((step) => {
    const now = after[step];
    if (now === undefined || before[step] === now) return [];
    return [`First day, ${inSentence(FIRST_DAY[step].title)}: ${now === 'done' ? 'done' : 'left for later'}`];
  });
}

const DAYS = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'] as const;
const clock = (minutes: number): string => minutesText(minutes, PLAIN_REGION);

function hoursWords(before: ShopHours, after: ShopHours): string[] {
  const text = (day: readonly [number, number] | null | undefined): string =>
    day ? `${clock(day[0])}–${clock(day[1])}` : 'closed';
  const zone =
    before.timeZone === after.timeZone ? [] : [`Time zone: ${after.timeZone} (was ${before.timeZone})`];
  const days = DAYS.flatMap((name, index) => {
    const [was, now] = [text(before.week[index]), text(after.week[index])];
    return was === now ? [] : [`${name}: ${now} (was ${was})`];
  });
  const lunch = ({ lunch: at }: ShopHours): string => (at ? `${clock(at[0])}–${clock(at[1])}` : 'none');
  const lunches = lunch(before) === lunch(after) ? [] : [`Lunch: ${lunch(after)} (was ${lunch(before)})`];
  const [was, now] = [before.holidays ?? [], after.holidays ?? []];
  return [
    ...zone,
    ...days,
    ...lunches,
    ...now.filter((day) => !was.includes(day)).map((day) => `Closed on ${day}`),
    ...was.filter((day) => !now.includes(day)).map((day) => `Open on ${day} after all`),
  ];
}

function peopleWords(before: readonly string[], after: readonly string[]): string[] {
  return [
    ...after.filter((name) => !before.includes(name)).map((name) => `${name} works here now`),
    ...before.filter((name) => !after.includes(name)).map((name) => `${name} works here no more`),
  ];
}

function costWords(before: ShopCosts, after: ShopCosts): string[] {
  return COST_WORDS.flatMap(({ path, label }) => {
    const [was, now] = [costAt(before, path), costAt(after, path)];
    const text = isShare(path) ? String : priceText;
    return was === now ? [] : [`${label}: ${text(now)} (was ${text(was)})`];
  });
}

/** What a region says of each of its choices. */
export const REGION_WORDS: Readonly<Record<keyof Region, string>> = {
  temperature: 'Temperatures',
  volume: 'Volumes',
  mass: 'Masses',
  decimalMark: 'Decimal mark',
  clock: 'Hours of a day',
  date: 'Dates',
  money: 'Money',
};

function regionWords(before: Region, after: Region): string[] {
  const text = (region: Region, key: keyof Region): string => {
    if (key === 'money') return localised(`${MONEY} 1234.50`, region);
    if (key === 'date') return DATE_FORMS[region.date];
    return key === 'decimalMark' ? (region.decimalMark === ',' ? 'comma' : 'point') : region[key];
  };
  return (Object.keys(REGION_WORDS) as (keyof Region)[]).flatMap((key) => {
    const [was, now] = [text(before, key), text(after, key)];
    return was === now ? [] : [`${REGION_WORDS[key]}: ${verbatim(now)} (was ${verbatim(was)})`];
  });
}

function instrumentWords(before: HandInstruments, after: HandInstruments): string[] {
  return HAND_INSTRUMENT_IDS.flatMap((id) => {
    const { title, kinds } = HAND_INSTRUMENTS[id];
    const text = (kind: string | undefined): string =>
      kind === undefined ? 'not told' : ((kinds as Readonly<Record<string, string>>)[kind] ?? kind);
    const [was, now] = [text(before[id]), text(after[id])];
    return was === now ? [] : [`${title}: ${now} (was ${was})`];
  });
}

/** "Store Rack 1: 9 to 21 °C by month (was 18 °C)". */
function storeWords(before: readonly Store[], after: readonly Store[]): string[] {
  const now = after.flatMap(({ name, warmth }) => {
    const was = storeNamed(before, name);
    const [text, old] = [warmthText(warmth), was && warmthText(was.warmth)];
    return text === old ? [] : [`Store ${name}: ${text}${old === undefined ? '' : ` (was ${old})`}`];
  });
  const gone = before.filter(({ name }) => !storeNamed(after, name));
  return [...now, ...gone.map(({ name }) => `Store ${name}: how warm it is is not said any more`)];
}

/** "What the tester shows: learned anew from here on". */
function learningWords(before = USUAL_LEARNING, after = USUAL_LEARNING): string[] {
  const counted = (does: boolean): string => (does ? 'count' : 'do not count');
  const anew = TOPIC_IDS.filter((topic) => before.since[topic] !== after.since[topic]);
  return [
    ...(before.countsImported === after.countsImported
      ? []
      : [`Learning: jobs of other shops ${counted(after.countsImported)}`]),
    ...(before.countsWithdrawn === after.countsWithdrawn
      ? []
      : [`Learning: jobs without a grade ${counted(after.countsWithdrawn)}`]),
    ...anew.map((topic) =>
      after.since[topic] === undefined
        ? `Learning, ${inSentence(TOPICS[topic])}: from all jobs again`
        : `Learning, ${inSentence(TOPICS[topic])}: anew, from later jobs alone`,
    ),
  ];
}

/**
 * @param after the shop once changed
 * @returns a line for each thing that differs; empty when nothing does
 */
export function wordsOfChange(
  before: { readonly shop: Shop; readonly types: readonly ListedType[] },
  after: { readonly shop: Shop; readonly types: readonly ListedType[] },
): string[] {
  const { room } = before.shop;
  const next = after.shop.room;
  return [
    ...(before.shop.name === after.shop.name ? [] : [`Name: ${after.shop.name} (was ${before.shop.name})`]),
    ...(before.shop.tagLetters === after.shop.tagLetters
      ? []
      : [`Tags begin with ${after.shop.tagLetters} (was ${before.shop.tagLetters})`]),
    ...firstDayWords(before.shop.firstDay, after.shop.firstDay),
    ...hoursWords(before.shop.hours, after.shop.hours),
    ...peopleWords(before.shop.people, after.shop.people),
    ...ruleWords(before.shop.rules, after.shop.rules),
    ...listWords('Charger', before.shop.chargers, after.shop.chargers, ({ name }) => name),
    ...bayWords(before.shop, after.shop),
    ...listWords('Device', before.shop.devices ?? [], after.shop.devices ?? [], ({ name }) => name),
    ...listWords('Device profile', before.shop.profiles ?? [], after.shop.profiles ?? [], ({ name }) => name),
    ...alarmsToWords(before.shop.alarmsTo, after.shop.alarmsTo),
    ...readingsWords(before.shop.readingsMonths, after.shop.readingsMonths),
    ...(room.volumeM3 === next.volumeM3 ? [] : [`Room: ${next.volumeM3} m³ (was ${room.volumeM3})`]),
    ...(room.pricePerKwh === next.pricePerKwh
      ? []
      : [`A kilowatt-hour: ${priceText(next.pricePerKwh)} (was ${priceText(room.pricePerKwh)})`]),
    ...costWords(before.shop.costs, after.shop.costs),
    ...instrumentWords(before.shop.handInstruments, after.shop.handInstruments),
    ...regionWords(before.shop.region, after.shop.region),
    ...storeWords(before.shop.stores, after.shop.stores),
    ...learningWords(before.shop.learning, after.shop.learning),
    ...typesWords(before.types, after.types),
  ];
}
