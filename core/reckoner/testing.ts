/** Reckoning with tests: reserve capacity, load, cranking standards, cut-off, parasitic draw. */
import { percentText } from '../units/percent.ts';
import { onSix } from '../battery/types.ts';
import {
  capacityFromRun,
  hoursAtCurrent,
  hoursCovered,
  RATE_CLASSES,
  RESERVE_A,
  type RateClass,
} from '../battery/dischargeRates.ts';
import { OF_SAE } from '../battery/crankingStandards.ts';
import { chargeFromRestedVoltage } from '../battery/stateOfCharge.ts';
import type { Construction } from '../battery/construction.ts';
import { halfCrankingFloorV } from '../battery/loadTest.ts';
import { builtAs, CELLS_ASK, KIND_ASK } from './asks.ts';
import type { Calculator } from './calculator.ts';

const GROUP = 'Testing';
const rateClass = {
  id: 'of',
  label: 'Class',
  options: RATE_CLASSES,
  start: 'starter',
} as const;

const within = (of: RateClass, hours: number): string => {
  const [least, most] = hoursCovered(of);
  return hours < least || hours > most
    ? `Published for ${least} to ${most} h; outside it what its end gives is kept, not drawn on.`
    : 'By the class’s own published currents, log-log between two of them: no one exponent fits them all.';
};

/** JIS has no fixed ratio and is left out. */
const { JIS: _unfixed, ...TO_SAE } = OF_SAE;
const ratioOf = (standard: string): number =>
  Object.entries(TO_SAE).find(([name]) => name === standard)?.[1] ?? 1;

/** Up to this part of its capacity a battery is drawn down to 10.5 V: 25 A are that of 75 Ah, and 2.8 C of 9 Ah. */
const FREE_SHARE = 3;
/** Charge below which a start is no longer sure. */
const SHARE_TO_START = 0.35;

/** Charge at which a rested battery of a kind shows 12.4 V, by the one curve: the line below which sulfate stays. */
const shareAtHarmLine = (construction: Construction): number =>
  chargeFromRestedVoltage(12.4, 6, construction).mean / 100;

/**
 * Days a connected battery stands until it rests at 12.4 V, and until a start is no longer sure.
 * @param capacityAh at the hour rate, Ah
 * @param draw parasitic draw, mA
 * @param from charge now, and what is lost by itself, both % of capacity (a month)
 */
export function daysStanding(
  capacityAh: number,
  draw: number,
  from: { readonly percent: number; readonly monthlyPct: number; readonly construction: Construction },
): { readonly to124: number; readonly toStart: number; readonly perDayAh: number } {
  const perDayAh = (draw / 1000) * 24 + (from.monthlyPct / 100 / 30.44) * capacityAh;
  const days = (share: number): number => Math.max(0, ((from.percent / 100 - share) * capacityAh) / perDayAh);
  return { to124: days(shareAtHarmLine(from.construction)), toStart: days(SHARE_TO_START), perDayAh };
}

