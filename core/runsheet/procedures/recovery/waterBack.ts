/** Water back into dry cells; into an AGM only by a house that wants it, weighed before and after (handbook 3.4). */
import type { BatteryType } from '../../../battery/types.ts';
import { ofCells } from '../../definition/densities.ts';
import { isOfEdition } from '../../entries/edition.ts';
import { cellChoices, waterDoubt, waterFields, waterMl } from '../../definition/fields.ts';
import { heavierThanFull, missingG, missingMassFields, weighingText } from '../../definition/missingMass.ts';
import type { GateStep, Route, Step, StepContext } from '../../definition/step.ts';
import { hard, isFlooded } from './shared.ts';

/** An AGM's measured dose: about 1 mL per Ah and cell, or its deficit in mass where that is known (handbook 3.4). */
export function agmDoseMl(context: StepContext): number {
  const { type } = context.opened;
  const usualMl = type.capacityAh * type.cells;
  const missing = missingG(context.valuesOf('water-mass'), type);
  return missing === undefined ? usualMl : Math.min(Math.max(0, missing), 1.5 * usualMl);
}

const OF_AGM = {
  editions: { from: 4 },
  isFor: ({ construction }: BatteryType) => construction !== 'flooded',
} as const;

/** Before anything goes into an AGM: discharged, open only where it opens by hand, its mats looked at. */
const matsBared: readonly Step[] = [
  {
    ...OF_AGM,
    kind: 'gate',
    id: 'agm-water-case',
    title: 'Before its valves come off',
    detail: () =>
      'No maker’s practice: it lowers resistance and lifts cranking, it brings no capacity back. Only into a discharged battery, and only where the strip over the valves lifts off by hand and whole.',
    claims: [
      'It is discharged: the acid is bound in the plates, the mats take the water up',
      'The strip lifts off by hand; the valves come off upright, none pried',
      'Valves laid out in their order, in distilled water',
    ],
    affirmLabel: 'Valves are off, nothing was forced',
    denials: [
      {
        id: 'must-be-pried',
        label: 'It would have to be pried or drilled',
        say: 'Then it stays closed: a broken case takes in air and sprays acid. Leave this route.',
        leads: 'hold',
      },
      {
        id: 'charged',
        label: 'It is charged',
        say: 'Then the mats swim once it is discharged. Discharge it first, or leave this route.',
        leads: 'hold',
      },
    ],
    handsMin: 6,
    overdueAfterMin: 60,
    cautions: ['neverPry', 'acid', 'gasInside'],
  },
  {
    ...OF_AGM,
    kind: 'measure',
    id: 'agm-mats',
    title: 'Look at the mats',
    detail: () =>
      'A lamp into each cell, face away. A dry mat is pale and dull, a damp one dark, a wet one shines.',
    fields: cellChoices('mat', 'Mat', [
      { id: 'dry', label: 'Dry' },
      { id: 'damp', label: 'Damp' },
      { id: 'wet', label: 'Shines' },
    ]),
    holds: (values) => {
      const wet = ofCells(values, 'mat').flatMap((mat, index) => (mat === 'wet' ? [index + 1] : []));
      return wet.length > 0
        ? {
            why: `Cell ${wet.join(', ')}: the mat shines, it has all it can hold. Water is not what this battery lacks; leave this route.`,
            canOverride: false,
          }
        : undefined;
    },
    denials: [],
    handsMin: 3,
    overdueAfterMin: 60,
    cautions: ['gasInside', 'acid'],
  },
];

/** On the scale a millilitre of water is a gram; more between dose and scale than this was spilt or misread. */
const SPILT_SHARE = 0.25;
const SCALE_G = 10;

/** What is affirmed of a closed AGM, wherever that is asked. */
const SEALED = {
  claims: ['Every valve on its own seat, and sealing', 'Strip on, flush all along'],
  affirmLabel: 'Closed, and sealing',
  denials: [
    {
      id: 'will-not-seal',
      label: 'A valve will not seal',
      say: 'It is not charged open. Find a valve that seals, or retire it.',
      leads: 'hold',
    },
  ],
} as const satisfies Pick<GateStep, 'claims' | 'affirmLabel' | 'denials'>;

