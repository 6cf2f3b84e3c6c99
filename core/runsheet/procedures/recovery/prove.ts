/** Proving what came back: rest, capacity, load, hold, grade (handbook 3.6). */
import { loadTestFor } from '../../../battery/loadTest.ts';
import { onSix, type BatteryType } from '../../../battery/types.ts';
import { CAPACITY_METHODS, capacityMethods } from '../../../grading/grade.ts';
import { fullVerdict } from '../../verdict/commissioningVerdict.ts';
import { temperatureField, voltageField } from '../../definition/fields.ts';
import {
  TESTED_FIRST,
  loadScaleField,
  loadVoltageField,
  testerFields,
} from '../../definition/testerFields.ts';
import type { DwellStep, NumberField, Route, Step } from '../../definition/step.ts';
import { handedOver } from '../shared/handOver.ts';
import { heldADay, ocvAfter, wait } from '../shared/holding.ts';
import { shelfWords } from '../shared/shelf.ts';
import { isOfEdition } from '../../entries/edition.ts';
import { numberOf } from '../../../units/values.ts';
import { gradedFrom, judge } from '../../verdict/proof.ts';
import { hard } from './shared.ts';
import { isDrawnDown } from '../../definition/restedSteps.ts';
import { STEP } from '../../definition/stepIds.ts';
import { off, slowCharge, treat } from './treatments.ts';

const isRated = ({ cranking }: BatteryType): boolean => cranking !== undefined;

const milliohmField = (id: string, label: string, optional: boolean): NumberField => ({
  kind: 'number',
  id,
  optional,
  shownWhen: { field: 'method', is: 'ohm' },
  spec: ({ opened: { type } }) => ({
    label,
    unit: 'mΩ',
    decimals: 1,
    possible: { min: 0.1, max: 1000 },
    plausible: {
      min: onSix(100 / type.capacityAh, type),
      max: onSix(2000 / type.capacityAh, type),
    },
  }),
});

const disconnect: Step = {
  kind: 'act',
  id: 'prove-off',
  title: 'Disconnect it',
  detail: () => 'Charger off, clips off. It rests with nothing on its posts.',
  doneLabel: 'Disconnected',
  partsIt: true,
  handsMin: 1,
  overdueAfterMin: 60,
  cautions: ['chargerOffFirst'],
};

const rest = wait('prove-rest', 'Rest before grading', 'gradeRestMin', () => 'prove-off');

const readRested: Step = {
  kind: 'measure',
  id: 'prove-ocv',
  title: 'Read the rested voltage',
  detail: ({ threshold }) =>
    `Before any load. Full is ${threshold('fullRestV').value.toFixed(2)} V; a little less with sound cells is sulfate left.`,
  fields: [
    voltageField({
      id: 'ocvV',
      label: 'Open-circuit voltage',
      plausible: [11, 13.2],
      quantity: 'voltage',
    }),
    temperatureField,
  ],
  holds: ({ ocvV }, { opened: { type } }) =>
    typeof ocvV === 'number' && ocvV < onSix(10.9, type)
      ? {
          why: `${ocvV.toFixed(2)} V rested after a charge: the plateau of a dead cell. Leave this route and retire it.`,
          canOverride: false,
        }
      : undefined,
  denials: [],
  handsMin: 1,
  overdueAfterMin: 240,
  cautions: [],
  shows: ['fullRestV'],
};

