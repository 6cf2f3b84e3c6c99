/** A battery that was filled at the factory (handbook 2.4), and one that comes back from a display vehicle. */
import type { Construction } from '../../battery/construction.ts';
import type { Procedure, Step } from '../definition/step.ts';
import { backToSupplier } from './shared/backToSupplier.ts';
import { afterCharge, chargeStep, readBeforeCharge } from './shared/charge.ts';
import { checkedIn } from './shared/checkIn.ts';
import { handingOver } from './shared/handOver.ts';
import { shelfWords } from './shared/shelf.ts';
import { testing } from './shared/test.ts';

const CHARGE_SAFETY: readonly string[] = [
  'Goggles on; rings off',
  'Ventilated; no spark, no flame; children away',
  'Level, solid surface',
];

const notCharged: Step['when'] = { rule: 'activatedAgm', isOneOf: ['fitAsIs', 'vehicle'] };
const charged: Step['when'] = { rule: 'activatedAgm', isOneOf: ['chargeFirst'] };

/** What it is charged with, and whether it may be opened. */
function programmeWords(construction: Construction): string {
  switch (construction) {
    case 'agm':
      return 'AGM programme or a set current, never a gel programme. It is never opened.';
    case 'gel':
      return 'gel programme or a set current, 14.4 V at most on six cells at 25 °C, never a programme for flooded or AGM. It is never opened.';
    case 'flooded':
      return 'a programme for flooded batteries or a set current. Caps stay as they came unless the maker says otherwise.';
  }
}

const standsLow = backToSupplier(
  'stands-low',
  'Too far gone: send it back',
  'Stood flat before it came: back to the supplier with the return note.',
);

const arrived = readBeforeCharge(
  'As it came, nothing connected. It has stood since the factory: 12.6–12.8 V on six cells is usual, 12.4–12.6 V flooded, less the older it is.',
  [standsLow],
  false,
);

const chargedFull: readonly Step[] = [
  chargeStep(({ round, opened: { type } }) =>
    round === 1
      ? `To 100 % before it is sold or fitted: ${programmeWords(type.construction)}`
      : `Charge ${round} of 3 at most.`,
  ),
  ...afterCharge,
];

const checkIn = checkedIn({
  shows: ['chargeCurrentA', 'ceilingV'],
  safetyDetail: 'It is filled and sealed: no acid is handled, but charging makes gas.',
  safetyClaims: CHARGE_SAFETY,
  safetyCautions: ['gas'],
  inspectTitle: 'Inspect case and posts',
  inspectDetail: 'Turn it in good light. It is filled and closed. A valve that once vented condemns nothing.',
  seals: ['No leak, no smell, no rattle'],
  sealDenials: [
    backToSupplier(
      'leaks',
      'It leaks or smells',
      'Leaking: do not charge. Back to the supplier with the return note.',
    ),
  ],
});

export const ACTIVATED: Procedure = {
  id: 'agm-activated',
  title: 'Filled at the factory',
  steps: [
    ...checkIn,
    arrived,
    {
      kind: 'act',
      id: 'uncharged',
      title: 'Not charged, by house rule',
      detail: ({ opened: { rules } }) =>
        rules.activatedAgm === 'vehicle'
          ? 'The vehicle is left to finish the charge. The certificate says that it was not charged here.'
          : 'It is fitted as it comes. The certificate says that it was not charged here.',
      doneLabel: 'Go on uncharged',
      when: notCharged,
      handsMin: 1,
      overdueAfterMin: 60,
      cautions: ['notReady'],
    },
    ...chargedFull.map((step): Step => ({ ...step, when: charged, inRepeats: true })),
    ...testing.map((step): Step => (step.id === 'rest' ? { ...step, when: charged, inRepeats: true } : step)),
    ...handingOver(false),
  ],
  loop: { from: ['charge'], to: 'verdict', repeats: 2 },
};

export const DISPLAY_REFRESH: Procedure = {
  id: 'display-refresh',
  title: 'Back from display: charge, tag, shelve',
  steps: [
    ...checkIn,
    arrived,
    ...chargedFull,
    ...testing,
    {
      kind: 'gate',
      id: 'tag-date',
      title: 'Tag it with the date and shelve it',
      detail: (context) =>
        `First in, first out. ${shelfWords(context)} It is fitted again, or recharged when due.`,
      claims: ['Tag carries today’s date', 'Shelved disconnected, behind older stock'],
      affirmLabel: 'Tagged and shelved',
      denials: [
        {
          id: 'no-place',
          label: 'There is no place for it',
          say: 'Find it a cool, dry place, disconnected; a battery left in a vehicle goes flat.',
          leads: 'hold',
        },
      ],
      handsMin: 2,
      overdueAfterMin: 480,
      cautions: ['heavy'],
    },
    ...handingOver(false).filter((step) => step.id === 'certify'),
  ],
  loop: { from: ['charge'], to: 'verdict', repeats: 2 },
};
