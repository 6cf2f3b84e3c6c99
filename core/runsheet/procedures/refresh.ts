/**
 * Refresh: a battery off the shelf is charged again, proven full and put back (handbook 4). A flooded one is opened first:
 * level and density before the charge, water, then a charge to gassing that mixes it.
 */
import { harmLineV } from '../../battery/shelfLines.ts';
import { numberOf } from '../../units/values.ts';
import { densitiesAt25, SPREAD_EQUALISE, spreadOf } from '../definition/densities.ts';
import { STEP } from '../definition/stepIds.ts';
import type { Procedure, Step, StepContext } from '../definition/step.ts';
import { judgeRefresh } from '../verdict/refreshVerdict.ts';
import { rocked } from './recovery/mixing.ts';
import { closedAgain, hydrometerFields, openedCells } from './recovery/openedCells.ts';
import { afterCharge, chargeStep, readBeforeCharge } from './shared/charge.ts';
import { ACID_SAFETY, safePlace } from './shared/checkIn.ts';
import { heldADay, ocvAfter, wait } from './shared/holding.ts';
import { shelfWords } from './shared/shelf.ts';
import { testing } from './shared/test.ts';

const isFlooded: NonNullable<Step['isFor']> = ({ construction }) => construction === 'flooded';
const isSealed: NonNullable<Step['isFor']> = ({ construction }) => construction !== 'flooded';
const isClosed = ({ valuesOf }: StepContext): boolean => valuesOf('open-cells')['caps'] === 'closed';

const taken: Step = {
  kind: 'gate',
  id: 'refresh-take',
  title: 'Take it off its shelf',
  detail: ({ opened: { battery, type } }) =>
    `Tag ${battery.tag}, ${type.id}. Off whatever it is connected to: negative first. Look at it in good light.`,
  claims: [
    'The tag is the one above',
    'Nothing connected to it',
    'Case whole, no bulge, no leak; posts clean and firm',
  ],
  affirmLabel: 'On the bench, and sound',
  denials: [
    {
      id: 'other-tag',
      label: 'It carries another tag',
      say: 'Find the one with this tag, or leave this run sheet and take that one in.',
      leads: 'hold',
    },
    {
      id: 'damaged',
      label: 'Cracked, bulged or leaking',
      say: 'A damaged case is not charged: to the recycler.',
      leads: 'end',
      outcome: 'retired',
    },
  ],
  handsMin: 2,
  overdueAfterMin: 240,
  cautions: ['localRulesFirst', 'heavy', 'posts'],
};

/** Of the looks into an open battery those a charge needs: nothing is loaded before it is charged. */
const LOOKED_INTO: readonly string[] = [
  'open-cells',
  'hidden-ports',
  STEP.levelsCells,
  STEP.densityBefore,
  STEP.waterCover,
  STEP.waterBefore,
];
const opened: readonly Step[] = openedCells
  .filter(({ id }) => LOOKED_INTO.includes(id))
  .map((step): Step => ({ ...step, isFor: isFlooded }));

/** Mixed, where it has acid that can lie in layers. */
const mixedAndRead: readonly Step[] = [
  {
    ...rocked('refresh-rock'),
    isFor: (type) => isFlooded(type) && (rocked('refresh-rock').isFor?.(type) ?? true),
    isMoot: isClosed,
  },
  {
    kind: 'measure',
    id: STEP.refreshDensity,
    title: 'Density of every cell, charged',
    detail: () =>
      'From the top of each cell, positive post first; it is corrected to 25 °C here. Fresh water lies on top until gas or rocking has mixed it.',
    isFor: isFlooded,
    isMoot: isClosed,
    fields: hydrometerFields,
    holds: () => undefined,
    denials: [],
    remark: (values, { opened: { type } }) => {
      const spread = spreadOf(densitiesAt25(values, type.cells));
      if (spread === undefined) return undefined;
      return spread <= SPREAD_EQUALISE
        ? 'All cells alike.'
        : `Cells differ by ${spread.toFixed(3)} after a full charge: not mixed yet, or a cell is ill.`;
    },
    skipLabel: 'No acid to draw',
    handsMin: 4,
    overdueAfterMin: 60,
    cautions: ['acid'],
  },
  ...closedAgain('refresh').map((step): Step => ({ ...step, oncePerJob: true })),
];

