/**
 * Commissioning a dry-charged AGM battery from its own acid pack: handbook 2.1, 2.3, 2.5 and 10, step by
 * step. This file is data: it says what is asked, in which order and where a "no" leads.
 */
import { checkFilledMass } from '../../battery/packMass.ts';
import { judgeCommissioning } from '../commissioningVerdict.ts';
import { massField, printedFields, temperatureField, voltageField } from '../fields.ts';
import type { Denial, Procedure, Step } from '../step.ts';
import { loadTestFor } from '../../battery/loadTest.ts';

const backToSupplier = (id: string, label: string, say: string): Denial => ({
  id,
  label,
  say,
  leads: 'end',
  outcome: 'returned',
});

const checkedIn: readonly Step[] = [
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

const filling: readonly Step[] = [
  {
    kind: 'gate',
    id: 'pack-code',
    title: 'Match the pack’s code',
    detail: ({ opened: { type } }) =>
      `Type or scan the code on the pack. ${type.id} takes ${type.pack?.code ?? '—'}: the amount is exact for this model, never another pack, never loose acid.`,
    claims: [],
    affirmLabel: 'Check the code',
    denials: [
      backToSupplier(
        'pack-missing',
        'The right pack was not in the box',
        'No pack of its own: do not commission. Ask the supplier for the right one.',
      ),
    ],
    code: { label: 'Code on the pack', expected: ({ opened }) => opened.type.pack?.code ?? '' },
    handsMin: 1,
    overdueAfterMin: 60,
    cautions: [],
  },
  {
    kind: 'measure',
    id: 'weigh-dry',
    title: 'Weigh it dry',
    detail: () => 'Telling, if there is a scale: a short fill shows in the mass and nowhere else.',
    fields: [massField('dryG', 'Mass, dry', false)],
    holds: () => undefined,
    denials: [],
    skipLabel: 'No scale, go on',
    handsMin: 1,
    overdueAfterMin: 60,
    cautions: [],
  },
  {
    kind: 'gate',
    id: 'foil-off',
    title: 'Peel the foil off',
    detail: () =>
      'Set the pack’s plastic cap strip aside, clean: it becomes the lid. The thin seals over the chambers stay whole.',
    claims: ['Foil was whole and is off', 'Cap strip set aside, clean', 'Chamber seals of the pack whole'],
    affirmLabel: 'Foil off, seals whole',
    denials: [
      backToSupplier(
        'foil-open',
        'The foil was open',
        'Foil open: do not commission. Back to the supplier with the return note.',
      ),
      {
        id: 'seal-pierced',
        label: 'A chamber seal is pierced',
        say: 'Set this pack aside as acid waste and take a fresh one of the same code.',
        leads: 'hold',
      },
    ],
    handsMin: 1,
    overdueAfterMin: 30,
    cautions: ['acid'],
  },
  {
    kind: 'gate',
    id: 'pack-on',
    title: 'Press the pack on',
    detail: () =>
      'Battery level and solid. Pack upside down, lined up, pressed firmly straight down: the battery’s own spikes open the seals.',
    claims: [],
    affirmLabel: 'Pack pressed on',
    denials: [
      {
        id: 'not-level',
        label: 'It does not stand level',
        say: 'Find a level, solid place first: a tilted pack fills unevenly.',
        leads: 'hold',
      },
    ],
    guard: 'fill-and-charge-same-day',
    handsMin: 1,
    overdueAfterMin: 30,
    cautions: ['acid', 'neverForce'],
  },
  {
    kind: 'gate',
    id: 'bubbles',
    title: 'Bubbles in every chamber?',
    detail: ({ opened: { type } }) => `Look at all ${type.cells} chambers. Tap one that stays silent.`,
    claims: [],
    affirmLabel: 'All are bubbling',
    chambers: {
      yes: 'bubbles',
      no: 'silent',
      remedy: 'Knock lightly on pack and case, wait a minute, look again',
    },
    denials: [
      backToSupplier(
        'never-bubbles',
        'A chamber never starts',
        'A chamber never emptied: do not charge. Back to the supplier with the return note.',
      ),
    ],
    handsMin: 1,
    lookAfterMin: () => 2,
    overdueAfterMin: 10,
    cautions: ['neverForce'],
  },
  {
    kind: 'gate',
    id: 'empty',
    title: 'Every chamber empty?',
    detail: () =>
      'Note the moment the last chamber is seen empty: the time on the battery counts from here. Tap one that still holds acid.',
    claims: [],
    affirmLabel: 'All are empty',
    chambers: {
      yes: 'empty',
      no: 'holds acid',
      remedy: 'Knock lightly on pack and case; never squeeze or lift; look again',
    },
    denials: [
      backToSupplier(
        'never-empties',
        'A chamber will not empty',
        'A chamber held its acid back: do not charge. Back to the supplier with the return note.',
      ),
    ],
    handsMin: 1,
    lookAfterMin: ({ opened }) => (opened.type.capacityAh <= 12 ? 12 : 25),
    overdueAfterMin: 30,
    cautions: ['neverForce'],
  },
  {
    kind: 'dwell',
    id: 'pack-dwell',
    title: 'Leave the pack on',
    detail: ({ basis }) =>
      basis.rules.packDwell === 'short'
        ? 'Counted from pressing on, as the house rule says. The mats draw the last drops.'
        : 'Counted from the last chamber seen empty. The mats draw the last drops.',
    minimum: 'packDwellMin',
    clockStart: ({ basis }) => (basis.rules.packDwell === 'short' ? 'pack-on' : 'empty'),
    canOverride: true,
    handsMin: 0,
    overdueAfterMin: 60,
    cautions: ['neverForce'],
    shows: ['packDwellMin'],
  },
  {
    kind: 'gate',
    id: 'pack-off',
    title: 'Lift the acid pack off',
    detail: () => 'Every chamber is empty. Straight up, over the tray; into the acid waste.',
    claims: ['Every chamber is empty', 'Pack lifted straight off', 'Pack in the acid waste'],
    affirmLabel: 'Pack is off',
    denials: [
      {
        id: 'not-empty',
        label: 'One still holds acid',
        say: 'Leave it on, knock lightly, and look again.',
        leads: 'hold',
      },
    ],
    handsMin: 1,
    overdueAfterMin: 30,
    cautions: ['packDrips'],
  },
  {
    kind: 'measure',
    id: 'weigh-filled',
    title: 'Weigh it filled',
    detail: ({ opened: { type } }) =>
      type.pack
        ? `Filled less dry should be ${type.pack.volumeMl} mL × ${type.pack.densityKgPerL} kg/L = ${(type.pack.volumeMl * type.pack.densityKgPerL).toFixed(0)} g of acid.`
        : '',
    fields: [massField('filledG', 'Mass, filled', true)],
    holds: (values, context) => {
      const { pack } = context.opened.type;
      const dryG = context.valuesOf('weigh-dry')['dryG'];
      const filledG = values['filledG'];
      if (!pack || typeof dryG !== 'number' || typeof filledG !== 'number') return undefined;
      const tolerance = context.threshold('massTolerancePct').value;
      const check = checkFilledMass(pack, dryG, filledG, tolerance / 100);
      if (check.isFull) return undefined;
      const side =
        check.deviation < 0 ? 'A chamber may be short' : 'More than the pack holds: check both readings';
      return {
        why: `${check.gainedG.toFixed(0)} g went in, ${check.expectedG.toFixed(0)} g were due (${(check.deviation * 100).toFixed(1)} %, ±${tolerance} % allowed). ${side}. Weigh again, or decide.`,
        canOverride: true,
      };
    },
    denials: [
      backToSupplier(
        'short-fill',
        'Short fill: send it back',
        'Short fill by mass: back to the supplier with the return note.',
      ),
    ],
    needs: 'weigh-dry',
    skipLabel: 'Leave it out',
    handsMin: 1,
    overdueAfterMin: 30,
    cautions: ['heavy'],
    shows: ['massTolerancePct'],
  },
];

const charging: readonly Step[] = [
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

const testing: readonly Step[] = [
  {
    kind: 'dwell',
    id: 'rest',
    title: 'Let it rest',
    detail: () => 'Fresh off charge the meter reads surface charge: 13.1 V says nothing yet.',
    minimum: 'restMin',
    clockStart: () => 'disconnect',
    canOverride: false,
    handsMin: 0,
    overdueAfterMin: 240,
    cautions: [],
    shows: ['restMin'],
  },
  {
    kind: 'measure',
    id: 'test-ocv',
    title: 'Read the rested voltage',
    detail: ({ threshold }) =>
      `Before any load. ${threshold('passOcvV').value.toFixed(2)} V is the floor, beside proof of full.`,
    fields: [
      voltageField({ id: 'ocvV', label: 'Open-circuit voltage', plausible: [11, 13.4], quantity: 'voltage' }),
      temperatureField,
    ],
    holds: () => undefined,
    denials: [],
    handsMin: 1,
    overdueAfterMin: 240,
    cautions: [],
    shows: ['passOcvV'],
  },
  {
    kind: 'measure',
    id: 'test-load',
    title: 'Load it, or use the tester',
    detail: ({ opened: { type, rules }, valuesOf }) => {
      const tempC = valuesOf('test-ocv')['tempC'];
      const test = loadTestFor(type, rules.loadTest, typeof tempC === 'number' ? tempC : 25);
      return `Load: ${test.currentA.toFixed(0)} A for ${test.seconds} s, holding ${test.floorV.toFixed(2)} V or more (${test.basis}). Tester: set to AGM and to the rating on the label.`;
    },
    fields: [
      {
        kind: 'choice',
        id: 'method',
        label: 'Tested with',
        options: [
          { id: 'load', label: 'Load tester' },
          { id: 'tester', label: 'Conductance tester' },
        ],
      },
      {
        ...voltageField({
          id: 'loadV',
          label: 'Lowest voltage under load',
          plausible: [6, 12.4],
          quantity: 'loadVoltage',
        }),
        shownWhen: { field: 'method', is: 'load' },
      },
      {
        kind: 'number',
        id: 'testerA',
        quantity: 'cranking',
        shownWhen: { field: 'method', is: 'tester' },
        spec: ({ opened: { type } }) => ({
          label: `Cranking current (${type.cranking?.standard ?? 'EN'})`,
          unit: 'A',
          decimals: 0,
          possible: { min: 0, max: 2000 },
          plausible: { min: (type.cranking?.amps ?? 100) * 0.3, max: (type.cranking?.amps ?? 100) * 1.6 },
        }),
      },
    ],
    holds: () => undefined,
    denials: [],
    handsMin: 2,
    overdueAfterMin: 240,
    cautions: ['sparkAtTest'],
    shows: ['testerPassPct'],
  },
  {
    kind: 'decide',
    id: 'verdict',
    title: 'Pass, charge again, or reject',
    detail: () => 'All three must hold. A floor voltage alone is not full.',
    judge: judgeCommissioning,
    handsMin: 1,
    overdueAfterMin: 240,
    cautions: [],
    shows: ['passOcvV'],
  },
];

const handingOver: readonly Step[] = [
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

export const AGM_FROM_PACK: Procedure = {
  id: 'agm-from-pack',
  title: 'AGM from its own pack',
  steps: [...checkedIn, ...filling, ...charging, ...testing, ...handingOver],
  loop: { from: 'charge', to: 'verdict', repeats: 2 },
};
