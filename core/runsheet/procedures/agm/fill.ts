/** Filling an AGM from its own pack, and seeing that every chamber emptied (handbook 2.3, steps 1 to 7). */
import { backToSupplier } from '../shared/backToSupplier.ts';
import { checkFilledMass, packMassG } from '../../../battery/packMass.ts';
import { massField } from '../../definition/fields.ts';
import type { Step } from '../../definition/step.ts';

export const filling: readonly Step[] = [
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
    kind: 'gate',
    id: 'pack-source',
    title: 'A pack bought apart',
    detail: () =>
      'House rule: a pack of the same code may come from elsewhere. It must be as the maker packed it.',
    claims: ['Sealed as the maker packed it', 'Within its date', 'Same code, and for this maker’s battery'],
    affirmLabel: 'It is as packed',
    denials: [
      {
        id: 'opened-pack',
        label: 'It was opened or is out of date',
        say: 'Set it aside as acid waste and take a sealed one of the same code.',
        leads: 'hold',
      },
    ],
    when: { rule: 'acidSource', isOneOf: ['matchedApart'] },
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
    kind: 'act',
    id: 'pin-holes',
    title: 'Prick one hole per chamber',
    detail: () =>
      'House rule: only with the pin the maker supplied, in the dimple at the top of each chamber.',
    doneLabel: 'One hole per chamber',
    when: { rule: 'packHoles', isOneOf: ['makersPin'] },
    handsMin: 1,
    overdueAfterMin: 10,
    cautions: ['packDrips', 'neverForce'],
  },
  {
    kind: 'gate',
    id: 'bubbles',
    title: 'Bubbles in every chamber?',
    detail: ({ opened: { type } }) => `Look at all ${type.cells} chambers. Tap one that stays silent.`,
    claims: [],
    affirmLabel: 'All are bubbling',
    chambers: {
      name: 'Chamber',
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
    cautions: ['neverForce', 'rottenEgg'],
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
      name: 'Chamber',
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
    detail: ({ basis, threshold }) => {
      if (basis.rules.packDwell === 'short')
        return 'Counted from pressing on, as the house rule says. The mats draw the last drops.';
      const from = 'Counted from the last chamber seen empty. The mats draw the last drops.';
      if (basis.rules.packDwell !== 'asSheet') return from;
      const { source, value } = threshold('packDwellMin');
      return source === 'handbook'
        ? `${from} House rule: as the maker’s sheet says. No sheet of this type is entered; until one is, ${value} min by capacity.`
        : `${from} House rule: as the maker’s sheet says.`;
    },
    minimum: 'packDwellMin',
    clockStart: ({ basis }) => (basis.rules.packDwell === 'short' ? 'pack-on' : 'empty'),
    canOverride: true,
    handsMin: 0,
    overdueAfterMin: 60,
    cautions: ['neverForce', 'rottenEgg'],
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
        ? `Filled less dry should be ${type.pack.volumeMl} mL × ${type.pack.densityKgPerL.toFixed(3)} kg/L = ${packMassG(type.pack).toFixed(0)} g of acid.`
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
