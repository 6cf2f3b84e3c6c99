/** Additives, and the end: handbook 3.4. */
import { onSix } from '../../../battery/types.ts';
import { millilitresField } from '../../definition/fields.ts';
import type { Route, Step } from '../../definition/step.ts';
import { hard, isFlooded } from './shared.ts';

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
