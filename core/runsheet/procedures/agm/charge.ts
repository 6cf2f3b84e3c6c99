/** Soak, first reading, first charge, lid (handbook 2.3, steps 8 to 13, and 2.5). */
import { temperatureField, voltageField } from '../../fields.ts';
import type { Step } from '../../step.ts';

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
  {
    kind: 'measure',
    id: 'ocv-soak',
    title: 'Read voltage and warmth',
    detail: () =>
      'Open-circuit, nothing connected. Fresh stock shows 12.5–12.85 V on 12 V, old stock down to 12.3.',
    fields: [
      voltageField({ id: 'ocvV', label: 'Open-circuit voltage', plausible: [10, 13.2], quantity: 'voltage' }),
      temperatureField,
    ],
    holds: (values, context) => {
      const ocv = values['ocvV'];
      const tempC = values['tempC'];
      const startBelow = context.threshold('startBelowC').value;
      if (typeof tempC === 'number' && tempC >= startBelow)
        return {
          why: `${tempC.toFixed(1)} °C: too warm to charge. Wait until it is below ${startBelow} °C and read again.`,
          canOverride: false,
        };
      const suspect = context.threshold('soakSuspectV').value;
      if (typeof ocv === 'number' && ocv < suspect)
        return {
          why: `${ocv.toFixed(2)} V is below ${suspect.toFixed(2)} V: suspect a chamber filled short or a dead cell. Read again, reject it, or charge it on your word.`,
          canOverride: true,
        };
      return undefined;
    },
    denials: [
      {
        id: 'dead-cell',
        label: 'Reject: a cell is low',
        say: 'A cell stayed low after the soak: rejected before charge.',
        leads: 'end',
        outcome: 'rejected',
      },
    ],
    remark: (values, context) => {
      const ocv = values['ocvV'];
      const low = context.threshold('soakLowV').value;
      return typeof ocv === 'number' && ocv < low
        ? `${ocv.toFixed(2)} V is under the ${low.toFixed(2)} V of old stock; it will charge longer.`
        : undefined;
    },
    handsMin: 1,
    overdueAfterMin: 30,
    cautions: [],
    shows: ['soakLowV', 'soakSuspectV', 'startBelowC'],
  },
  {
    kind: 'charge',
    id: 'charge',
    title: 'First charge',
    detail: ({ round }) =>
      round === 1
        ? 'AGM programme or a set current; never a gel programme, never a plain automotive charger at its own rate. Filled today, charged today.'
        : `Charge ${round} of 3 at most. The lid is home and stays home.`,
    claims: [
      'Clips on, polarity checked by eye and by meter',
      'Doors open, no spark or flame',
      'Charger on last',
    ],
    lookEveryMin: 60,
    handsMin: 3,
    overdueAfterMin: 30,
    cautions: ['gas', 'clipsFirst'],
    cautionsWhileOn: ['gas'],
    shows: ['chargeCurrentA', 'ceilingV', 'fullTailMin', 'hotPauseC', 'hotResumeC'],
  },
  {
    kind: 'dwell',
    id: 'gas-wait',
    title: 'Let the gas clear',
    detail: () => 'Charger is off at the mains. Nothing is touched until the gas has gone.',
    minimum: 'gasWaitMin',
    clockStart: () => 'charge',
    canOverride: false,
    handsMin: 0,
    overdueAfterMin: 60,
    cautions: ['chargerOffFirst'],
    shows: ['gasWaitMin'],
  },
  {
    kind: 'act',
    id: 'disconnect',
    title: 'Take the clips off',
    detail: () => 'Negative first, positive last. The charger has been off at the mains.',
    doneLabel: 'Clips are off',
    handsMin: 1,
    overdueAfterMin: 60,
    cautions: ['chargerOffFirst'],
  },
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
    when: { rule: 'lidWhileCharging', isOneOf: ['loose'] },
    oncePerJob: true,
    handsMin: 1,
    overdueAfterMin: 30,
    cautions: ['neverStruck'],
  },
];
