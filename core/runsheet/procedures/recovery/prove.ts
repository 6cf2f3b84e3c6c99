/** Proving what came back: rest, capacity, load, hold, grade (handbook 3.6). */
import { loadTestFor } from '../../../battery/loadTest.ts';
import { capacityShareOf, gradeOf, held, type Graded, type Proof } from '../../grade.ts';
import { temperatureField, testerSpec, voltageField } from '../../fields.ts';
import type { DwellStep, Judgement, MeasureStep, Route, StepContext } from '../../step.ts';
import { shelfWords } from '../shared/shelf.ts';
import { onSix } from './triage.ts';

const numberOf = (value: unknown): number | undefined => (typeof value === 'number' ? value : undefined);

/** What was measured in this proof, as shares of the rating. */
export function proofOf(context: StepContext): Proof {
  const { type, rules } = context.opened;
  const { round } = context;
  const rested = context.valuesIn('prove-ocv', round);
  const tempC = numberOf(rested['tempC']);
  const load = context.valuesIn('prove-load', round);
  const testerA = numberOf(load['testerA']);
  const loadV = numberOf(load['loadV']);
  const floorV = loadTestFor(type, rules.loadTest, tempC ?? 25).floorV;
  const capacityShare = capacityShareOf(context.valuesIn('prove-capacity', round), type, tempC);
  const ocvV = numberOf(rested['ocvV']);
  const heldDay = held(ocvV, numberOf(context.valuesIn('hold-read', round)['ocvV']), 'day', type.cells);
  const heldWeek = held(ocvV, numberOf(context.valuesIn('week-read', round)['ocvV']), 'week', type.cells);
  // A load test that holds its floor says at least 80 % where the tester's figure is missing; less says how much less.
  const byLoad =
    loadV === undefined
      ? undefined
      : loadV >= floorV
        ? 0.8
        : Math.max(0, 0.8 - (floorV - loadV) / onSix(3, type));
  const crankingShare = testerA !== undefined && type.cranking ? testerA / type.cranking.amps : byLoad;
  return {
    ...(capacityShare === undefined ? {} : { capacityShare }),
    ...(crankingShare === undefined ? {} : { crankingShare }),
    ...(heldDay === undefined ? {} : { heldDay }),
    ...(heldWeek === undefined ? {} : { heldWeek }),
    hasCollapsed: loadV !== undefined && loadV < onSix(4, type),
  };
}

export const gradedFrom = (context: StepContext): Graded => gradeOf(proofOf(context));

const share = (value: number): string => `${(value * 100).toFixed(0)} %`;

function judge(context: StepContext): Judgement {
  const proof = proofOf(context);
  const { grade, because, use } = gradedFrom(context);
  const line = (name: string, value: number | undefined): { isMet: boolean; sentence: string } =>
    value === undefined
      ? { isMet: false, sentence: `${name} was not measured; it is not assumed.` }
      : { isMet: value >= 0.4, sentence: `${name}: ${share(value)} of the rating.` };
  const holdLine =
    proof.heldDay === undefined
      ? { isMet: false, sentence: 'The hold was not tested.' }
      : {
          isMet: proof.heldDay && proof.heldWeek !== false,
          sentence:
            proof.heldDay && proof.heldWeek !== false ? 'It held.' : 'It did not hold: an internal leak.',
        };
  return {
    verdict: grade === 'R' ? 'reject' : 'pass',
    reasons: [
      line('Capacity', proof.capacityShare),
      line('Cranking', proof.crankingShare),
      holdLine,
      { isMet: grade !== 'R', sentence: `Grade ${grade}: ${because} For ${use}.` },
    ],
  };
}

const ocvAfter = (id: string, title: string, detail: string): MeasureStep => ({
  kind: 'measure',
  id,
  title,
  detail: () => detail,
  fields: [
    voltageField({ id: 'ocvV', label: 'Open-circuit voltage', plausible: [11, 13.2], quantity: 'voltage' }),
  ],
  holds: () => undefined,
  denials: [],
  handsMin: 1,
  overdueAfterMin: 24 * 60,
  cautions: [],
});

