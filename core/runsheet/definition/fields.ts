/** The readings procedures ask for, scaled to the battery on the bench. */
import { STEP } from './stepIds.ts';
import { ceilingRange, usualCeilings } from '../../battery/printedRange.ts';
import type { ReadingSpec } from '../../units/reading.ts';
import { packMassG } from '../../battery/packMass.ts';
import { onSix, type BatteryType, type PrintedValues } from '../../battery/types.ts';
import type { StepValues } from '../../units/values.ts';
import type { ChoiceField, ChoiceOption, Hold, NumberField, StepContext } from './step.ts';
import type { InstrumentQuantity } from '../../observation/instrument.ts';

/** No battery of this bench has more cells in series. */
export const MOST_CELLS = 12;

/** Volts scaled from a 12 V battery to this one. */
function scaled(type: BatteryType, min: number, max: number): { min: number; max: number } {
  return { min: onSix(min, type), max: onSix(max, type) };
}

interface VoltageAsk {
  readonly id: string;
  readonly label: string;
  /** On 12 V. */
  readonly plausible: readonly [number, number];
  readonly quantity: InstrumentQuantity;
}

export function voltageSpec(
  label: string,
  plausible: readonly [number, number],
  type: BatteryType,
): ReadingSpec {
  return {
    label,
    unit: 'V',
    decimals: 2,
    possible: scaled(type, 0, 18),
    plausible: scaled(type, plausible[0], plausible[1]),
  };
}

export function voltageField(ask: VoltageAsk): NumberField {
  return {
    kind: 'number',
    id: ask.id,
    quantity: ask.quantity,
    spec: ({ opened }: StepContext) => voltageSpec(ask.label, ask.plausible, opened.type),
  };
}

export const TEMPERATURE_SPEC: ReadingSpec = {
  label: 'Case temperature',
  unit: '°C',
  decimals: 1,
  possible: { min: -30, max: 90 },
  plausible: { min: -5, max: 60 },
};

export const temperatureField: NumberField = {
  kind: 'number',
  id: 'tempC',
  quantity: 'temperature',
  spec: () => TEMPERATURE_SPEC,
};

/** Density as a hydrometer floats, g/cm³. */
const hydrometerSpec = (label: string, min: number, max: number): ReadingSpec => ({
  label,
  unit: 'g/cm³',
  decimals: 3,
  possible: { min: 1, max: 1.4 },
  plausible: { min, max },
});

/** A pilot cell's, on charge. */
export const CHARGE_DENSITY = hydrometerSpec('Density of a pilot cell', 1.05, 1.31);

/** Of acid as it is filled in. */
export function densityField(id: string, label: string): NumberField {
  return { kind: 'number', id, spec: () => hydrometerSpec(label, 1.24, 1.3) };
}

export const ELECTROLYTE_TEMP: ReadingSpec = {
  label: 'Temperature of the electrolyte',
  unit: '°C',
  decimals: 1,
  possible: { min: 0, max: 50 },
  plausible: { min: 10, max: 35 },
};

export const electrolyteTempField: NumberField = {
  kind: 'number',
  id: 'acidC',
  spec: () => ELECTROLYTE_TEMP,
};

/** Of a cell, as it may be found. */
export const cellDensitySpec = (label: string): ReadingSpec => hydrometerSpec(label, 1, 1.32);

/** A hydrometer of balls or coloured bands: an interval for each, not a figure (practice: red to 1.225, white to 1.250). */
export const BANDS = {
  red: { label: 'Red', low: 1.1, high: 1.225 },
  white: { label: 'White', low: 1.225, high: 1.25 },
  green: { label: 'Green', low: 1.25, high: 1.3 },
} as const;
export type Band = keyof typeof BANDS;
export const isBand = (value: unknown): value is Band => typeof value === 'string' && value in BANDS;

/** One band for every cell; a cell nobody drew from stays empty. */
export const bandChoices: readonly ChoiceField[] = cellChoices(
  'band',
  'Band',
  Object.entries(BANDS).map(([id, { label }]) => ({ id, label })),
).map((field) => ({ ...field, optional: true, shownWhen: { field: 'by', is: 'bands' } }));