export const TESTING_CALCULATORS: readonly Calculator[] = [
  {
    id: 'reserve-to-capacity',
    group: GROUP,
    title: 'Reserve capacity to Ah',
    question: 'How many Ah do these reserve minutes mean?',
    asks: [
      { id: 'minutes', label: 'Reserve capacity', unit: 'min', start: 100, min: 5, max: 900, decimals: 0 },
      rateClass,
    ],
    source:
      'Constant-current tables of the classes at 25 °C; reserve capacity: 25 A to 10.5 V (BCI, EN 50342-1)',
    answer: ({ n, s }) => {
      const of = s('of') as RateClass;
      const hours = n('minutes') / 60;
      const [, longest] = hoursCovered(of);
      const capacity = capacityFromRun(of, RESERVE_A, hours, longest);
      return {
        results: [
          { label: `Capacity at ${longest} h`, value: capacity, unit: 'Ah', decimals: 1 },
          { label: 'Shop shorthand 0.6 × RC', value: 0.6 * n('minutes'), unit: 'Ah', decimals: 1 },
        ],
        working: [
          `25 A × ${hours.toFixed(2)} h = ${(RESERVE_A * hours).toFixed(1)} Ah at that rate, ${((RESERVE_A * hours * 100) / capacity).toFixed(0)} % of what ${longest} h would give.`,
          within(of, hours),
          'The shorthand is exact only near 65 Ah.',
        ],
      };
    },
  },
  {
    id: 'capacity-to-reserve',
    group: GROUP,
    title: 'Ah to reserve capacity, any rate',
    question: 'How long does it last at this current?',
    asks: [
      { id: 'ah', label: 'Capacity', unit: 'Ah', start: 60, min: 0.5, max: 3000, decimals: 1 },
      { id: 'hours', label: 'at', unit: 'h', start: 20, min: 1, max: 100, decimals: 0 },
      rateClass,
      { id: 'amps', label: 'Current', unit: 'A', start: 25, min: 0.01, max: 2000, decimals: 1 },
    ],
    source: 'Constant-current tables of the classes at 25 °C',
    answer: ({ n, s }) => {
      const of = s('of') as RateClass;
      const hours = hoursAtCurrent(of, n('ah'), n('hours'), n('amps'));
      return {
        results: [
          { label: 'Lasts', value: hours * 60, unit: 'min', decimals: 0 },
          { label: 'Gives', value: hours * n('amps'), unit: 'Ah', decimals: 1 },
        ],
        working: [
          `${n('amps')} A of ${n('ah')} Ah at ${n('hours')} h: ${hours.toFixed(2)} h, ${((hours * n('amps') * 100) / n('ah')).toFixed(0)} % of it.`,
          within(of, hours),
        ],
      };
    },
  },
  {
    id: 'load-test',
    group: GROUP,
    title: 'Load test',
    question: 'What load, and what must it hold at this temperature?',
    asks: [
      {
        id: 'cca',
        label: 'Cranking rating (0: not known)',
        unit: 'A',
        start: 540,
        min: 0,
        max: 3000,
        decimals: 0,
      },
      { id: 'ah', label: 'Capacity', unit: 'Ah', start: 60, min: 1, max: 400, decimals: 0 },
      { id: 'tempC', label: 'Battery', unit: '°C', start: 10, min: -25, max: 45, decimals: 0 },
      CELLS_ASK,
    ],
    source: 'BCI Battery Technical Manual, load test table: 9.6 V at 21 °C to 8.5 V at −18 °C',
    answer: ({ n, s }) => {
      const scale = onSix(1, { cells: Number(s('cells')) });
      const isKnown = n('cca') > 0;
      const amps = isKnown ? n('cca') / 2 : 3 * n('ah');
      const floor = (isKnown ? halfCrankingFloorV(n('tempC')) : 10.5) * scale;
      return {
        caution:
          'Clips on while the tester is off; 15 s, then a rest. Only a charged, rested battery is judged.',
        results: [
          { label: 'Load', value: amps, unit: 'A', decimals: 0 },
          { label: 'Holds at least', value: floor, unit: 'V', decimals: 2 },
        ],
        working: [
          isKnown
            ? `Half of ${n('cca')} A for 15 s; the table gives ${(floor / scale).toFixed(2)} V at ${n('tempC')} °C on 12 V.`
            : `No rating known: 3 × ${n('ah')} Ah for 15 s at 10.5 V (25 °C).`,
        ],
      };
    },
  },
  {
    id: 'cranking-standards',
    group: GROUP,
    title: 'Cranking standards',
    question: 'What is this rating under another standard, roughly?',
    asks: [
      { id: 'amps', label: 'Rating', unit: 'A', start: 640, min: 10, max: 3000, decimals: 0 },
      {
        id: 'from',
        label: 'Rated by',
        options: { EN: 'EN', SAE: 'SAE', IEC: 'IEC', DIN: 'DIN' },
        start: 'EN',
      },
    ],
    source: 'Rules of thumb: EN 0.9, IEC 0.66, DIN 0.57 of the SAE figure',
    answer: ({ n, s }) => {
      const sae = n('amps') / ratioOf(s('from'));
      return {
        caution:
          'Rule of thumb: standards differ in voltage, seconds and temperature. Never judge by a converted figure.',
        results: Object.entries(TO_SAE).map(([name, ratio]) => ({
          label: name,
          value: sae * ratio,
          unit: 'A',
          decimals: 0,
        })),
        working: [
          `${n('amps')} A (${s('from')}) ÷ ${ratioOf(s('from'))} = ${sae.toFixed(0)} A on the SAE scale, then times each ratio.`,
        ],
      };
    },
  },
  {
    id: 'cut-off',
    group: GROUP,
    title: 'Cut-off by load',
    question: 'At what voltage is this load to be switched off?',
    asks: [
      { id: 'amps', label: 'Load', unit: 'A', start: 80, min: 0.1, max: 1000, decimals: 0 },
      { id: 'cca', label: 'Cranking rating', unit: 'A', start: 640, min: 20, max: 3000, decimals: 0 },
      { id: 'ah', label: 'Capacity', unit: 'Ah', start: 70, min: 1, max: 400, decimals: 0 },
      { id: 'start', label: 'Must still start', options: { no: 'no', yes: 'yes' }, start: 'no' },
    ],
    source:
      'Handbook: 10.5 V up to C/3, lower by the extra I·R; R ≈ 2.55 V ÷ CCA. A start needs about a third of the charge',
    answer: ({ n, s }) => {
      const ohms = 2.55 / n('cca');
      const freeA = n('ah') / FREE_SHARE;
      const extra = Math.max(0, n('amps') - freeA) * ohms;
      const cut = 10.5 - extra;
      if (cut < 6)
        throw new RangeError(
          `${n('amps')} A is more than a battery of ${n('cca')} A cranking can be loaded with for long.`,
        );
      if (s('start') === 'yes')
        return {
          results: [
            { label: 'Stop at, rested', value: 12.1, unit: 'V', decimals: 1 },
            { label: 'Leaves', value: SHARE_TO_START * n('ah'), unit: 'Ah', decimals: 0 },
          ],
          working: [
            `A standby load that must leave a start stops at 12.1–12.2 V at rest, about ${percentText(SHARE_TO_START)} charge.`,
            `Under ${n('amps')} A that shows as about ${(12.1 - n('amps') * ohms).toFixed(2)} V.`,
          ],
        };
      return {
        caution: 'Never unattended below 11.5 V: recharge at once.',
        results: [{ label: 'Switch off at', value: cut, unit: 'V', decimals: 2 }],
        working: [
          `10.5 V − (${n('amps')} A − ${freeA.toFixed(1)} A) × 2.55 V ÷ ${n('cca')} A = ${cut.toFixed(2)} V${extra === 0 ? ` (up to C/3, ${freeA.toFixed(1)} A, it is 10.5 V)` : ''}.`,
        ],
      };
    },
  },
  {
    id: 'parasitic',
    group: GROUP,
    title: 'Parasitic draw',
    question: 'How many days until it will not start?',
    asks: [
      { id: 'milliamps', label: 'Draw', unit: 'mA', start: 35, min: 0, max: 5000, decimals: 0 },
      { id: 'ah', label: 'Capacity', unit: 'Ah', start: 70, min: 1, max: 400, decimals: 0 },
      KIND_ASK,
      { id: 'percent', label: 'Charged now', unit: '%', start: 100, min: 10, max: 100, decimals: 0 },
      {
        id: 'monthly',
        label: 'Loses by itself, a month',
        unit: '%',
        start: 3,
        min: 0.5,
        max: 30,
        decimals: 1,
      },
    ],
    source: 'Charge balance; self-discharge 2–3 % (AGM) or 4–6 % (flooded) a month at 25 °C',
    answer: ({ n, s }) => {
      const construction = builtAs(s('kind'));
      const { to124, toStart, perDayAh } = daysStanding(n('ah'), n('milliamps'), {
        percent: n('percent'),
        monthlyPct: n('monthly'),
        construction,
      });
      return {
        results: [
          { label: 'Until 12.4 V', value: to124, unit: 'days', decimals: 0 },
          { label: 'Until it may not start', value: toStart, unit: 'days', decimals: 0 },
        ],
        working: [
          `${n('milliamps')} mA × 24 h + ${n('monthly')} % a month of ${n('ah')} Ah = ${perDayAh.toFixed(2)} Ah a day.`,
          `12.4 V is about ${percentText(shareAtHarmLine(construction))} charge of this kind; a start needs about ${percentText(SHARE_TO_START)}.`,
        ],
      };
    },
  },
];