const wait = (id: string, title: string, minimum: DwellStep['minimum'], after: string): DwellStep => ({
  kind: 'dwell',
  id,
  title,
  detail: ({ opened: { rules } }) =>
    rules.holdTest === 'fittedWeek' && id === 'week-hold'
      ? 'House rule: fitted for the week. Read the draw of the vehicle too, or a leak hides behind it.'
      : 'Disconnected, nothing on the posts.',
  minimum,
  clockStart: () => after,
  canOverride: true,
  handsMin: 0,
  overdueAfterMin: 24 * 60,
  cautions: [],
  shows: [minimum],
});

export const PROVE: Route = {
  id: 'prove',
  title: 'Prove and grade it',
  isFor: 'Charged, or as far as it goes.',
  stop: 'The lower of capacity and cranking grades it; what is not measured is not assumed.',
  veto: () => undefined,
  steps: [
    {
      kind: 'act',
      id: 'prove-off',
      title: 'Disconnect it',
      detail: () => 'Charger off, clips off. It rests with nothing on its posts.',
      doneLabel: 'Disconnected',
      handsMin: 1,
      overdueAfterMin: 60,
      cautions: ['chargerOffFirst'],
    },
    wait('prove-rest', 'Rest before grading', 'gradeRestMin', 'prove-off'),
    {
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
    },
    {
      kind: 'measure',
      id: 'prove-capacity',
      title: 'Measure capacity',
      detail: ({ opened: { type } }) =>
        `25 A to ${onSix(10.5, type).toFixed(2)} V, minutes counted; or C/20 = ${(type.capacityAh / 20).toFixed(2)} A. The only true capacity figure; without it B is the most.`,
      fields: [
        {
          kind: 'choice',
          id: 'method',
          label: 'How',
          options: [
            { id: 'reserve', label: '25 A, minutes' },
            { id: 'slow', label: 'C/20, ampere-hours' },
          ],
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
          shownWhen: { field: 'method', is: 'slow' },
          spec: ({ opened: { type } }) => ({
            label: 'Drawn at C/20',
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
    },
    {
      kind: 'measure',
      id: 'prove-load',
      title: 'Load it, or use the tester',
      detail: ({ opened: { type, rules }, valuesOf }) => {
        const test = loadTestFor(type, rules.loadTest, numberOf(valuesOf('prove-ocv')['tempC']) ?? 25);
        return `Charged again after a capacity test. ${test.currentA.toFixed(0)} A for ${test.seconds} s holding ${test.floorV.toFixed(2)} V (${test.basis}); or the tester, set to the rating.`;
      },
      fields: [
        {
          kind: 'choice',
          id: 'method',
          label: 'Tested with',
          options: [
            { id: 'tester', label: 'Conductance tester' },
            { id: 'load', label: 'Load tester' },
          ],
        },
        {
          kind: 'number',
          id: 'testerA',
          quantity: 'cranking',
          shownWhen: { field: 'method', is: 'tester' },
          spec: ({ opened: { type } }) => testerSpec(type),
        },
        {
          ...voltageField({
            id: 'loadV',
            label: 'Lowest voltage under load',
            plausible: [6, 12.4],
            quantity: 'loadVoltage',
          }),
          shownWhen: { field: 'method', is: 'load' },
        },
      ],
      holds: () => undefined,
      denials: [],
      handsMin: 3,
      overdueAfterMin: 240,
      cautions: ['sparkAtTest'],
    },
    wait('hold', 'Hold, a day', 'holdDayMin', 'prove-ocv'),
    ocvAfter(
      'hold-read',
      'Read it after a day',
      'Nothing was connected since. Loss beyond self-discharge is a leak.',
    ),
    wait('week-hold', 'Hold, the rest of the week', 'holdWeekMin', 'hold-read'),
    {
      ...ocvAfter('week-read', 'Read it after a week', 'The last word on the hold: grade A hangs on it.'),
      skipLabel: 'Not held for a week',
    },
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
  ],
};
