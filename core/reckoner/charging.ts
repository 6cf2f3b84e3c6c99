/** Reckoning with charge: current and time, voltage by temperature, air, hydrogen, energy, a donor's inrush. */
import { CONSTRUCTION } from '../battery/construction.ts';
import { leadsOhm, inrushA, type LeadSize } from '../charge/donor.ts';
import { HYDROGEN_L_PER_AH } from '../electrolyte/faraday.ts';
import { HYDROGEN_LIMIT, hydrogenShare, sparkDistanceMm, ventilation } from '../electrolyte/ventilation.ts';
import { builtAs, CELLS_ASK, KIND_ASK } from './asks.ts';
import type { Calculator, NumberAsk } from './calculator.ts';

const GROUP = 'Charging';
const ah = (start: number): NumberAsk => ({
  id: 'ah',
  label: 'Capacity',
  unit: 'Ah',
  start,
  min: 0.5,
  max: 3000,
  decimals: 1,
});
const charge: NumberAsk = {
  id: 'percent',
  label: 'Charged now',
  unit: '%',
  start: 80,
  min: 0,
  max: 100,
  decimals: 0,
};

export const CHARGING_CALCULATORS: readonly Calculator[] = [
  {
    id: 'first-charge',
    group: GROUP,
    title: 'First charge',
    question: 'How much current, for how long?',
    asks: [ah(12), KIND_ASK, charge],
    source: 'Handbook: C10/10, 3 A up to 30 Ah, two hours flat as proof of full',
    answer: ({ n, s }) => {
      const tenth = n('ah') / 10;
      const amps = n('ah') <= 30 ? Math.min(tenth, 3) : tenth;
      const missing = (1 - n('percent') / 100) * n('ah');
      const efficiency = CONSTRUCTION[builtAs(s('kind'))].efficiency;
      const bulk = missing / (amps * efficiency);
      const hours = Math.max(bulk + 2, s('kind') === 'flooded' ? 3 : 0);
      return {
        caution:
          'The label’s own current and time win. A hot battery waits: off above 50 °C, on below 40 °C.',
        results: [
          { label: 'Set', value: amps, unit: 'A', decimals: 2 },
          { label: 'For about', value: hours, unit: 'h', decimals: 1 },
        ],
        working: [
          `${n('ah')} Ah ÷ 10 = ${tenth.toFixed(2)} A${amps < tenth ? ', held to 3 A on a small battery' : ''}.`,
          `Missing ${missing.toFixed(1)} Ah ÷ (${amps.toFixed(2)} A × ${efficiency}) = ${bulk.toFixed(1)} h, and 2 h flat to prove it full.`,
        ],
      };
    },
  },
  {
    id: 'charge-time',
    group: GROUP,
    title: 'Charge time',
    question: 'When is it full at this current?',
    asks: [
      ah(70),
      KIND_ASK,
      { ...charge, start: 30 },
      { id: 'amps', label: 'Current', unit: 'A', start: 7, min: 0.01, max: 500, decimals: 2 },
      { id: 'tail', label: 'Absorption tail', unit: 'h', start: 2, min: 0, max: 24, decimals: 1 },
    ],
    source: 'Charge balance with an efficiency of 0.92 (AGM, gel) or 0.85 (flooded)',
    answer: ({ n, s }) => {
      const missing = (1 - n('percent') / 100) * n('ah');
      const hours = missing / (n('amps') * CONSTRUCTION[builtAs(s('kind'))].efficiency) + n('tail');
      const { mostShare, aBattery } = CONSTRUCTION[builtAs(s('kind'))];
      const mostA = n('ah') * mostShare;
      if (n('amps') > mostA)
        throw new RangeError(
          `${n('amps')} A is above C/${1 / mostShare} (${mostA.toFixed(1)} A); ${aBattery} is charged no faster.`,
        );
      return {
        results: [{ label: 'Full after about', value: hours, unit: 'h', decimals: 1 }],
        working: [
          `Missing ${missing.toFixed(1)} Ah ÷ (${n('amps')} A × ${CONSTRUCTION[builtAs(s('kind'))].efficiency}) = ${(hours - n('tail')).toFixed(1)} h, plus ${n('tail')} h while the current tapers.`,
          'What-if runs it on the model, taper and warmth included.',
        ],
      };
    },
  },
  {
    id: 'compensation',
    group: GROUP,
    title: 'Voltage by temperature',
    question: 'What voltage at this battery temperature?',
    asks: [
      { id: 'volts', label: 'Voltage at 25 °C', unit: 'V', start: 14.4, min: 6.4, max: 16.2, decimals: 2 },
      { id: 'tempC', label: 'Battery', unit: '°C', start: 5, min: -20, max: 60, decimals: 1 },
      CELLS_ASK,
    ],
    source: 'Handbook: −4 mV per cell and kelvin from 25 °C, held between 0 and 45 °C',
    answer: ({ n, s }) => {
      const tempC = Math.min(45, Math.max(0, n('tempC')));
      const volts = n('volts') - 0.004 * Number(s('cells')) * (tempC - 25);
      return {
        results: [{ label: 'Set', value: volts, unit: 'V', decimals: 2 }],
        working: [
          `${n('volts')} V − 0.004 V × ${s('cells')} × (${tempC} − 25) = ${volts.toFixed(2)} V.`,
          ...(tempC === n('tempC') ? [] : ['Beyond 0 and 45 °C it is not compensated further.']),
          ...(n('tempC') > 50 ? ['Above 50 °C nothing is charged.'] : []),
        ],
      };
    },
  },
  {
    id: 'ventilation',
    group: GROUP,
    title: 'Air and opening',
    question: 'How much air does this charging need?',
    asks: [
      ah(70),
      { id: 'count', label: 'Batteries', unit: '', start: 1, min: 1, max: 200, decimals: 0 },
      CELLS_ASK,
      {
        id: 'venting',
        label: 'Kind',
        options: { vented: 'Flooded', 'valve-regulated': 'AGM, gel' },
        start: 'vented',
      },
      {
        id: 'holding',
        label: 'Charge',
        options: {
          boost: 'Up to 2.40 V a cell',
          float: 'Float',
          forced: 'Above 2.40 V, or a dead cell: all the current',
        },
        start: 'boost',
      },
      {
        id: 'amps',
        label: 'Charger’s current at the end',
        unit: 'A',
        start: 5,
        min: 0.05,
        max: 200,
        decimals: 2,
      },
    ],
    source: 'IEC 62485-2:2010, Q = 0.05·n·I_gas·C·10⁻³, A = 28·Q and d = 28.8·∛(I_gas·C)',
    answer: ({ n, s }) => {
      const venting = s('venting') === 'vented' ? 'vented' : 'valve-regulated';
      const holding = s('holding') === 'float' ? 'float' : 'boost';
      // The standard's figures assume 2.40 V a cell; above it all of the current may gas.
      const gassingA = s('holding') === 'forced' ? n('amps') : undefined;
      const one = ventilation(Number(s('cells')), n('ah'), venting, holding, gassingA);
      const gasA = one.airM3PerH / (0.05 * Number(s('cells')));
      const air = one.airM3PerH * n('count');
      return {
        results: [
          { label: 'Air', value: air, unit: 'm³/h', decimals: 2 },
          {
            label: 'Opening, in and out, each',
            value: one.openingCm2 * n('count'),
            unit: 'cm²',
            decimals: 0,
          },
          { label: 'No spark within', value: sparkDistanceMm(gasA) / 10, unit: 'cm', decimals: 0 },
        ],
        caution: 'A fan that fails stops the charge. Openings in and out, one low and one high.',
        working: [
          `Each ${one.airM3PerH.toFixed(3)} m³/h × ${n('count')} = ${air.toFixed(2)} m³/h.`,
          `28 × ${air.toFixed(2)} = ${(one.openingCm2 * n('count')).toFixed(0)} cm² of free opening, low and high.`,
        ],
      };
    },
  },
  {
    id: 'hydrogen',
    group: GROUP,
    title: 'Hydrogen of the bench',
    question: 'How much hydrogen gathers with the doors shut?',
    asks: [
      {
        id: 'amps',
        label: 'Gassing current, all batteries',
        unit: 'A',
        start: 1,
        min: 0,
        max: 500,
        decimals: 2,
      },
      CELLS_ASK,
      { id: 'room', label: 'Room', unit: 'm³', start: 40, min: 1, max: 10_000, decimals: 0 },
      { id: 'hours', label: 'Doors shut for', unit: 'h', start: 8, min: 0, max: 168, decimals: 1 },
      { id: 'changes', label: 'Air changes an hour', unit: '', start: 0, min: 0, max: 20, decimals: 1 },
    ],
    source: 'Faraday’s law, 0.456 L per Ah and cell at 25 °C; limit 1 % by IEC 62485-2',
    answer: ({ n, s }) => {
      const litres = n('amps') * Number(s('cells')) * HYDROGEN_L_PER_AH;
      const share = hydrogenShare(litres, n('room'), n('changes'), n('hours'));
      return {
        ...(share > HYDROGEN_LIMIT
          ? {
              caution:
                'Above 1 %: open the doors before anything is switched or unclipped. It burns from 4 %.',
            }
          : {}),
        results: [
          { label: 'In the room', value: share * 100, unit: '%', decimals: 2 },
          { label: 'Given off', value: litres, unit: 'L/h', decimals: 2 },
        ],
        working: [
          `${n('amps')} A × ${s('cells')} cells × ${HYDROGEN_L_PER_AH.toFixed(3)} L = ${litres.toFixed(2)} L/h.`,
          n('changes') === 0
            ? `${litres.toFixed(2)} L/h × ${n('hours')} h ÷ ${n('room')} m³ = ${(share * 100).toFixed(2)} %.`
            : `With ${n('changes')} changes an hour it levels off; after ${n('hours')} h ${(share * 100).toFixed(2)} %.`,
        ],
      };
    },
  },
  {
    id: 'inrush',
    group: GROUP,
    title: 'Donor’s inrush',
    question: 'What current flows when a donor is clipped on?',
    asks: [
      { id: 'donorV', label: 'Donor rests at', unit: 'V', start: 12.6, min: 6, max: 13.5, decimals: 2 },
      { id: 'flatV', label: 'Flat battery at', unit: 'V', start: 6, min: 0, max: 13, decimals: 2 },
      { id: 'donorMohm', label: 'Donor’s resistance', unit: 'mΩ', start: 5, min: 0.5, max: 200, decimals: 1 },
      {
        id: 'flatMohm',
        label: 'Flat one’s resistance',
        unit: 'mΩ',
        start: 40,
        min: 0.5,
        max: 5000,
        decimals: 1,
      },
      { id: 'metres', label: 'Leads, each', unit: 'm', start: 2, min: 0.2, max: 20, decimals: 1 },
      {
        id: 'mm2',
        label: 'Copper',
        options: { 4: '4 mm²', 6: '6 mm²', 10: '10 mm²', 16: '16 mm²', 25: '25 mm²' },
        start: '16',
      },
    ],
    source: 'Ohm’s law; copper 0.0175 Ω·mm²/m (IEC 60028)',
    answer: ({ n, s }) => {
      if (n('donorV') < 12 && n('donorV') > 6.5)
        throw new RangeError(
          `A donor rests at 12.0 V or more (6 V: 6.0 V); ${n('donorV')} V would only be drawn down.`,
        );
      const leads = leadsOhm(n('metres'), Number(s('mm2')) as LeadSize);
      const amps = inrushA(n('donorV'), n('flatV'), n('donorMohm') / 1000, n('flatMohm') / 1000, leads);
      return {
        caution:
          'Polarity by eye and by meter, twice. Only 30 Ah and above: a small battery is woken by a supply, never by a donor.',
        results: [{ label: 'First current', value: amps, unit: 'A', decimals: 0 }],
        working: [
          `(${n('donorV')} − ${n('flatV')}) V ÷ (${n('donorMohm')} + ${n('flatMohm')} + ${(leads * 1000).toFixed(1)}) mΩ = ${amps.toFixed(0)} A.`,
          'A shorted battery can draw hundreds of amperes, a sulfated one almost nothing.',
        ],
      };
    },
  },
  {
    id: 'energy',
    group: GROUP,
    title: 'Energy and cost',
    question: 'What does this charge take from the mains?',
    asks: [
      { id: 'chargeAh', label: 'Charge put in', unit: 'Ah', start: 30, min: 0.1, max: 3000, decimals: 1 },
      { id: 'volts', label: 'Mean voltage', unit: 'V', start: 13.8, min: 5, max: 16.2, decimals: 1 },
      {
        id: 'efficiency',
        label: 'Charger’s efficiency',
        unit: '%',
        start: 80,
        min: 30,
        max: 100,
        decimals: 0,
      },
      { id: 'price', label: 'A kilowatt-hour', unit: '', start: 0.3, min: 0, max: 10, decimals: 2 },
    ],
    source: 'Energy = charge × voltage ÷ efficiency',
    answer: ({ n }) => {
      const kwh = (n('chargeAh') * n('volts')) / 1000 / (n('efficiency') / 100);
      return {
        results: [
          { label: 'From the mains', value: kwh, unit: 'kWh', decimals: 2 },
          { label: 'Costs', value: kwh * n('price'), unit: '', decimals: 2 },
        ],
        working: [
          `${n('chargeAh')} Ah × ${n('volts')} V ÷ ${n('efficiency')} % = ${kwh.toFixed(2)} kWh.`,
          `${kwh.toFixed(2)} kWh × ${n('price')} = ${(kwh * n('price')).toFixed(2)}.`,
        ],
      };
    },
  },
];
