/** Reckoning with acid: density, voltage, dilution, batches, neutraliser, frost. */
import { percentText } from '../units/percent.ts';
import { chargeFromRestedVoltage } from '../battery/stateOfCharge.ts';
import {
  densityAt,
  densityTo25,
  hydrometerTo25,
  massFractionAt,
  specificGravity,
} from '../electrolyte/density.ts';
import { solveRising } from '../electrolyte/curve.ts';
import { diluteTo } from '../electrolyte/dilution.ts';
import { cellEmf, massFractionOf, molality } from '../electrolyte/emf.ts';
import { FREEZING_FLOOR_C, freezingPointC } from '../electrolyte/freezing.ts';
import { NEUTRALISER_SPARE, toNeutralise, type Neutraliser } from '../electrolyte/neutraliser.ts';
import { builtAs, CELLS_ASK, KIND_ASK } from './asks.ts';
import type { Calculator, NumberAsk } from './calculator.ts';

const GROUP = 'Acid and water';

const density = (id: string, label: string, start: number): NumberAsk => ({
  id,
  label,
  unit: 'kg/L',
  start,
  min: 1,
  max: 1.84,
  decimals: 3,
});

/** Density at 25 °C of acid that rests at this voltage a cell. */
const densityFor = (cellV: number): number =>
  densityAt(massFractionOf(solveRising(cellV, 0.1, 8, cellEmf)), 25);

/** Dry sodium sulfate in a litre (handbook 3.4), and how much more its crystals weigh: Na2SO4·10H2O over Na2SO4 (IUPAC 2021). */
const SODIUM_SULFATE_G_PER_L = 27.5;
const GLAUBER_PER_DRY = 322.19 / 142.04;

