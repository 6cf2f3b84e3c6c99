/** The demo's shop: Skerry Battery Loft, a small harbour workshop. Invented from floor to roof. */
import { PLAIN_REGION } from '@cork-ember/core/units/region.ts';
import { USUAL_COSTS } from '@cork-ember/core/advice/worth.ts';
import { TZDate } from '@date-fns/tz';
import { addDays, getDay, startOfDay } from 'date-fns';
import type { Charger } from '@cork-ember/core/charge/charger.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { STANDARD_RULES } from '@cork-ember/core/rules/houseRules.ts';

const supply = { kind: 'programmable', nominalV: [6, 12], startV: 0, efficiency: 0.85 } as const;
const automatic = {
  kind: 'automatic',
  nominalV: [6, 12],
  mostV: 14.7,
  startV: 9,
  efficiency: 0.85,
  programmes: ['automatic'],
} as const;

/** What stands in the loft: two good supplies, two automatics, and three that are not for everything. */
const SKERRY_CHARGERS: readonly Charger[] = [
  {
    ...supply,
    id: 'bench',
    name: 'Bench supply, 0.1–10 A',
    leastA: 0.1,
    mostA: 10,
    mostV: 32,
    because: 'Current and voltage by knob, held by itself.',
  },
  {
    ...supply,
    id: 'small',
    name: 'Small supply, 0.05–3 A',
    leastA: 0.05,
    mostA: 3,
    mostV: 18,
    because: 'For the small ones.',
  },
  {
    ...automatic,
    id: 'automatic-2',
    name: 'Automatic, 0.8 or 2 A',
    leastA: 0.8,
    mostA: 2,
    detentsA: [0.8, 2],
    modes: ['agm', 'flooded'],
    because: 'Its lamp shows full.',
  },
  {
    ...automatic,
    id: 'automatic-5',
    name: 'Automatic, 0.8 to 5 A',
    leastA: 0.8,
    mostA: 5,
    detentsA: [0.8, 2, 5],
    modes: ['agm', 'flooded', 'maintain'],
    because: 'Its lamp shows full.',
  },
  {
    id: 'garage',
    name: 'Old garage charger',
    kind: 'bench',
    leastA: 10,
    mostA: 30,
    detentsA: [10, 30],
    mostV: 16,
    nominalV: [12],
    startV: 6,
    efficiency: 0.7,
    because: 'Came with the loft. For large flooded batteries only.',
  },
  {
    ...automatic,
    id: 'gel',
    name: 'Gel charger, 2 A',
    leastA: 2,
    mostA: 2,
    mostV: 14.1,
    modes: ['gel'],
    because: 'For the harbour’s gel batteries.',
  },
  {
    id: 'keeper',
    name: 'Keeper, 50 mA',
    kind: 'taper',
    leastA: 0,
    mostA: 0.05,
    mostV: 14.4,
    nominalV: [12],
    startV: 8,
    efficiency: 0.6,
    taperOhm: 30,
    openV: 14.4,
    because: 'Keeps what is full.',
  },
];

const weekday: readonly [number, number] = [7 * 60 + 30, 18 * 60];

export const SKERRY: Shop = {
  version: 1,
  name: 'Skerry Battery Loft',
  tagLetters: 'SK',
  hours: { timeZone: 'Etc/UTC', week: [null, weekday, weekday, weekday, weekday, weekday, null] },
  bays: [
    { number: 1, charger: 'bench' },
    { number: 2, charger: 'bench' },
    { number: 3, charger: 'bench' },
    { number: 4, charger: 'bench' },
    { number: 5, charger: 'small' },
    { number: 6, charger: 'small' },
    { number: 7, charger: 'automatic-2' },
    { number: 8, charger: 'automatic-5' },
    { number: 9, charger: 'bench' },
    { number: 10, charger: 'bench' },
    { number: 11, charger: 'automatic-5' },
    { number: 12, charger: 'bench' },
  ],
  chargers: SKERRY_CHARGERS,
  room: { volumeM3: 42, pricePerKwh: 0.31 },
  costs: { ...USUAL_COSTS, handsPerHour: 34 },
  people: ['Ines', 'Tarek', 'Solveig'],
  region: PLAIN_REGION,
  handInstruments: {},
  rules: { ...STANDARD_RULES, bayAtNight: 'cutOff' },
  stores: [],
  devices: [
    // Wired to no bay: it holds for all of them.
    {
      id: 'stop-1',
      name: 'Stop button by the door',
      profile: 'scpi-stop',
      place: { kind: 'simulated', bay: 1, part: 'stop' },
    },
    ...[1, 2].flatMap(
      (bay) =>
        [
          {
            id: `supply-${bay}`,
            name: `Supply of bay ${bay}`,
            profile: 'scpi-supply',
            bay,
            place: { kind: 'simulated', bay, part: 'supply' },
          },
          {
            id: `cut-off-${bay}`,
            name: `Cut-off of bay ${bay}`,
            profile: 'scpi-cut-off',
            bay,
            place: { kind: 'simulated', bay, part: 'cutoff' },
          },
          {
            id: `meter-${bay}`,
            name: `Meter of bay ${bay}`,
            profile: 'scpi-scanner',
            bay,
            place: { kind: 'simulated', bay, part: 'meter' },
          },
          {
            id: `load-${bay}`,
            name: `Load of bay ${bay}`,
            profile: 'scpi-load',
            bay,
            place: { kind: 'simulated', bay, part: 'load' },
          },
        ] as const,
    ),
  ],
};

const DEMO_HOUR_MIN = 11 * 60 + 6;

/** The demo begins six minutes past eleven on the latest working day. */
export function demoMoment(now: number, timeZone: string): number {
  let day = startOfDay(new TZDate(now, timeZone));
  while (SKERRY.hours.week[getDay(day)] === null) day = addDays(day, -1);
  return day.getTime() + DEMO_HOUR_MIN * 60_000;
}
