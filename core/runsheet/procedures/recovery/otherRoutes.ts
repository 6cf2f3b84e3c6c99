/** Water back, cycles, additives, and the end: handbook 3.4. */
import { onSix } from '../../../battery/types.ts';
import { millilitresField, voltageField, waterDoubt, waterFields, waterMl } from '../../fields.ts';
import { heavierThanFull, missingG, missingMassFields, weighingText } from '../../missingMass.ts';
import type { Route, Step, StepContext, Veto } from '../../step.ts';
import { restedV } from './wakeRoutes.ts';

const isFlooded = ({ opened: { type } }: StepContext): boolean => type.kind === 'flooded-dry-charged';
const hard = (why: string): Veto => ({ why, canOverride: false });

/** An AGM's measured dose: about 1 mL per Ah and cell, or its deficit in mass where that is known (handbook 3.4). */
export function agmDoseMl(context: StepContext): number {
  const { type } = context.opened;
  const usualMl = type.capacityAh * type.cells;
  const missing = missingG(context.valuesOf('water-mass'), type);
  return missing === undefined ? usualMl : Math.min(Math.max(0, missing), 1.5 * usualMl);
}

export const WATER_BACK: Route = {
  id: 'water-back',
  title: 'Water back',
  isFor: 'Dry cells.',
  stop: 'Flooded: mixed by a charge to gassing. AGM: a long soak and days of rest. It lifts cranking; it does not bring capacity back.',
  veto: (context) => {
    if (isFlooded(context)) return undefined;
    if (context.opened.rules.agmWater === 'never')
      return hard('By this house’s rule no water goes into an AGM: it is no maker’s practice.');
    return context.routes.some(({ route, leftFor }) => route === 'water-back' && leftFor === undefined)
      ? hard('The measured dose has gone in once; more drowns the mats.')
      : undefined;
  },
  steps: [
    {
      kind: 'measure',
      id: 'water-mass',
      title: 'What is missing by mass',
      detail: ({ opened: { type } }) => weighingText(type),
      fields: missingMassFields(),
      holds: (values, { opened: { type } }) => heavierThanFull(values, type),
      denials: [],
      skipLabel: 'Mass not known',
      handsMin: 2,
      overdueAfterMin: 60,
      cautions: ['heavy'],
    },
    {
      kind: 'measure',
      id: 'water-dose',
      title: 'Put the water back',
      detail: (context) =>
        isFlooded(context)
          ? 'Distilled water: just over the plates before the charge, to the line only after it; the level rises on charge.'
          : `Distilled water, ${agmDoseMl(context).toFixed(0)} mL in all, ${(agmDoseMl(context) / context.opened.type.cells).toFixed(0)} mL a cell, into the discharged battery, so that the mats take it up.`,
      fields: waterFields(),
      holds: (values, context) => {
        const doubt = waterDoubt(values);
        if (doubt || isFlooded(context)) return doubt;
        const ml = waterMl(values);
        const dose = agmDoseMl(context);
        return ml > dose * 1.1
          ? {
              why: `${ml} mL is more than the dose of ${dose.toFixed(0)} mL: mats that swim cannot recombine. Draw it off; or record why it stays.`,
              canOverride: true,
            }
          : undefined;
      },
      denials: [],
      handsMin: 6,
      overdueAfterMin: 60,
      cautions: ['waterOnly', 'acid'],
      cautionsFor: (context) => (isFlooded(context) ? [] : ['neverPry']),
    },
  ],
};

export const CYCLES: Route = {
  id: 'cycle',
  title: 'Discharge and charge again',
  isFor: 'Recovered, its cranking still low.',
  stop: 'Gain below 3 %, or the target met; three times at most.',
  veto: (context) => {
    const volts = restedV(context);
    if (volts !== undefined && volts < onSix(12, context.opened.type))
      return hard(`${volts.toFixed(2)} V: charge it first; there is nothing to draw.`);
    return context.routes.filter(({ route }) => route === 'cycle').length >= 3
      ? hard('Cycled three times already; more wears it out.')
      : undefined;
  },
  steps: [
    {
      kind: 'gate',
      id: 'cycle-start',
      title: 'Start the discharge',
      detail: ({ opened: { type } }) =>
        `${(type.capacityAh / 10).toFixed(1)} A, to ${onSix(11.5, type).toFixed(2)} V and not below. Somebody stays; the alarm calls every half hour.`,
      claims: ['A load that can be taken off at once', 'Meter on the posts', 'Somebody stays with it'],
      affirmLabel: 'Load is on',
      denials: [
        {
          id: 'nobody',
          label: 'Nobody can stay',
          say: 'Then not now: a discharge left alone ruins the battery.',
          leads: 'hold',
        },
      ],
      handsMin: 3,
      overdueAfterMin: 60,
      cautions: ['deepDischarge', 'sparkAtTest'],
    },
    {
      kind: 'measure',
      id: 'cycle-end',
      title: 'Load off at 11.5 V',
      detail: ({ opened: { type } }) =>
        `Look every half hour, oftener near the end. Load off at ${onSix(11.5, type).toFixed(2)} V.`,
      fields: [
        {
          kind: 'number',
          id: 'minutes',
          spec: () => ({
            label: 'Minutes under load',
            unit: 'min',
            decimals: 0,
            possible: { min: 0, max: 2000 },
            plausible: { min: 30, max: 900 },
          }),
        },
        voltageField({
          id: 'endV',
          label: 'Voltage when the load came off',
          plausible: [11.3, 12.4],
          quantity: 'voltage',
        }),
      ],
      holds: ({ endV }, { opened: { type } }) =>
        typeof endV === 'number' && endV < onSix(11.3, type)
          ? {
              why: `${endV.toFixed(2)} V: drawn below ${onSix(11.5, type).toFixed(2)} V. Charge it at once; record why it went so far.`,
              canOverride: true,
            }
          : undefined,
      denials: [],
      lookAfterMin: () => 30,
      isAttended: true,
      handsMin: 3,
      overdueAfterMin: 10,
      cautions: ['deepDischarge'],
    },
  ],
};