/** Closed before it is charged, and weighed: what the scale gained is what went in. */
const closedAndWeighed: readonly Step[] = [
  {
    ...OF_AGM,
    kind: 'gate',
    id: 'agm-closed',
    title: 'Valves and strip back on',
    detail: () =>
      'Dry, each on its own seat, pressed on by hand until it sits; a drop of soapy water on each shows no bubble. The strip over them. An AGM that is open loses its gas and its water.',
    ...SEALED,
    handsMin: 4,
    overdueAfterMin: 60,
    cautions: ['acid'],
  },
  {
    ...OF_AGM,
    kind: 'measure',
    id: 'agm-weighed',
    title: 'Weigh it again',
    detail: (context) =>
      `Clean and dry, strip on. It should be ${waterMl(context.valuesOf('water-dose')).toFixed(0)} g heavier than before the water.`,
    fields: [
      {
        kind: 'number',
        id: 'gainedG',
        spec: ({ opened: { type } }) => ({
          label: 'Heavier than before by',
          unit: 'g',
          decimals: 0,
          possible: { min: 0, max: 10_000 },
          plausible: { min: 0, max: Math.ceil(1.5 * type.capacityAh * type.cells) },
        }),
      },
    ],
    holds: ({ gainedG }, context) => {
      const ml = waterMl(context.valuesOf('water-dose'));
      return typeof gainedG === 'number' && Math.abs(gainedG - ml) > Math.max(SCALE_G, ml * SPILT_SHARE)
        ? {
            why: `${ml} mL went in, the scale gained ${gainedG} g: spilt, or one of the two misread. Weigh it again, or say what it was.`,
            canOverride: true,
          }
        : undefined;
    },
    denials: [],
    skipLabel: 'It was not weighed before',
    handsMin: 2,
    overdueAfterMin: 60,
    cautions: ['heavy'],
  },
];

/** Whether its valves may still be off: the way was left before they went back, and no other was gone to its end since. */
function mayStandOpen({ routes, round }: StepContext): boolean {
  const left = routes.findLastIndex(({ route, leftFor }) => route === 'water-back' && leftFor !== undefined);
  return left >= 0 && !routes.slice(left + 1).some((one) => one.leftFor === undefined && one.round !== round);
}

/** Before anything else is done with an AGM whose water was left half-way: an open one loses gas and water on charge. */
export const closedFirst = (route: string): Step => ({
  ...OF_AGM,
  kind: 'gate',
  id: `${route}-closed-first`,
  title: 'Is it closed?',
  detail: () =>
    'Its water was left half-way. Every valve on its own seat and sealing, the strip over them: an AGM is never charged open.',
  isMoot: (context) => !mayStandOpen(context),
  ...SEALED,
  handsMin: 2,
  overdueAfterMin: 60,
  cautions: ['gasInside'],
});

export const WATER_BACK: Route = {
  id: 'water-back',
  title: 'Water back',
  isFor: 'Dry cells.',
  stop: 'Flooded: mixed by a charge to gassing. AGM: a long soak and days of rest. It lifts cranking; it does not bring capacity back.',
  veto: (context) => {
    if (isFlooded(context)) return undefined;
    if (context.opened.type.construction === 'gel')
      return hard('A dried gel cannot be watered: it takes none up again, and is not opened.');
    if (context.opened.rules.agmWater === 'never')
      return hard('By this house’s rule no water goes into an AGM: it is no maker’s practice.');
    return context.routes.some(({ route, leftFor }) => route === 'water-back' && leftFor === undefined)
      ? hard('The measured dose has gone in once; more drowns the mats.')
      : undefined;
  },
  steps: [
    ...matsBared,
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
        if (ml > dose * 1.1)
          return {
            why: `${ml} mL is more than the dose of ${dose.toFixed(0)} mL: mats that swim cannot recombine. Draw it off; or record why it stays.`,
            canOverride: true,
          };
        const isWeighed = missingG(context.valuesOf('water-mass'), context.opened.type) !== undefined;
        return isWeighed || !isOfEdition(context.opened, 4)
          ? undefined
          : {
              why: `It was not weighed: ${dose.toFixed(0)} mL is 1 mL per Ah and cell, a rule of thumb that knows nothing of this battery. Weigh it; or record why the rule is gone by.`,
              canOverride: true,
            };
      },
      denials: [],
      handsMin: 6,
      overdueAfterMin: 60,
      cautions: ['waterOnly', 'acid'],
      cautionsFor: (context) => (isFlooded(context) ? [] : ['neverPry']),
    },
    ...closedAndWeighed,
  ],
};