export const ACID_CALCULATORS: readonly Calculator[] = [
  {
    id: 'density-25',
    group: GROUP,
    title: 'Density to 25 °C',
    question: 'What would this hydrometer reading be at 25 °C?',
    asks: [
      density('density', 'Density as read', 1.265),
      { id: 'tempC', label: 'Temperature', unit: '°C', start: 15, min: 0, max: 50, decimals: 1 },
    ],
    source:
      'Perry’s Chemical Engineers’ Handbook, densities of aqueous sulfuric acid; BCI for the bench rule',
    answer: ({ n }) => {
      const at25 = densityTo25(n('density'), n('tempC'));
      const rule = hydrometerTo25(n('density'), n('tempC'));
      return {
        results: [
          { label: 'At 25 °C', value: at25, unit: 'kg/L', decimals: 3 },
          { label: 'Specific gravity 25/25', value: specificGravity(at25), unit: '', decimals: 3 },
        ],
        working: [
          `${n('density').toFixed(3)} at ${n('tempC').toFixed(1)} °C is acid of ${(massFractionAt(n('density'), n('tempC')) * 100).toFixed(1)} %, which is ${at25.toFixed(4)} at 25 °C.`,
          `Bench rule: ${n('density').toFixed(3)} + 0.0007 × (${n('tempC').toFixed(1)} − 25) = ${rule.toFixed(4)}.`,
        ],
      };
    },
  },
  {
    id: 'density-voltage',
    group: GROUP,
    title: 'Density to voltage and charge',
    question: 'What does a battery with this acid rest at, and how full is it?',
    asks: [
      { ...density('density', 'Density at 25 °C', 1.25), min: 1.05, max: 1.35 },
      CELLS_ASK,
      { ...density('full', 'Density when full', 1.265), min: 1.2, max: 1.35 },
      { ...density('empty', 'Density when empty', 1.11), min: 1.02, max: 1.19 },
    ],
    source: 'Bode 1977, Lead-Acid Batteries (electromotive force by molality)',
    answer: ({ n, s }) => {
      const fraction = massFractionAt(n('density'), 25);
      const m = molality(fraction);
      const volts = cellEmf(m) * Number(s('cells'));
      const share = (n('density') - n('empty')) / (n('full') - n('empty'));
      return {
        results: [
          { label: 'Rests at', value: volts, unit: 'V', decimals: 2 },
          { label: 'Charge', value: Math.min(1, Math.max(0, share)) * 100, unit: '%', decimals: 0 },
        ],
        working: [
          `${n('density').toFixed(3)} is ${(fraction * 100).toFixed(1)} % acid, ${m.toFixed(2)} mol/kg, ${cellEmf(m).toFixed(3)} V a cell.`,
          `${s('cells')} × ${cellEmf(m).toFixed(3)} V = ${volts.toFixed(2)} V.`,
          `Charge: (${n('density').toFixed(3)} − ${n('empty').toFixed(3)}) ÷ (${n('full').toFixed(3)} − ${n('empty').toFixed(3)}) = ${percentText(share)}.`,
        ],
      };
    },
  },
  {
    id: 'voltage-density',
    group: GROUP,
    title: 'Rested voltage to density and charge',
    question: 'How full is a battery that rests at this voltage?',
    asks: [
      { id: 'volts', label: 'Rested voltage', unit: 'V', start: 12.5, min: 1.7, max: 27.2, decimals: 2 },
      CELLS_ASK,
      KIND_ASK,
    ],
    source: 'Bode 1977; BCI Battery Technical Manual, open-circuit voltage tables',
    answer: ({ n, s }) => {
      const cells = Number(s('cells'));
      const cellV = n('volts') / cells;
      if (cellV < 1.85 || cellV > 2.27)
        throw new RangeError(
          `${n('volts').toFixed(2)} V on ${cells} cells is ${cellV.toFixed(2)} V a cell; a rested cell shows 1.85 to 2.27 V.`,
        );
      const charge = chargeFromRestedVoltage(n('volts'), cells, builtAs(s('kind')));
      const found = densityFor(cellV);
      return {
        results: [
          { label: 'Charge, about', value: charge.mean, unit: '%', decimals: 0 },
          { label: 'at least', value: charge.low, unit: '%', decimals: 0 },
          { label: 'at most', value: charge.high, unit: '%', decimals: 0 },
          { label: 'Acid at the plates', value: found, unit: 'kg/L', decimals: 3 },
        ],
        working: [
          `${n('volts').toFixed(2)} V ÷ ${cells} = ${cellV.toFixed(3)} V a cell, which acid of ${found.toFixed(3)} at 25 °C gives.`,
          'Only after rest: fresh off charge or load the meter reads the surface.',
        ],
      };
    },
  },
  {
    id: 'dilution',
    group: GROUP,
    title: 'Dilution',
    question: 'How much acid into how much water, and how hot does it get?',
    asks: [
      { ...density('strong', 'Acid to dilute, at 25 °C', 1.83), min: 1.05 },
      { ...density('wanted', 'Wanted density at 25 °C', 1.265), min: 1.02, max: 1.6 },
      { id: 'ml', label: 'Wanted amount', unit: 'mL', start: 5000, min: 10, max: 200_000, decimals: 0 },
    ],
    source: 'Mass balance; NBS Circular 500 (heats of dilution); Perry (densities, specific heats)',
    answer: ({ n }) => {
      const strong = massFractionAt(n('strong'), 25);
      const wanted = massFractionAt(n('wanted'), 25);
      const mix = diluteTo(strong, wanted, n('ml'));
      return {
        caution:
          'Acid into the water, slowly, stirring; never water into acid. Goggles, gloves, apron, water at hand.',
        results: [
          { label: '1. Water into the vessel', value: mix.waterMl, unit: 'mL', decimals: 0 },
          { label: '2. Acid into the water', value: mix.acidMl, unit: 'mL', decimals: 0 },
          { label: 'Warms by up to', value: mix.riseK, unit: 'K', decimals: 0 },
          { label: 'Pours, each cooled', value: mix.stages, unit: '', decimals: 0 },
        ],
        working: [
          `${n('strong').toFixed(3)} is ${(strong * 100).toFixed(1)} % acid, ${n('wanted').toFixed(3)} is ${(wanted * 100).toFixed(1)} %.`,
          `${n('ml').toFixed(0)} mL × ${n('wanted').toFixed(3)} = ${(n('ml') * n('wanted')).toFixed(0)} g: ${mix.acidG.toFixed(0)} g acid and ${mix.waterG.toFixed(0)} g water.`,
          `${mix.acidMl.toFixed(0)} mL + ${mix.waterMl.toFixed(0)} mL give ${n('ml').toFixed(0)} mL: volumes do not add.`,
          ...(mix.stages > 1 ? [`Above 20 K it is poured in ${mix.stages} parts, cool in between.`] : []),
        ],
      };
    },
  },
  {
    id: 'batch',
    group: GROUP,
    title: 'Electrolyte for a batch',
    question: 'How much electrolyte do these batteries take?',
    asks: [
      { id: 'count', label: 'Batteries', unit: '', start: 4, min: 1, max: 200, decimals: 0 },
      { id: 'ah', label: 'Capacity of each', unit: 'Ah', start: 14, min: 1, max: 400, decimals: 0 },
      CELLS_ASK,
      { id: 'mlPerAh', label: 'Per Ah and cell', unit: 'mL', start: 9.1, min: 5, max: 20, decimals: 1 },
      { id: 'spare', label: 'Spare', unit: '%', start: 10, min: 0, max: 50, decimals: 0 },
    ],
    source: 'Faraday’s law: 3.66 g of acid per Ah and cell, at 1.26–1.33 with what stays over when empty',
    answer: ({ n, s }) => {
      const each = n('ah') * Number(s('cells')) * n('mlPerAh');
      const all = each * n('count') * (1 + n('spare') / 100);
      return {
        results: [
          { label: 'To have at hand', value: all, unit: 'mL', decimals: 0 },
          { label: 'Each takes about', value: each, unit: 'mL', decimals: 0 },
        ],
        working: [
          `${n('ah')} Ah × ${s('cells')} cells × ${n('mlPerAh')} mL = ${each.toFixed(0)} mL each.`,
          `× ${n('count')} + ${n('spare')} % = ${(all / 1000).toFixed(1)} L. The volume on the sheet wins.`,
        ],
      };
    },
  },
  {
    id: 'neutraliser',
    group: GROUP,
    title: 'Neutraliser',
    question: 'How much soda does this acid take?',
    asks: [
      {
        id: 'ml',
        label: 'Acid spilled or drained',
        unit: 'mL',
        start: 500,
        min: 1,
        max: 100_000,
        decimals: 0,
      },
      density('density', 'Density at 25 °C', 1.265),
      {
        id: 'by',
        label: 'Neutralised with',
        options: {
          'baking-soda': 'baking soda',
          'washing-soda': 'washing soda',
          'slaked-lime': 'slaked lime',
        },
        start: 'baking-soda',
      },
    ],
    source: 'Stoichiometry with IUPAC standard atomic weights 2021',
    answer: ({ n, s }) => {
      const acidG = n('ml') * n('density') * massFractionAt(n('density'), 25);
      const { grams, carbonDioxideL } = toNeutralise(acidG, s('by') as Neutraliser);
      return {
        caution:
          'A little at a time: it foams. Then check with strips to pH 6–9. It still carries lead: licensed disposal.',
        results: [
          { label: 'Takes', value: grams, unit: 'g', decimals: 0 },
          { label: 'Foams off', value: carbonDioxideL, unit: 'L', decimals: 0 },
        ],
        working: [
          `${n('ml')} mL × ${n('density').toFixed(3)} × ${(massFractionAt(n('density'), 25) * 100).toFixed(1)} % = ${acidG.toFixed(0)} g of acid.`,
          `${acidG.toFixed(0)} g × ${(grams / acidG / NEUTRALISER_SPARE).toFixed(3)}, and a tenth more = ${grams.toFixed(0)} g.`,
        ],
      };
    },
  },
  {
    id: 'freezing',
    group: GROUP,
    title: 'Freezing',
    question: 'At what temperature does this acid freeze?',
    asks: [{ ...density('density', 'Density at 15 °C', 1.15), max: 1.3 }],
    source: 'Vinal 1955, Storage Batteries',
    answer: ({ n }) => {
      const freezesC = freezingPointC(massFractionAt(n('density'), 15));
      const isKnown = freezesC > FREEZING_FLOOR_C;
      return {
        caution: 'A frozen battery is never charged: warm it right through, then inspect it again.',
        results: [
          {
            label: isKnown ? 'Freezes at' : 'Freezes below',
            value: Math.max(FREEZING_FLOOR_C, freezesC),
            unit: '°C',
            decimals: 0,
          },
        ],
        working: [
          isKnown
            ? `Acid of ${n('density').toFixed(3)} at 15 °C: ${freezesC.toFixed(1)} °C.`
            : 'Below −40 °C the published curves part ways.',
        ],
      };
    },
  },
  {
    id: 'sulfate-solution',
    group: GROUP,
    title: 'Sulfate solution (not recommended)',
    question: 'How would a salt change be mixed?',
    asks: [
      { id: 'ml', label: 'Solution', unit: 'mL', start: 2000, min: 100, max: 50_000, decimals: 0 },
      {
        id: 'salt',
        label: 'Salt',
        options: {
          sodium: 'sodium sulfate, dry powder',
          glauber: 'Glauber’s salt, crystals',
          magnesium: 'magnesium sulfate, crystals',
        },
        start: 'sodium',
      },
    ],
    source:
      'Practice of some schools: sodium sulfate 27.5 g/L, magnesium sulfate 1 part to 3 of warm water by volume',
    answer: ({ n, s }) => {
      const litres = n('ml') / 1000;
      // One part of crystals (bulk density about 1 g/mL) in three of water gives some 250 g in a litre of solution.
      const perL = {
        sodium: SODIUM_SULFATE_G_PER_L,
        glauber: SODIUM_SULFATE_G_PER_L * GLAUBER_PER_DRY,
        magnesium: 250,
      }[s('salt') as 'sodium' | 'glauber' | 'magnesium'];
      const grams = perL * litres;
      return {
        caution:
          'Not recommended: it throws the acid away and capacity with it, cannot be undone, makes litres of lead-bearing hazardous liquid, and showed no visible gain beside plain water.',
        results: [{ label: 'Salt', value: grams, unit: 'g', decimals: 0 }],
        working: [
          s('salt') === 'magnesium'
            ? `1 part to 3 of water by volume, about 250 g/L × ${litres} L = ${grams.toFixed(0)} g.`
            : `${perL.toFixed(1)} g/L × ${litres} L = ${grams.toFixed(0)} g.`,
          ...(s('salt') === 'glauber'
            ? [
                'Its crystals hold ten waters: 322.2 g of them are 142.0 g of the dry salt the 27.5 g/L are of.',
              ]
            : []),
        ],
      };
    },
  },
];
