/** Hand-over and certificate (handbook 2.3, step 16, and 10). */
import type { Step } from '../../step.ts';

export const handingOver: readonly Step[] = [
  {
    kind: 'gate',
    id: 'hand-over',
    title: 'Ready it for hand-over',
    detail: ({ threshold }) =>
      `Positive first, negative last when fitting; tighten to ${threshold('postTorqueNm').value} N·m.`,
    claims: [
      'Hardware from the box counted back; nuts held up in their pockets',
      'Wiped down; terminal grease with it',
      'Owner’s sheet with it: date, charge, next check, how to recycle',
    ],
    affirmLabel: 'All with it',
    denials: [
      {
        id: 'missing',
        label: 'Something is missing',
        say: 'Find it before the battery leaves the bench.',
        leads: 'hold',
      },
    ],
    handsMin: 5,
    overdueAfterMin: 480,
    cautions: ['posts', 'heavy'],
    shows: ['postTorqueNm'],
  },
  {
    kind: 'act',
    id: 'certify',
    title: 'Sign the certificate',
    detail: ({ opened }) =>
      `Your name stands under it. The customer gets a copy; the shop keeps the record of ${opened.battery.tag}.`,
    doneLabel: 'Sign and certify',
    ends: 'certified',
    handsMin: 1,
    overdueAfterMin: 480,
    cautions: [],
  },
];