const measureCapacity: Step = {
  kind: 'measure',
  id: 'prove-capacity',
  title: 'Measure capacity',
  detail: ({ opened: { type } }) =>
    `${capacityMethods(type).includes('reserve') ? '25 A, minutes counted, or ' : ''}C/20 = ${(type.capacityAh / 20).toFixed(2)} A or C/10 = ${(type.capacityAh / 10).toFixed(2)} A, down to ${onSix(10.5, type).toFixed(2)} V. The only true capacity figure; without it B is the most. It is charged again afterwards.`,
  fields: [
    {
      kind: 'choice',
      id: 'method',
      label: 'How',
      options: Object.entries(CAPACITY_METHODS).map(([id, label]) => ({
        id,
        label,
        isFor: (type: BatteryType) => (capacityMethods(type) as readonly string[]).includes(id),
      })),
    },
    {
      kind: 'number',
      id: 'reserveMin',
      shownWhen: { field: 'method', is: 'reserve' },
      spec: ({ opened: { type } }) => ({
        label: 'Minutes at 25 A',
        unit: 'min',
        decimals: 0,
        possible: { min: 0, max: 1500 },
        plausible: { min: 1, max: Math.ceil(type.capacityAh * 2.2) },
      }),
    },
    {
      kind: 'number',
      id: 'drawnAh',
      shownWhen: { field: 'method', is: ['slow', 'tenth'] },
      spec: ({ opened: { type } }) => ({
        label: 'Drawn',
        unit: 'Ah',
        decimals: 1,
        possible: { min: 0, max: 500 },
        plausible: { min: 0, max: Math.ceil(type.capacityAh * 1.15) },
      }),
    },
  ],
  holds: () => undefined,
  denials: [],
  skipLabel: 'Not measured',
  handsMin: 6,
  overdueAfterMin: 24 * 60,
  cautions: ['deepDischarge', 'sparkAtTest'],
};

const testCranking: Step = {
  kind: 'measure',
  id: 'prove-load',
  title: 'Load it, or use the tester',
  detail: ({ opened: { type, rules }, valuesOf }) => {
    if (!type.cranking)
      return 'It has no cranking rating: no load is put on it. A resistance tester, if there is one, against its own baseline.';
    const test = loadTestFor(type, rules.loadTest, numberOf(valuesOf('prove-ocv')['tempC']) ?? 25);
    return `The tester, set to the rating: it gives a figure; photograph what it prints. Or a load, which is passed or failed: ${test.currentA.toFixed(0)} A for ${test.seconds} s holding ${test.floorV.toFixed(2)} V (${test.basis}).`;
  },
  fields: [
    {
      kind: 'choice',
      id: 'method',
      label: 'Tested with',
      // The tester gives a figure, a load only passes or fails: it is for a shop without one.
      usual: TESTED_FIRST,
      options: [
        { id: 'tester', label: 'Conductance tester', isFor: isRated },
        { id: 'load', label: 'Load tester', isFor: isRated },
        { id: 'scale', label: 'Load tester, colours only', isFor: isRated },
        { id: 'silent', label: 'A tester that does not register it', isFor: isRated },
        { id: 'ohm', label: 'Resistance tester', isFor: (type: BatteryType) => !isRated(type) },
      ],
    },
    ...testerFields({ field: 'method', is: 'tester' }),
    loadVoltageField,
    loadScaleField,
    milliohmField('milliohm', 'Resistance', false),
    milliohmField('baselineMilliohm', 'Its own when new or first full, from its record', true),
  ],
  holds: () => undefined,
  denials: [],
  skipLabel: 'Not measured',
  handsMin: 3,
  overdueAfterMin: 240,
  cautions: ['sparkAtTest'],
};

/** After a capacity test it is empty: charged to proven full and rested, before anything is said of its hold. */
const rechargedAndRested: readonly Step[] = [
  { ...treat('prove-charge', 'Charge it again', 120, slowCharge), needs: 'prove-capacity' },
  ...off('prove', 'prove-charge').map((step) => ({ ...step, needs: 'prove-capacity' })),
  {
    ...wait('prove-rest-again', 'Rest before the hold', 'gradeRestMin', () => 'prove-clips'),
    needs: 'prove-capacity',
  },
  {
    ...ocvAfter(
      'hold-ocv',
      'Read it where the hold begins',
      'Charged again and rested: the hold is counted from here.',
    ),
    needs: 'prove-capacity',
  },
];

const holdFrom: DwellStep['clockStart'] = (context) =>
  context.doneAt('hold-ocv') === undefined ? 'prove-ocv' : 'hold-ocv';

const drawField: NumberField = {
  kind: 'number',
  id: 'drawMa',
  optional: true,
  spec: () => ({
    label: 'What the vehicle draws when parked',
    unit: 'mA',
    decimals: 0,
    possible: { min: 0, max: 5000 },
    plausible: { min: 5, max: 100 },
  }),
};

