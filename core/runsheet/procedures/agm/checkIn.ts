/** Checking a battery in: what it is, what its label says, a safe place, a sound case (handbook 2.1). */
import { backToSupplier } from './backToSupplier.ts';
import { printedFields } from '../../fields.ts';
import type { Step } from '../../step.ts';

export const checkedIn: readonly Step[] = [
  {
    kind: 'gate',
    id: 'identify',
    title: 'Identify the battery',
    detail: ({ opened: { type, battery } }) =>
      `The label reads ${type.id}, ${type.nominalV} V ${type.capacityAh} Ah; tag ${battery.tag} is on it; it is not fitted in a vehicle.`,
    claims: ['Type, voltage and capacity as on the label', 'Tag on the battery', 'Not fitted in a vehicle'],
    affirmLabel: 'That is the battery',
    denials: [
      {
        id: 'other-type',
        label: 'The label says another type',
        say: 'Set it aside and take it in again under the type on its label.',
        leads: 'end',
        outcome: 'withdrawn',
      },
      {
        id: 'fitted',
        label: 'It is fitted in a vehicle',
        say: 'Take it out first: a battery is never commissioned in place.',
        leads: 'hold',
      },
    ],
    handsMin: 1,
    overdueAfterMin: 60,
    cautions: ['localRulesFirst'],
  },
  {
    kind: 'measure',
    id: 'label',
    title: 'Read the label and the sheet',
    detail: () =>
      'Enter only what differs from the catalogue. What the label prints wins over every default.',
    fields: printedFields,
    holds: () => undefined,
    denials: [],
    handsMin: 2,
    overdueAfterMin: 60,
    cautions: [],
    shows: ['chargeCurrentA', 'ceilingV', 'packDwellMin', 'soakMin'],
  },
  {
    kind: 'gate',
    id: 'safety',
    title: 'Make the place safe',
    detail: () => 'Everything below is in place before a pack is touched.',
    claims: [
      'Goggles, acid gloves, apron or old clothes; rings off',
      'Ventilated; no spark, no flame; children away',
      'Eyewash and running water at hand',
      'Baking soda at hand',
      'Level, solid surface',
      'Somebody within earshot',
    ],
    affirmLabel: 'All in place',
    denials: [
      {
        id: 'not-safe',
        label: 'Something is missing',
        say: 'Put it in place first, then affirm.',
        leads: 'hold',
      },
    ],
    handsMin: 1,
    overdueAfterMin: 60,
    cautions: ['acid', 'acidSwallowed'],
  },
  {
    kind: 'gate',
    id: 'inspect',
    title: 'Inspect case, posts and foil',
    detail: () => 'Turn it in good light. Plates behind a broken foil have taken up moisture and air.',
    claims: ['Case whole, no crack or bulge', 'Posts straight and firm', 'Foil whole over every port'],
    affirmLabel: 'All sound',
    denials: [
      backToSupplier(
        'foil-broken',
        'The foil is broken',
        'Foil broken: do not commission. Back to the supplier with the return note.',
      ),
      backToSupplier(
        'case-damaged',
        'The case is damaged',
        'Case damaged: do not commission. Back to the supplier with the return note.',
      ),
      backToSupplier(
        'post-damaged',
        'A post is damaged',
        'Post damaged: do not commission. Back to the supplier with the return note.',
      ),
    ],
    handsMin: 1,
    overdueAfterMin: 60,
    cautions: ['heavy'],
  },
];
