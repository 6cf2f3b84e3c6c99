/** Rest, rested voltage, load or tester, verdict (handbook 2.3, steps 14 and 15). */
import { CONSTRUCTION } from '../../../battery/construction.ts';
import { loadTestFor } from '../../../battery/loadTest.ts';
import { judgeCommissioning } from '../../verdict/commissioningVerdict.ts';
import { temperatureField, voltageField } from '../../definition/fields.ts';
import {
  LOADED_FIRST,
  loadScaleField,
  loadVoltageField,
  testerFields,
} from '../../definition/testerFields.ts';
import type { Step } from '../../definition/step.ts';
import { numberOf } from '../../../units/values.ts';

export const testing: readonly Step[] = [
  {
    kind: 'dwell',
    id: 'rest',
    title: 'Let it rest',
    detail: () => 'Fresh off charge the meter reads surface charge: 13.1 V says nothing yet.',
    minimum: 'restMin',
    clockStart: () => 'disconnect',
    canOverride: false,
    handsMin: 0,
    overdueAfterMin: 240,
    cautions: [],
    shows: ['restMin'],
  },
  {
    kind: 'measure',
    id: 'test-ocv',
    title: 'Read the rested voltage',
    detail: ({ threshold }) =>
      `Before any load. ${threshold('passOcvV').value.toFixed(2)} V is the floor, beside proof of full.`,
    fields: [
      voltageField({ id: 'ocvV', label: 'Open-circuit voltage', plausible: [11, 13.4], quantity: 'voltage' }),
      temperatureField,
    ],
    holds: () => undefined,
    denials: [],
    handsMin: 1,
    overdueAfterMin: 240,
    cautions: [],
    shows: ['passOcvV', 'fullRestV'],
  },
  {
    kind: 'measure',
    id: 'test-load',
    title: 'Load it, or use the tester',
    detail: ({ opened: { type, rules }, valuesOf }) => {
      const tempC = valuesOf('test-ocv')['tempC'];
      const test = loadTestFor(type, rules.loadTest, numberOf(tempC) ?? 25);
      const tester = type.cranking
        ? `set to ${CONSTRUCTION[type.construction].programme} and to the rating on the label; photograph what it prints`
        : 'the label prints no rating to hold it against, so it is recorded and the load decides';
      return `Load: ${test.currentA.toFixed(0)} A for ${test.seconds} s, holding ${test.floorV.toFixed(2)} V or more (${test.basis}). Tester: ${tester}.`;
    },
    fields: [
      {
        kind: 'choice',
        id: 'method',
        label: 'Tested with',
        usual: LOADED_FIRST,
        options: [
          { id: 'load', label: 'Load tester' },
          { id: 'tester', label: 'Conductance tester' },
          { id: 'scale', label: 'Load tester, colours only' },
        ],
      },
      loadVoltageField,
      loadScaleField,
      ...testerFields({ field: 'method', is: 'tester' }),
    ],
    holds: () => undefined,
    denials: [],
    handsMin: 2,
    overdueAfterMin: 240,
    cautions: ['sparkAtTest'],
    shows: ['testerPassPct'],
  },
  {
    kind: 'decide',
    id: 'verdict',
    title: 'Pass, charge again, or reject',
    detail: () => 'All three must hold. A floor voltage alone is not full.',
    judge: judgeCommissioning,
    handsMin: 1,
    overdueAfterMin: 240,
    cautions: [],
    shows: ['passOcvV'],
  },
];