const holding: readonly Step[] = [
  ...heldADay(holdFrom),
  wait(STEP.weekHold, 'Hold, the rest of the week', 'holdWeekMin', () => 'hold-read'),
  {
    ...ocvAfter('week-read', 'Read it after a week', 'The last word on the hold: grade A hangs on it.'),
    fields: [
      voltageField({ id: 'ocvV', label: 'Open-circuit voltage', plausible: [11, 13.2], quantity: 'voltage' }),
      { ...temperatureField, optional: true },
      drawField,
    ],
    skipLabel: 'Not held for a week',
  },
];

/** Posts, hose and vehicle as for a new one; a flooded one has its vent looked after. */
const handedBack: readonly Step[] = handedOver(false).map((step): Step => ({
  ...step,
  editions: { from: 4 },
  ...(step.kind === 'gate' && step.id === 'fit'
    ? { claims: [...step.claims, 'Vent hose, where it has one: on, not kinked, only one vent plugged'] }
    : {}),
  ...(step.kind === 'gate' && step.id === 'hand-over'
    ? {
        claims: [
          'Posts bright, terminal grease with it',
          'Wiped down',
          'Owner’s sheet with it: date, charge, what it is for, next check, how to recycle',
        ],
      }
    : {}),
}));

const gradingAndAfter: readonly Step[] = [
  {
    kind: 'decide',
    id: 'grade',
    title: 'Grade it, try another way, or retire it',
    detail: () => 'The lower of capacity and cranking. Your name stands under the grade.',
    judge,
    handsMin: 2,
    overdueAfterMin: 480,
    cautions: ['usedBattery'],
  },
  {
    kind: 'gate',
    id: 'tell-customer',
    title: 'Handed on as used',
    detail: (context) =>
      `Grade ${gradedFrom(context).grade}: for ${gradedFrom(context).use}. ${shelfWords(context)}`,
    claims: ['Marked as used, with grade and date', 'Whoever gets it is told, and told what it is for'],
    affirmLabel: 'Marked and told',
    denials: [],
    when: { rule: 'recoveredTo', isOneOf: ['asUsedTold'] },
    handsMin: 2,
    overdueAfterMin: 480,
    cautions: ['usedBattery'],
  },
  {
    kind: 'gate',
    id: 'keep-it',
    title: 'It stays in the house',
    detail: (context) =>
      `By this house’s rule recovered batteries are for the shop alone. Grade ${gradedFrom(context).grade}: for ${gradedFrom(context).use}. ${shelfWords(context)}`,
    claims: ['Marked with grade and date', 'On the shop’s own shelf, not among stock'],
    affirmLabel: 'Marked and shelved',
    denials: [],
    when: { rule: 'recoveredTo', isOneOf: ['shopOnly'] },
    handsMin: 2,
    overdueAfterMin: 480,
    cautions: ['usedBattery'],
  },
  ...handedBack,
  {
    kind: 'act',
    id: 'sign-recovered',
    title: 'Sign the recovery certificate',
    detail: (context) =>
      `Grade ${gradedFrom(context).grade}, as used. It says what was measured and what was not.`,
    doneLabel: 'Sign it',
    ends: 'recovered',
    handsMin: 1,
    overdueAfterMin: 480,
    cautions: [],
  },
];

export const PROVE: Route = {
  id: 'prove',
  title: 'Prove and grade it',
  isFor: 'Charged and proven full, or as far as it goes.',
  stop: 'The lower of capacity and cranking grades it; what is not measured is not assumed.',
  veto: (context) => {
    if (isOfEdition(context.opened, 4) && isDrawnDown(context))
      return hard('It was discharged and not charged since: charge it first.');
    const evidence = context.lastCharge();
    const verdict = evidence && fullVerdict(context, evidence);
    return verdict?.isMet
      ? undefined
      : {
          why: `${verdict?.sentence ?? 'It was not charged here.'} Charge it to proven full first, or say why it is measured as it is.`,
          canOverride: true,
        };
  },
  steps: [
    disconnect,
    rest,
    readRested,
    testCranking,
    measureCapacity,
    ...rechargedAndRested,
    ...holding,
    ...gradingAndAfter,
  ],
};

/** As logs of the first edition have it. */
export const PROVE_FIRST_EDITION: Route = {
  ...PROVE,
  veto: () => undefined,
  steps: [disconnect, rest, readRested, measureCapacity, testCranking, ...holding, ...gradingAndAfter],
};
