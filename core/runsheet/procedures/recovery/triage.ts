/** Finding out before anything is touched (handbook 3.1 and 3.2): sound case, clean posts, first readings. */
import { inSentence } from '../../../units/inSentence.ts';
import { CONSTRUCTION } from '../../../battery/construction.ts';
import { onSix, type BatteryType } from '../../../battery/types.ts';
import { COMPLAINT_WORDS, COMPLAINTS } from '../../../candidate/causes.ts';
import type { CautionId } from '../../../rules/cautions.ts';
import { temperatureField, voltageField, voltageSpec } from '../../definition/fields.ts';
import { testerFields } from '../../definition/testerFields.ts';
import type { ChoiceField, Denial, NumberField, Step, StepContext } from '../../definition/step.ts';
import { checkedIn } from '../shared/checkIn.ts';

const toRecycler = (id: string, label: string, say: string): Denial => ({
  id,
  label,
  say: `${say} Straight to recycling; it is never charged.`,
  leads: 'end',
  outcome: 'retired',
});

const REJECT_AT_SIGHT: readonly Denial[] = [
  toRecycler('cracked', 'Cracked, split or bulged', 'Case cracked, split, dented through or bulged.'),
  toRecycler('post-melted', 'A post is loose or melted', 'Post loose or melted.'),
  toRecycler('leaking', 'It leaks', 'Leaking.'),
  toRecycler('burnt', 'It smells burnt', 'Burnt smell.'),
  toRecycler('rattles', 'It rattles inside', 'Internal rattle.'),
  toRecycler('brittle', 'The case has gone brittle', 'Case brittle from sun or frost.'),
  {
    id: 'frozen',
    label: 'It is frozen',
    say: 'Never charge it frozen. Warm it right through, then inspect it again.',
    leads: 'hold',
  },
  {
    id: 'rotten-egg',
    label: 'It smells of rotten eggs',
    say: 'Ventilate and stop: look for an overcharged or bad cell before anything is connected.',
    leads: 'hold',
  },
];

const complaint: ChoiceField = {
  kind: 'choice',
  id: 'complaint',
  label: 'What was said of it',
  options: COMPLAINTS.map((id) => ({ id, label: COMPLAINT_WORDS[id] })),
};

const monthsFlat: NumberField = {
  kind: 'number',
  id: 'flatMonths',
  optional: true,
  spec: () => ({
    label: 'How long it stood flat',
    unit: 'months',
    decimals: 1,
    possible: { min: 0, max: 240 },
    plausible: { min: 0, max: 36 },
  }),
};

/** Read before it came out of its vehicle, where somebody did. */
const inVehicle: readonly NumberField[] = [
  {
    ...voltageField({
      id: 'vehicleV',
      label: 'Rested voltage in the vehicle, before it came out',
      plausible: [2, 13.2],
      quantity: 'voltage',
    }),
    optional: true,
  },
  {
    ...voltageField({
      id: 'vehicleCrankV',
      label: 'Lowest voltage while it cranked',
      plausible: [2, 12.4],
      quantity: 'voltage',
    }),
    optional: true,
  },
];

const rested: ChoiceField = {
  kind: 'choice',
  id: 'rested',
  label: 'Rested',
  options: [
    { id: 'yes', label: '4 h or more off charge and load' },
    { id: 'no', label: 'Less: surface charge may show' },
  ],
};

/** A reversed battery shows less than nothing: the one voltage that may be negative. */
const firstVoltage: NumberField = {
  kind: 'number',
  id: 'ocvV',
  quantity: 'voltage',
  spec: ({ opened: { type } }) => {
    const spec = voltageSpec('Open-circuit voltage', [0, 13.2], type);
    return { ...spec, possible: { min: -spec.possible.max, max: spec.possible.max } };
  },
};

const retireIt: Denial = {
  id: 'retire',
  label: 'To the recycler',
  say: 'Not worth going on with: to the recycler.',
  leads: 'end',
  outcome: 'retired',
};

/** What the house says of a battery found below 10.5 V. */
function houseSaysNo(ocvV: number, { opened: { type, rules } }: StepContext): string | undefined {
  const deep = onSix(10.5, type);
  if (ocvV >= deep) return undefined;
  if (rules.recoverBelow === 'strict')
    return `${ocvV.toFixed(2)} V is below ${deep.toFixed(2)} V: by this house’s rule not worth trying.`;
  if (rules.recoverBelow === 'hopeful' && type.construction === 'flooded' && ocvV < onSix(10, type))
    return `${ocvV.toFixed(2)} V on a flooded battery: this house tries deep ones only where they are sealed.`;
  return undefined;
}

/** What each of the three views would have said of this voltage (handbook 3.3). */
export function threeViews(ocvV: number, type: BatteryType): readonly string[] {
  const { isValveRegulated, name } = CONSTRUCTION[type.construction];
  const deep = onSix(10.5, type);
  return [
    `Strict: ${ocvV < deep ? 'not worth trying' : ocvV < onSix(11.5, type) ? 'below the proper range' : 'go on'}.`,
    `Hopeful: ${ocvV >= onSix(10, type) ? 'good odds' : isValveRegulated ? `try, the case is sound and it is ${inSentence(name)}` : 'not a flooded one this deep'}.`,
    'By evidence: no voltage alone condemns; age, time flat and acceptance in the first hour decide.',
  ];
}

