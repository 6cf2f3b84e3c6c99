/** Reading after the soak, first charge, water, caps (handbook 2.2, steps 7 to 9). */
import { millilitresField } from '../../definition/fields.ts';
import { CELL_LOW } from '../shared/cellLow.ts';
import { afterCharge, chargeStep, readBeforeCharge } from '../shared/charge.ts';
import type { Step } from '../../definition/step.ts';
import { notWater } from '../shared/water.ts';
import { LEVELS } from './fill.ts';

export const charging: readonly Step[] = [
  readBeforeCharge('Open-circuit, nothing connected. Expect 12.1–12.6 V on 12 V.', [CELL_LOW]),
  {
    kind: 'gate',
    id: 'caps-loose-again',
    title: 'Caps loose again',
    detail: ({ opened: { rules } }) =>
      rules.floodedCaps === 'fitted'
        ? 'House rule: fitted while charging. Only caps with open vents stay on.'
        : 'On the holes, not screwed or pressed: fizz and gas must get out, drops must not.',
    editions: { from: 4 },
    // The first charge has its own step for them.
    when: { rule: 'floodedCaps', isOneOf: [] },
    inRepeats: true,
    claims: ['No cap is tight; gas gets out of every cell'],
    affirmLabel: 'Gas gets out',
    denials: [
      {
        id: 'caps-tight',
        label: 'A cap is tight',
        say: 'Loosen it before the charger goes on: closed in, the gas bursts the case.',
        leads: 'hold',
      },
    ],
    handsMin: 1,
    overdueAfterMin: 30,
    cautions: ['gas', 'acid'],
  },
  chargeStep(({ round }) =>
    round === 1
      ? 'A tenth of capacity; look into the cells and at the warmth. Water to the line as needed, never acid. The charger must reach 14.4–14.8 V on 12 V.'
      : `Charge ${round} of 3 at most. Caps loose again.`,
  ),
  ...afterCharge,
  {
    kind: 'measure',
    id: 'water',
    title: 'Levels after the charge',
    detail: () =>
      'From the first charge on only distilled or deionised water goes in, to the UPPER line. Say what went in.',
    fields: [
      {
        kind: 'choice',
        id: 'added',
        label: 'Went in',
        options: [
          { id: 'nothing', label: 'Nothing' },
          { id: 'distilled', label: 'Distilled water' },
          { id: 'tap', label: 'Tap water' },
          { id: 'acid', label: 'Acid' },
        ],
      },
      { ...millilitresField('ml', 'All cells together'), shownWhen: { field: 'added', is: 'distilled' } },
    ],
    holds: ({ added }) =>
      notWater(
        added,
        'Acid no longer goes in after the first charge: it makes the cell too strong for good. Draw it off to the line, top up with distilled water, and enter that; or record why it stays.',
      ),
    denials: [],
    handsMin: 2,
    overdueAfterMin: 60,
    cautions: ['waterOnly'],
  },
  {
    kind: 'gate',
    id: 'levels',
    title: 'Every cell at the line?',
    detail: () => 'With a lamp, each cell. Distilled water only, to the UPPER line.',
    claims: [],
    affirmLabel: 'All at the line',
    chambers: { ...LEVELS, remedy: 'Distilled water to the UPPER line, never acid; look again' },
    denials: [
      {
        id: 'drinks',
        label: 'One cell drank far more',
        say: 'Note which. Bring it to the line with distilled water and take the density of all cells before it goes on.',
        leads: 'hold',
      },
    ],
    handsMin: 1,
    overdueAfterMin: 60,
    cautions: ['waterOnly'],
  },
  {
    kind: 'gate',
    id: 'caps-on',
    title: 'Caps on, wipe it down',
    detail: () =>
      'Press-in caps pushed home by hand, threaded ones finger-tight, no tool. Spills: baking soda, then water.',
    claims: [
      'Every cap home by its kind',
      'Wiped with baking soda and water',
      'Vent hose on, not kinked, not plugged',
    ],
    affirmLabel: 'Caps on, wiped',
    denials: [
      {
        id: 'vent-plug-on',
        label: 'The vent plug is still on',
        say: 'Take it off and bin it: a plugged battery can burst.',
        leads: 'hold',
      },
    ],
    handsMin: 3,
    overdueAfterMin: 60,
    cautions: ['ventPlug'],
  },
];
