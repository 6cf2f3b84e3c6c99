/** Hand-over and certificate (handbook 2.3, step 16, and 10). */
import { onSix } from '../../../battery/types.ts';
import { voltageField } from '../../definition/fields.ts';
import type { Denial, Step } from '../../definition/step.ts';

const HOSE_PINCHED: Denial = {
  id: 'hose-pinched',
  label: 'The vent hose is pinched',
  say: 'Free it or replace it: a closed vent bursts the case.',
  leads: 'hold',
};

/**
 * Readied, and fitted where it is fitted here: for a new battery and for one that was brought back.
 * @param hasHose whether the kind vents through a hose; a sealed battery has none to look after
 */
export const handedOver = (hasHose: boolean): readonly Step[] => [
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
    kind: 'gate',
    id: 'fit',
    title: 'Fit it to the vehicle',
    detail: ({ threshold, opened: { type } }) =>
      [
        `Old one out: negative off first. New one in: positive first, negative last; ${threshold('postTorqueNm').value} N·m or snug plus an eighth to a quarter turn.`,
        // Of a sealed kind only a type that is known for one has a hose.
        ...(type.hasVentHose && !hasHose ? ['Its vent hose on, not kinked or pinched.'] : []),
      ].join(' '),
    claims: [
      'Captive nuts held up (a slip of soft tube under the nut does it); terminal grease on',
      'Positive first, negative last; accessory earths back on',
      ...(hasHose ? ['Vent hose on, not kinked or pinched, only one vent plugged'] : []),
      'Strapped: it cannot move',
    ],
    affirmLabel: 'It is fitted',
    denials: [
      {
        id: 'clips-reversed',
        label: 'The leads are the wrong way round',
        say: 'Take them off at once, negative first; check every fuse before anything is switched on.',
        leads: 'hold',
      },
      {
        id: 'post-loose',
        label: 'A post turned or tore',
        say: 'Over-tightened: do not use it. Note it, and take the battery out again.',
        leads: 'hold',
      },
      ...(hasHose ? [HOSE_PINCHED] : []),
    ],
    asked: 'fitting',
    handsMin: 10,
    overdueAfterMin: 480,
    cautions: ['posts', 'heavy', 'vehicleLeads'],
    shows: ['postTorqueNm'],
  },
  {
    kind: 'measure',
    id: 'crank',
    title: 'Read the crank dip',
    detail: () => 'Lowest voltage while it starts: 9.6–10.5 V is normal on 12 V.',
    fields: [
      voltageField({
        id: 'crankV',
        label: 'Lowest voltage while starting',
        plausible: [8.5, 12],
        quantity: 'loadVoltage',
      }),
    ],
    holds: ({ crankV }, { opened: { type } }) =>
      typeof crankV === 'number' && crankV < onSix(9.6, type)
        ? {
            why: `${crankV.toFixed(2)} V is under ${onSix(9.6, type).toFixed(1)} V: look at cables, earth and starter before the battery; read again, or say why it goes.`,
            canOverride: true,
          }
        : undefined,
    denials: [],
    skipLabel: 'It cannot be read here',
    asked: 'fitting',
    handsMin: 2,
    overdueAfterMin: 480,
    cautions: [],
  },
];

/** The same, and the certificate of a new battery under it. */
export const handingOver = (hasHose: boolean): readonly Step[] => [
  ...handedOver(hasHose),
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
