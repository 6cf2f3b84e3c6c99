/** The demo's shop: Skerry Battery Loft, a small harbour workshop. Invented from floor to roof. */
import { TZDate } from '@date-fns/tz';
import { addDays, getDay, startOfDay } from 'date-fns';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { STANDARD_RULES } from '@cork-ember/core/runsheet/houseRules.ts';

const weekday: readonly [number, number] = [7 * 60 + 30, 18 * 60];

export const SKERRY: Shop = {
  name: 'Skerry Battery Loft',
  hours: { timeZone: 'Etc/UTC', week: [null, weekday, weekday, weekday, weekday, weekday, null] },
  bays: [
    { number: 1, charger: 'bench supply, 0.1–10 A' },
    { number: 2, charger: 'bench supply, 0.1–10 A' },
    { number: 3, charger: 'bench supply, 0.1–10 A' },
    { number: 4, charger: 'bench supply, 0.1–10 A' },
    { number: 5, charger: 'small supply, 0.05–3 A' },
    { number: 6, charger: 'small supply, 0.05–3 A' },
    { number: 7, charger: 'automatic, AGM programme, 2 A' },
    { number: 8, charger: 'automatic, AGM programme, 5 A' },
  ],
  people: ['Ines', 'Tarek', 'Solveig'],
  rules: STANDARD_RULES,
};

const DEMO_HOUR_MIN = 11 * 60 + 6;

/** The demo begins six minutes past eleven on the latest working day. */
export function demoMoment(now: number, timeZone: string): number {
  let day = startOfDay(new TZDate(now, timeZone));
  while (SKERRY.hours.week[getDay(day)] === null) day = addDays(day, -1);
  return day.getTime() + DEMO_HOUR_MIN * 60_000;
}
