/** Soak, first reading, first charge, lid (handbook 2.3, steps 8 to 13, and 2.5). */
import { afterCharge, chargeStep, readBeforeCharge } from '../shared/charge.ts';
import { CELL_LOW } from '../shared/cellLow.ts';
import type { Step } from '../../definition/step.ts';

export const charging: readonly Step[] = [
  {
    kind: 'dwell',
    id: 'soak',
    title: 'Let it soak',
    detail: () => 'Plates and mats take up the acid and it warms. Not ready to sell or fit.',
    minimum: 'soakMin',
    clockStart: () => 'pack-off',
    canOverride: true,
    handsMin: 0,
    overdueAfterMin: 60,
    cautions: ['notReady'],
    shows: ['soakMin'],
  },
  {
    kind: 'act',
    id: 'strip',
    title: 'Lay the cap strip on, loose',
    detail: () => 'On the holes, not pressed: gas must get out, drops must not.',
    doneLabel: 'Strip lies loose',
    when: { rule: 'lidWhileCharging', isOneOf: ['loose'] },
    handsMin: 1,
    overdueAfterMin: 30,
    cautions: [],
  },
  {
    kind: 'act',
    id: 'lid-before',
    title: 'Press the lid home',
    detail: () => 'House rule: pressed home before the charge. Flush all along.',
    doneLabel: 'Lid is flush',
    when: { rule: 'lidWhileCharging', isOneOf: ['pressedBefore'] },
    handsMin: 1,
    overdueAfterMin: 30,
    cautions: ['neverStruck'],
  },
  readBeforeCharge(
    'Open-circuit, nothing connected. Fresh stock shows 12.5–12.85 V on 12 V, old stock down to 12.3.',
    [CELL_LOW],
  ),
  chargeStep(({ round }) =>
    round === 1
      ? 'AGM programme or a set current; never a gel programme, never a plain automotive charger at its own rate. Filled today, charged today.'
      : `Charge ${round} of 3 at most. The lid is home and stays home.`,
  ),
  ...afterCharge,
  {
    kind: 'gate',
    id: 'lid',
    title: 'Press the lid home',
    detail: () => 'Flat of both hands, even pressure, flush all along. Never opened again.',
    claims: ['Flush all along'],
    affirmLabel: 'Lid is flush',
    denials: [
      {
        id: 'not-flush',
        label: 'It does not sit flush',
        say: 'Press again along the whole strip with both hands; never strike it.',
        leads: 'hold',
      },
    ],
    when: { rule: 'lidWhileCharging', isOneOf: ['loose', 'off'] },
    oncePerJob: true,
    handsMin: 1,
    overdueAfterMin: 30,
    cautions: ['neverStruck'],
  },
];