export const firstReading: Step = {
  kind: 'measure',
  id: 'first-ocv',
  title: 'Read it as it came',
  detail: () =>
    'Posts brushed bright, nothing connected. Check polarity with the meter: red on the post marked +.',
  fields: [firstVoltage, temperatureField, rested],
  holds: ({ ocvV }, context) => {
    if (typeof ocvV !== 'number') return undefined;
    if (ocvV < -0.2)
      return {
        why: `${ocvV.toFixed(2)} V: the polarity is reversed. Check the meter’s leads; reversed it is never charged as marked.`,
        canOverride: false,
      };
    const no = houseSaysNo(ocvV, context);
    return no === undefined ? undefined : { why: no, canOverride: false };
  },
  denials: [retireIt],
  remark: ({ ocvV }, { opened: { type } }) =>
    typeof ocvV === 'number' && ocvV < onSix(10.5, type) ? threeViews(ocvV, type).join(' ') : undefined,
  handsMin: 2,
  overdueAfterMin: 60,
  cautions: ['gasInside'],
};

/** A tester read on a flat battery condemns good ones: what a zero means is a house rule. */
export const firstTester: Step = {
  kind: 'measure',
  id: 'first-tester',
  title: 'Tester, if there is one',
  detail: ({ opened: { rules, type } }) =>
    `Set to ${CONSTRUCTION[type.construction].programme} and to the rating${type.cranking ? `, ${type.cranking.amps} A ${type.cranking.standard}` : ''}. ${
      rules.zeroHealth === 'condemn'
        ? 'House rule: no health at part charge condemns.'
        : 'House rule: no health at part charge is charged, rested and tested again.'
    }`,
  fields: [
    {
      kind: 'choice',
      id: 'shows',
      label: 'It shows',
      optional: true,
      options: [
        { id: 'figure', label: 'A figure' },
        { id: 'nothing', label: 'Nothing: it does not register' },
      ],
    },
    ...testerFields({ field: 'shows', is: 'figure', orUnsaid: true }),
  ],
  holds: ({ testerA, shows }, { opened: { type, rules } }) => {
    const rating = type.cranking?.amps ?? type.capacityAh * 10;
    const isZero = shows === 'nothing' || (typeof testerA === 'number' && testerA < 0.2 * rating);
    return isZero && rules.zeroHealth === 'condemn'
      ? {
          why: `${typeof testerA === 'number' ? `${testerA} A of ${rating} A` : 'It does not register'}: no health. By this house’s rule it is condemned.`,
          canOverride: false,
        }
      : undefined;
  },
  denials: [retireIt],
  remark: ({ testerA, shows }, { opened: { type } }) =>
    shows === 'nothing' || (typeof testerA === 'number' && testerA < 0.6 * (type.cranking?.amps ?? Infinity))
      ? 'A tester judges the charge as well as the battery: charge, rest, then judge.'
      : undefined,
  skipLabel: 'No tester, go on',
  handsMin: 2,
  overdueAfterMin: 60,
  cautions: [],
};

/** From the door to a sound, clean battery with its history. */
export const findOut = (isOpenable: boolean): readonly Step[] => [
  ...checkedIn({
    shows: ['ceilingV'],
    safetyDetail: 'A returned battery may vent, spark or leak. Nothing is connected before this.',
    safetyClaims: [
      'Goggles, acid gloves, apron or old clothes; rings off',
      'Ventilated; no spark, no flame; children away',
      'Eyewash, running water and baking soda at hand',
      'Level, solid surface',
    ],
    safetyCautions: ['acid', 'gasInside'],
    inspectTitle: 'Look before you touch',
    inspectDetail: isOpenable
      ? 'Case, posts, caps. White fluff on the positive post is weak evidence; a charge eye shows one cell and lies when the level is low.'
      : 'Case, posts, valves. A valve that once vented reseals and condemns nothing. It is never opened.',
    seals: ['No leak, no smell, no rattle, not frozen'],
    sealDenials: REJECT_AT_SIGHT,
  }).map((step): Step => {
    if (step.kind !== 'gate' || step.id !== 'inspect') return step;
    // Where it cannot be opened somebody may think of prying.
    const cautions: readonly CautionId[] = isOpenable ? step.cautions : [...step.cautions, 'neverPry'];
    return { ...step, denials: REJECT_AT_SIGHT, cautions };
  }),
  {
    kind: 'measure',
    id: 'history',
    title: 'What is known of it',
    detail: () => 'It sets what is likely before the first reading. No age and no voltage is a veto.',
    fields: [complaint, monthsFlat, ...inVehicle],
    initial: ({ opened: { told } }) =>
      told
        ? {
            complaint: told.complaint,
            ...(told.flatMonths === undefined ? {} : { flatMonths: told.flatMonths }),
          }
        : {},
    holds: () => undefined,
    denials: [],
    handsMin: 1,
    overdueAfterMin: 60,
    cautions: [],
  },
  {
    kind: 'act',
    id: 'clean',
    title: 'Clean it first',
    detail: () =>
      'Baking-soda paste on the posts, degreaser and a damp cloth on the case: dirt must not fall into open cells. Brush the posts bright.',
    doneLabel: 'Clean, posts bright',
    handsMin: 5,
    overdueAfterMin: 60,
    cautions: [],
  },
  firstReading,
];