/** It came from where sulfate stays (handbook 4): one that only stood too long holds, one that leaks is known after a day. */
const cameLow = ({ valuesOf, opened: { type } }: StepContext): boolean => {
  const ocvV = numberOf(valuesOf(STEP.ocvSoak)['ocvV']);
  return ocvV !== undefined && ocvV < harmLineV(type.cells);
};

const held: readonly Step[] = [
  // An hour after its charge a tenth of a volt is surface charge still: that is no leak.
  wait('hold-rest', 'Rest before the hold', 'gradeRestMin', () => 'disconnect'),
  ocvAfter(
    STEP.holdOcv,
    'Read it where the hold begins',
    'Surface charge is gone: the hold is counted from here.',
  ),
  ...heldADay(() => STEP.holdOcv),
].map((step): Step => ({
  ...step,
  editions: { from: 5 },
  isMoot: (context) => !cameLow(context),
}));

const CHARGE_WORDS = {
  agm: 'AGM programme or a set current, never a gel programme. It is never opened.',
  gel: 'gel programme or a set current, 14.4 V at most on six cells at 25 °C. It is never opened.',
  flooded: 'until it gasses freely: gas is what mixes its acid. Caps loose.',
} as const;

const first = chargeStep(
  ({ round, opened: { type } }) =>
    round === 1
      ? `To full, not to nearly: ${CHARGE_WORDS[type.construction]}`
      : `Charge ${round} of 3 at most.`,
  'Charge to full',
);
/** One that stood may hold gas inside. */
const charged: Step = {
  ...first,
  cautions: [...first.cautions, 'gasInside'],
  cautionsWhileOn: [...first.cautionsWhileOn, 'gasInside'],
};

export const REFRESH: Procedure = {
  id: 'refresh',
  title: 'Refresh: charge, prove, put back',
  steps: [
    taken,
    safePlace({
      id: 'refresh-safe',
      isFor: isSealed,
      detail: 'No acid is handled, but charging makes gas.',
      claims: [
        'Goggles on; rings off',
        'Ventilated; no spark, no flame; children away',
        'Level, solid surface',
      ],
      cautions: ['gas'],
    }),
    safePlace({
      id: 'refresh-safe-acid',
      isFor: isFlooded,
      detail: 'It is opened, and charging makes gas.',
      claims: ACID_SAFETY,
      cautions: ['acid', 'gas'],
    }),
    ...opened,
    readBeforeCharge(
      'As it stood, nothing connected. Below its recharge line it only stood; far below, find out why first.',
      [
        {
          id: 'stood-flat',
          label: 'It stood flat: recover it instead',
          say: 'Stood until it was flat: recovered, not refreshed.',
          leads: 'end',
          outcome: 'withdrawn',
        },
      ],
      false,
    ),
    charged,
    ...afterCharge,
    ...mixedAndRead,
    ...testing.filter(({ id }) => id === 'rest' || id === STEP.testOcv),
    ...held,
    {
      kind: 'decide',
      id: STEP.verdict,
      title: 'Back to its place, or charge again',
      detail: () => 'Proven full, and resting where a full one rests. A sound voltage alone is not full.',
      judge: judgeRefresh,
      handsMin: 1,
      overdueAfterMin: 240,
      cautions: [],
      shows: ['passOcvV'],
    },
    {
      kind: 'gate',
      id: 'put-back',
      title: 'Tag it with today and put it back',
      detail: (context) => `Behind older stock: first in, first out. ${shelfWords(context)}`,
      claims: ['New tag on: charged today, voltage, check by', 'Back where it stood, disconnected'],
      affirmLabel: 'Tagged and back',
      denials: [
        {
          id: 'no-place',
          label: 'There is no place for it',
          say: 'Find it a cool, dry place, disconnected, and say on the shelf where it stands.',
          leads: 'hold',
        },
      ],
      handsMin: 2,
      overdueAfterMin: 480,
      cautions: ['heavy'],
    },
    {
      kind: 'act',
      id: 'charged',
      title: 'Sign the charge off',
      detail: ({ opened: { battery } }) => `Your name stands under it in the record of ${battery.tag}.`,
      doneLabel: 'Sign: charged and proven full',
      ends: 'charged',
      handsMin: 1,
      overdueAfterMin: 480,
      cautions: [],
    },
  ],
  loop: { from: [STEP.charge], to: STEP.verdict, repeats: 2 },
};
