/** High, then low: several flooded cells asleep, each looked at by itself (handbook 3.4). */
import type { StepValues } from '../../../units/values.ts';
import { cellChoices } from '../../definition/fields.ts';
import { ofCells } from '../../definition/densities.ts';
import type { Hold, MeasureStep, Route, StepContext } from '../../definition/step.ts';
import { byHouse, hard, isFlooded, readRested, refusedPlan } from './shared.ts';
import { highBite, lastBite, lowAfterHigh, off, treat } from './treatments.ts';

interface Cells {
  readonly silent: readonly number[];
  readonly hot: readonly number[];
}

const cellsWords = (cells: readonly number[]): string =>
  `${cells.length === 1 ? 'Cell' : 'Cells'} ${cells.join(', ')}`;

/** What was seen of each cell, by its number. */
function cellsOf(values: StepValues): Cells {
  const seen = ofCells(values, 'cell');
  const which = (what: string): number[] => seen.flatMap((one, index) => (one === what ? [index + 1] : []));
  return { silent: which('silent'), hot: which('hot') };
}

const silentAt = (context: StepContext, stepId: string): readonly number[] =>
  cellsOf(context.valuesIn(stepId, context.round)).silent;

const heats = (hot: readonly number[]): Hold => ({
  why: `${cellsWords(hot)} heats on charge: shorted. It is not charged on; leave this route.`,
  canOverride: false,
});

/** Each cell by itself, as it was in the last minute of a bite: bubbling, silent, or hot to the hand. */
const cellsLookedAt = (
  id: string,
  title: string,
  remark?: (cells: Cells) => string | undefined,
): MeasureStep => ({
  kind: 'measure',
  id,
  title,
  detail: () =>
    'As it was in the last minute of the bite, face away from the holes. A silent one may only be the last to wake; one that heats is shorted.',
  editions: { from: 4 },
  fields: cellChoices('cell', 'Seen', [
    { id: 'bubbling', label: 'Bubbles' },
    { id: 'silent', label: 'Silent' },
    { id: 'hot', label: 'Hot' },
  ]),
  holds: (values) => {
    const { hot } = cellsOf(values);
    return hot.length > 0 ? heats(hot) : undefined;
  },
  denials: [],
  ...(remark ? { remark: (values) => remark(cellsOf(values)) } : {}),
  handsMin: 2,
  overdueAfterMin: 15,
  cautions: ['gasInside'],
});

export const HIGH_THEN_LOW: Route = {
  id: 'high-then-low',
  title: 'High, then low',
  isFor: 'Flooded, several cells asleep.',
  stop: 'A cell that heats ends it; one silent after two bites gets ten minutes more, then it ends.',
  against: 'Heat breaks plates that stood flat; slow reaches the same without it.',
  veto: (context) => {
    if (!isFlooded(context)) return hard(refusedPlan('high-then-low', context));
    return context.opened.rules.firstHours === 'slow'
      ? byHouse('By this house’s rule the first hours of a recovery are slow only.')
      : undefined;
  },
  steps: [
    treat('bite-one', 'High, 15 minutes', 15, highBite, { cautions: ['attended'] }),
    {
      kind: 'act',
      id: 'bite-look',
      title: 'Look at every cell',
      detail: () =>
        'Charger off first. Which bubble, which are silent, which is warm? Note it; one more bite may wake the rest.',
      editions: { to: 3 },
      doneLabel: 'Looked at every cell',
      handsMin: 2,
      overdueAfterMin: 15,
      cautions: ['gasInside'],
    },
    cellsLookedAt('bite-cells', 'Which cells bubble?'),
    treat('bite-two', 'High, 15 minutes more', 15, highBite, { cautions: ['attended'] }),
    {
      kind: 'gate',
      id: 'bite-all',
      title: 'Every cell bubbling?',
      detail: () => 'Each of them, and none hot to the hand.',
      editions: { to: 3 },
      claims: [],
      affirmLabel: 'All bubble, none is hot',
      chambers: {
        name: 'Cell',
        yes: 'bubbling',
        no: 'silent or hot',
        remedy: 'Stop: a cell that stays silent or heats is shorted or dead. Leave this route',
      },
      denials: [],
      handsMin: 2,
      overdueAfterMin: 15,
      cautions: ['gasInside'],
    },
    cellsLookedAt('bite-cells-two', 'Which cells bubble now?', ({ silent }) =>
      silent.length > 0
        ? `${cellsWords(silent)} silent after two bites, and cool: shorted, or the last to wake. Ten to fifteen minutes more tell which.`
        : undefined,
    ),
    {
      ...treat('bite-three', 'High, 10 minutes for the last to wake', 10, lastBite, {
        cautions: ['attended'],
      }),
      editions: { from: 4 },
      isMoot: (context) => silentAt(context, 'bite-cells-two').length === 0,
    },
    {
      ...cellsLookedAt('bite-cells-three', 'Is the last one awake?'),
      isMoot: (context) => silentAt(context, 'bite-cells-two').length === 0,
      holds: (values) => {
        const { hot, silent } = cellsOf(values);
        if (hot.length > 0) return heats(hot);
        return silent.length > 0
          ? {
              why: `${cellsWords(silent)} silent after a third bite: shorted or dead. Leave this route.`,
              canOverride: false,
            }
          : undefined;
      },
    },
    {
      ...treat('bite-last', 'All bubble: 10 minutes more, caps laid on', 10, lastBite, {
        cautions: ['attended'],
      }),
      editions: { from: 4 },
      // Where every cell bubbled after the first bite the second was the one more; after a third they have had it too.
      isMoot: (context) =>
        silentAt(context, 'bite-cells').length === 0 || silentAt(context, 'bite-cells-two').length > 0,
    },
    treat('low', 'Low, caps laid on', 120, lowAfterHigh),
    ...off('low'),
    readRested,
  ],
};
