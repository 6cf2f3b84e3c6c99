/** Checking a battery in: what it is, what its label says, a safe place, a sound case (handbook 2.1). */
import { backToSupplier } from './backToSupplier.ts';
import { nominalV } from '../../../battery/types.ts';
import { printedFields } from '../../definition/fields.ts';
import type { CautionId } from '../../../rules/cautions.ts';
import type { Denial, GateStep, NumberField, Step } from '../../definition/step.ts';
import type { ThresholdId } from '../../../rules/thresholds.ts';

/** What differs from kind to kind when a battery is checked in. */
export interface CheckIn {
  /** Label values asked for besides those every battery may print. */
  readonly alsoPrinted?: readonly NumberField[];
  readonly shows: readonly ThresholdId[];
  readonly safetyDetail: string;
  readonly safetyClaims: readonly string[];
  readonly safetyCautions: readonly CautionId[];
  readonly inspectTitle: string;
  readonly inspectDetail: string;
  readonly seals: readonly string[];
  /** What is wrong with a seal sends the battery back like a cracked case. */
  readonly sealDenials: readonly Denial[];
}

/** Goggles to earshot: what stands ready before acid is open. */
export const ACID_SAFETY: readonly string[] = [
  'Goggles, acid gloves, apron or old clothes; rings off',
  'Ventilated; no spark, no flame; children away',
  'Eyewash and running water at hand',
  'Baking soda at hand',
  'Level, solid surface',
  'Somebody within earshot',
];

/** What stands ready before anything is done to a battery. */
export const safePlace = (place: {
  readonly id: string;
  readonly detail: string;
  readonly claims: readonly string[];
  readonly cautions: readonly CautionId[];
  readonly isFor?: NonNullable<Step['isFor']>;
}): GateStep => ({
  kind: 'gate',
  id: place.id,
  title: 'Make the place safe',
  detail: () => place.detail,
  ...(place.isFor ? { isFor: place.isFor } : {}),
  claims: place.claims,
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
  cautions: [...place.cautions, 'static'],
});

export const checkedIn = (kind: CheckIn): readonly Step[] => [
  {
    kind: 'gate',
    id: 'identify',
    title: 'Identify the battery',
    detail: ({ opened: { type, battery } }) =>
      `The label reads ${type.id}, ${nominalV(type)} V ${type.capacityAh} Ah; tag ${battery.tag} is on it; it is not fitted in a vehicle.`,
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
    fields: [...printedFields, ...(kind.alsoPrinted ?? [])],
    emptyLabel: 'As in the catalogue',
    holds: () => undefined,
    denials: [],
    handsMin: 2,
    overdueAfterMin: 60,
    cautions: [],
    explains: 'label-symbols',
    shows: kind.shows,
  },
  safePlace({
    id: 'safety',
    detail: kind.safetyDetail,
    claims: kind.safetyClaims,
    cautions: kind.safetyCautions,
  }),
  {
    kind: 'gate',
    id: 'inspect',
    title: kind.inspectTitle,
    detail: () => kind.inspectDetail,
    claims: ['Case whole, no crack or bulge', 'Posts straight and firm', ...kind.seals],
    affirmLabel: 'All sound',
    denials: [
      ...kind.sealDenials,
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