export function millilitresField(id: string, label: string): NumberField {
  return {
    kind: 'number',
    id,
    spec: ({ opened: { type } }) => ({
      label,
      unit: 'mL',
      decimals: 0,
      possible: { min: 0, max: 20_000 },
      plausible: { min: 0, max: Math.ceil(type.capacityAh * type.cells * 0.8) },
    }),
  };
}

/** One choice for every cell, on the drawing of the battery; each is asked for. */
export function cellChoices(
  id: string,
  label: string,
  options: readonly ChoiceOption[],
): readonly ChoiceField[] {
  return Array.from({ length: MOST_CELLS }, (_, index) => ({
    kind: 'choice',
    id: `${id}${index + 1}`,
    label: `${label}, cell ${index + 1}`,
    options,
    inCell: index + 1,
  }));
}

/** Readings by dip probes, one more than cells, the first from the positive post into cell 1 (handbook 3.2). */
export const dipFields: readonly NumberField[] = Array.from({ length: MOST_CELLS + 1 }, (_, index) => ({
  kind: 'number',
  id: `dip${index + 1}`,
  isFor: ({ cells }) => index <= cells,
  spec: ({ opened: { type } }) => ({
    label:
      index === 0
        ? 'Positive post to cell 1'
        : index === type.cells
          ? `Cell ${type.cells} to negative post`
          : `Cell ${index} to cell ${index + 1}`,
    unit: 'V',
    decimals: 2,
    possible: { min: -3, max: 5 },
    plausible: index === 0 || index === type.cells ? { min: 0.2, max: 2 } : { min: 1.6, max: 2.3 },
  }),
}));

/** Water that went in: cell by cell on the drawing, or all of it in one figure. */
export function waterFields(shownWhen?: NumberField['shownWhen']): NumberField[] {
  const ask = (field: NumberField): NumberField => ({
    ...field,
    optional: true,
    ...(shownWhen ? { shownWhen } : {}),
  });
  const cells = Array.from({ length: MOST_CELLS }, (_, index) =>
    ask({ ...millilitresField(`ml${index + 1}`, `Distilled water, cell ${index + 1}`), inCell: index + 1 }),
  );
  return [...cells, ask(millilitresField('ml', 'Distilled water, all cells'))];
}

const WATERING: readonly string[] = [STEP.water, STEP.waterBefore, STEP.waterCover, STEP.waterDose];

/** Whether a step puts water in: by either trade, before a charge or to the line after it. */
export const isWatering = (stepId: string): boolean =>
  WATERING.includes(stepId) || stepId.endsWith('-to-line');

/** Water a step put in, mL: what was said of the cells, or else of all of them; acid and tap water are none. */
export function waterMl(values: StepValues | undefined): number {
  if (!values || values['added'] === 'acid' || values['added'] === 'tap') return 0;
  const { cells, all } = waterGiven(values);
  return cells > 0 ? cells : all;
}

function waterGiven(values: StepValues): { cells: number; all: number } {
  const of = (id: string): number => (typeof values[id] === 'number' ? values[id] : 0);
  const cells = Array.from({ length: MOST_CELLS }, (_, index) => of(`ml${index + 1}`));
  return { cells: cells.reduce((sum, ml) => sum + ml, 0), all: of('ml') };
}

/** Rounding of a measuring cylinder, mL a cell. */
const CYLINDER_ML = 5;

/** Why an entry of water wants another look: nothing given, or cells that do not add up to all of it. */
export function waterDoubt(values: StepValues): Hold | undefined {
  const { cells, all } = waterGiven(values);
  if (cells === 0 && all === 0)
    return {
      why: 'How much went in? Enter it cell by cell or for all cells; or record why it is not known.',
      canOverride: true,
    };
  return cells > 0 && all > 0 && Math.abs(cells - all) > CYLINDER_ML * MOST_CELLS
    ? {
        why: `The cells add up to ${cells} mL, all of them are said to have taken ${all} mL: one is wrong.`,
        canOverride: true,
      }
    : undefined;
}