const SALTS = {
  sodium: 'sodium sulfate, 27.5 g/L',
  magnesium: 'magnesium sulfate, about 1 part to 3 of warm water',
  other: 'another additive, a spoon per cell',
} as const;
const MOST_SALT_CHANGES = 4;

export const SALT_CHANGE: Route = {
  id: 'salt-change',
  title: 'Salt change or additive',
  isFor: 'Offered by some schools; not recommended.',
  stop: 'Compared with plain water; four times on one battery at most.',
  against:
    'For: some report it brings sulfated cells back. Against: it throws away acid and capacity, cannot be undone, makes litres of lead-bearing waste, and beside plain water no gain was seen.',
  veto: (context) => {
    if (!isFlooded(context)) return hard('A closed battery is never opened for an additive.');
    if (context.opened.rules.additives === 'none')
      return hard('By this house’s rule nothing is added but water.');
    return context.routes.filter(({ route }) => route === 'salt-change').length >= MOST_SALT_CHANGES
      ? hard('Four times on one battery is the most.')
      : undefined;
  },
  steps: [
    {
      kind: 'gate',
      id: 'salt-case',
      title: 'The case against it, read once more',
      detail: ({ opened: { rules } }) =>
        `House rule: ${rules.additives === 'none' ? 'none' : SALTS[rules.additives]}. What is drained is acid with lead in it: it is collected and neutralised, and still goes to licensed disposal.`,
      claims: [
        'It cannot be undone',
        'Vessel and neutraliser for all the acid stand ready',
        'The owner knows',
      ],
      affirmLabel: 'Go on all the same',
      denials: [
        {
          id: 'no-vessel',
          label: 'There is no vessel for the acid',
          say: 'Then it is not drained.',
          leads: 'hold',
        },
      ],
      handsMin: 3,
      overdueAfterMin: 60,
      cautions: ['acid', 'leadWaste'],
    },
    {
      kind: 'measure',
      id: 'salt-in',
      title: 'What went in',
      detail: ({ opened: { rules } }) =>
        `Record it, so that it can be compared: ${rules.additives === 'none' ? '' : SALTS[rules.additives]}.`,
      fields: [millilitresField('ml', 'Solution, all cells')],
      holds: () => undefined,
      denials: [],
      handsMin: 15,
      overdueAfterMin: 60,
      cautions: ['acid', 'leadWaste'],
    },
  ],
};

/** Why a battery goes to the recycler, as its disposal record says it. */
export const RETIRED_FOR = {
  deadCell: 'A dead or shorted cell',
  collapsed: 'It collapsed under load although its voltage looked fine',
  worn: 'Too little capacity or cranking left',
  leak: 'It does not hold its charge: an internal leak',
  dry: 'Dried out, or its plates are lost',
  damaged: 'Its case or a post is damaged',
  notWorth: 'Not worth the hours it would take',
  owner: 'Its owner wants it gone',
} as const;

/** Volts of a load test on six cells under which it has collapsed (handbook 3.2). */
const COLLAPSED_V = 4;

const whyRetired: Step = {
  kind: 'measure',
  id: 'retire-why',
  title: 'Why it goes',
  detail: () => 'It stands on the disposal record, and in what this shop knows of its ways.',
  fields: [
    {
      kind: 'choice',
      id: 'why',
      label: 'Because',
      options: Object.entries(RETIRED_FOR).map(([id, label]) => ({ id, label })),
    },
  ],
  initial: (context) => {
    const stopped = context.lastCharge()?.stopped?.rule;
    if (stopped === 'dead-cell' || stopped === 'short-heating' || stopped === 'not-rising')
      return { why: 'deadCell' };
    const loadV = context.lastLoadV();
    return loadV !== undefined && loadV < onSix(COLLAPSED_V, context.opened.type) ? { why: 'collapsed' } : {};
  },
  holds: () => undefined,
  denials: [],
  handsMin: 1,
  overdueAfterMin: 480,
  cautions: [],
};

const readyForRecycler: Step = {
  kind: 'gate',
  id: 'retire-core',
  title: 'Ready it for the recycler',
  detail: () =>
    'Upright, caps on, posts covered. It is not drained and not drilled: drained acid carries lead, and a drilled case cannot be carried safely.',
  claims: ['Marked “do not use”', 'Posts covered, upright, in the tray for cores'],
  affirmLabel: 'In the tray',
  denials: [],
  handsMin: 3,
  overdueAfterMin: 480,
  cautions: ['heavy', 'leadWaste'],
};

const signOff: Step = {
  kind: 'act',
  id: 'retired',
  title: 'Sign it off',
  detail: () => 'Your name stands under the disposal record.',
  doneLabel: 'Retire it',
  ends: 'retired',
  handsMin: 1,
  overdueAfterMin: 480,
  cautions: [],
};

export const RETIRE: Route = {
  id: 'retire',
  title: 'Retire it',
  isFor: 'Everything else.',
  stop: 'The core goes to a licensed recycler, and the record stays.',
  veto: () => undefined,
  steps: [whyRetired, readyForRecycler, signOff],
};

/** As logs of the first edition have it: nobody was asked why. */
export const RETIRE_FIRST_EDITION: Route = { ...RETIRE, steps: [readyForRecycler, signOff] };
