/** What testers of cranking show: a figure under its standard, a range, a load's voltage, or three colours. */
import type { ReadingSpec } from '../../units/reading.ts';
import { LOAD_COLOURS } from '../../battery/loadTest.ts';
import type { Giving } from '../../observation/handInstruments.ts';
import type { BatteryType } from '../../battery/types.ts';
import { voltageField } from './fields.ts';
import type { ChoiceField, NumberField } from './step.ts';

/** Cranking current as a tester shows it, under the standard its rating is printed in. */
export function testerSpec(type: BatteryType): ReadingSpec {
  return {
    label: `Cranking current on the tester${type.cranking ? ` (${type.cranking.standard}${type.cranking.isEquivalent ? ', as the type it is like' : ''})` : ''}`,
    unit: 'A',
    decimals: 0,
    possible: { min: 0, max: 3000 },
    plausible: { min: 0, max: Math.ceil((type.cranking?.amps ?? type.capacityAh * 15) * 1.2) },
  };
}

/** A load tester that shows no volts: where its needle stood, or its lamp. */
export const loadScaleField: ChoiceField = {
  kind: 'choice',
  id: 'scale',
  label: 'Where the needle stood at the end',
  shownWhen: { field: 'method', is: 'scale' },
  options: Object.entries(LOAD_COLOURS).map(([id, label]) => ({ id, label })),
};

/** What a scale of three colours says: passed, failed, or neither. */
export const passedByScale = (scale: unknown): boolean | undefined =>
  scale === 'green' ? true : scale === 'red' ? false : undefined;

const BY_LOAD: Giving = { instrument: 'loadTester', gives: { volts: 'load', colours: 'scale' } };
const BY_TESTER: Giving = { instrument: 'tester', gives: { figure: 'tester', slip: 'tester' } };
/** What a battery is tested with where both are at hand. */
export const LOADED_FIRST: readonly Giving[] = [BY_LOAD, BY_TESTER];
export const TESTED_FIRST: readonly Giving[] = [BY_TESTER, BY_LOAD];

const PRINTED_ON_SLIP = { instrument: 'tester', kinds: ['slip'] } as const;

/** The upper end of what a slip prints as a range; the lower one is the figure that counts. */
const upToField = (shownWhen: NumberField['shownWhen']): NumberField => ({
  kind: 'number',
  id: 'testerToA',
  optional: true,
  shownBy: PRINTED_ON_SLIP,
  ...(shownWhen ? { shownWhen } : {}),
  spec: ({ opened: { type } }) => ({ ...testerSpec(type), label: 'up to, where it prints a range' }),
});

/** What a tester prints besides its current: its guess of the charge and of the health, kept as it says them. */
function printoutFields(shownWhen?: NumberField['shownWhen']): readonly NumberField[] {
  return (
    [
      ['printedCharge', 'State of charge, as it prints it'],
      ['printedHealth', 'State of health, as it prints it'],
    ] as const
  ).map(([id, label]) => ({
    kind: 'number',
    id,
    optional: true,
    shownBy: PRINTED_ON_SLIP,
    ...(shownWhen ? { shownWhen } : {}),
    spec: () => ({
      label,
      unit: '%',
      decimals: 0,
      possible: { min: 0, max: 100 },
      plausible: { min: 0, max: 100 },
    }),
  }));
}

/** Of a load test, where the method chosen is a load. */
export const loadVoltageField: NumberField = {
  ...voltageField({
    id: 'loadV',
    label: 'Lowest voltage under load',
    plausible: [6, 12.4],
    quantity: 'loadVoltage',
  }),
  shownWhen: { field: 'method', is: 'load' },
};

/** What a conductance tester shows, under the standard of the label, and what it prints besides. */
export const testerFields = (shownWhen?: NumberField['shownWhen']): readonly NumberField[] => [
  {
    kind: 'number',
    id: 'testerA',
    quantity: 'cranking',
    ...(shownWhen === undefined ? {} : { shownWhen }),
    spec: ({ opened: { type } }) => testerSpec(type),
  },
  upToField(shownWhen),
  ...printoutFields(shownWhen),
];