/** Mass of the battery, g; what it should weigh is known from plates, case and pack. */
export function massField(id: string, label: string, withAcid: boolean): NumberField {
  return {
    kind: 'number',
    id,
    quantity: 'mass',
    spec: ({ opened: { type } }) => {
      const acidG = withAcid && type.pack ? packMassG(type.pack) : 0;
      const expectedG = (type.dryMassG ?? type.capacityAh * 320) + acidG;
      return {
        label,
        unit: 'g',
        decimals: 0,
        possible: { min: 50, max: 60_000 },
        plausible: { min: Math.round(expectedG * 0.8), max: Math.round(expectedG * 1.2) },
      };
    },
  };
}

type ChargeSpecs = Record<'voltageV' | 'currentA' | 'tempC', ReadingSpec>;

/** A charge is read hundreds of times with the same ranges. */
const knownSpecs = new WeakMap<BatteryType, Map<number, ChargeSpecs>>();

/** The same of a battery brought back: it may stand at a few volts, and leap to its ceiling. */
export function wakingSpecs(type: BatteryType, maxA: number): ChargeSpecs {
  return { ...chargeSpecs(type, maxA), voltageV: voltageSpec('Charge voltage', [2, 16.2], type) };
}

/** What the charger shows, of a charge set to `maxA`. */
export function chargeSpecs(type: BatteryType, maxA: number): ChargeSpecs {
  const ofType = knownSpecs.get(type) ?? new Map<number, ChargeSpecs>();
  const known = ofType.get(maxA);
  if (known) return known;
  const specs: ChargeSpecs = {
    voltageV: voltageSpec('Charge voltage', [10.5, 15.5], type),
    currentA: {
      label: 'Charge current',
      unit: 'A',
      decimals: 2,
      possible: { min: 0, max: 100 },
      plausible: { min: 0, max: Number((maxA * 1.1).toFixed(2)) },
    },
    tempC: TEMPERATURE_SPEC,
  };
  knownSpecs.set(type, ofType.set(maxA, specs));
  return specs;
}

interface PrintedAsk {
  readonly id: keyof PrintedValues;
  readonly label: string;
  readonly unit: ReadingSpec['unit'];
  readonly decimals: number;
  /** Possible and plausible range for this type. */
  readonly ranges: (type: BatteryType) => readonly [min: number, low: number, high: number, max: number];
}

const PRINTED_ASKS: readonly PrintedAsk[] = [
  {
    id: 'chargeCurrentA',
    label: 'Charge current on the label',
    unit: 'A',
    decimals: 2,
    ranges: ({ capacityAh: c }) => [0.01, c / 20, c / 5, c / 2],
  },
  {
    id: 'quickCurrentA',
    label: 'Quick charge on the label, attended',
    unit: 'A',
    decimals: 2,
    ranges: ({ capacityAh: c }) => [0.01, c / 10, c, c * 2],
  },
  {
    id: 'chargeTimeH',
    label: 'Charge time on the label',
    unit: 'h',
    decimals: 1,
    ranges: () => [0.5, 2, 12, 24],
  },
  {
    id: 'ceilingV',
    label: 'Charge voltage on the label',
    unit: 'V',
    decimals: 1,
    ranges: (type) => {
      const possible = ceilingRange(type);
      const usual = usualCeilings(type);
      return [possible.min, usual.min, usual.max, possible.max];
    },
  },
  {
    id: 'postTorqueNm',
    label: 'Post torque on the label',
    unit: 'N·m',
    decimals: 1,
    ranges: () => [0.5, 1, 15, 30],
  },
];

/** The label values a technician may enter where they differ from the catalogue; all may stay empty. */
export const printedFields: readonly NumberField[] = PRINTED_ASKS.map((ask) => ({
  kind: 'number',
  id: ask.id,
  optional: true,
  spec: ({ opened }) => {
    const [min, low, high, max] = ask.ranges(opened.type);
    return {
      label: ask.label,
      unit: ask.unit,
      decimals: ask.decimals,
      possible: { min, max },
      plausible: { min: low, max: high },
    };
  },
}));
