/**
 * Looking into an opened flooded battery: how it opens, level, density, voltage along the cells, load, then water; water
 * only after the readings, but where plates stand bare before any load (handbook 3.2).
 */
import { loadTestFor } from '../../../battery/loadTest.ts';
import { loadScaleField } from '../../definition/testerFields.ts';
import { densitiesAt25, ofCells, SPREAD_BAD, SPREAD_EQUALISE, spreadOf } from '../../definition/densities.ts';
import {
  bandChoices,
  cellChoices,
  cellDensitySpec,
  dipFields,
  electrolyteTempField,
  MOST_CELLS,
  voltageField,
  waterDoubt,
  waterFields,
} from '../../definition/fields.ts';
import type {
  ChoiceField,
  Hold,
  MeasureStep,
  NumberField,
  Step,
  StepContext,
} from '../../definition/step.ts';
import type { StepValues } from '../../../units/values.ts';
import { numberOf } from '../../../units/values.ts';
import { notWater } from '../shared/water.ts';

/** Per cell, as the hydrometer floats; cells with no acid above the plates are left empty. */
const cellDensity = (cell: number): NumberField => ({
  kind: 'number',
  id: `density${cell}`,
  inCell: cell,
  optional: true,
  spec: () => cellDensitySpec(`Cell ${cell}`),
});

/** The density of every cell, and how warm the acid is. */
export const densityFields: readonly NumberField[] = [
  ...Array.from({ length: MOST_CELLS }, (_, index) => cellDensity(index + 1)),
  electrolyteTempField,
];

/** What the hydrometer shows: figures, or bands and balls that are intervals. */
const densityBy: ChoiceField = {
  kind: 'choice',
  id: 'by',
  label: 'Hydrometer with',
  optional: true,
  usual: [{ instrument: 'hydrometer', gives: { figures: 'figures', bands: 'bands' } }],
  options: [
    { id: 'figures', label: 'A scale' },
    { id: 'bands', label: 'Bands; or balls: none red, half white, all green' },
  ],
};
const byHydrometer: readonly NumberField[] = densityFields.map((field) => ({
  ...field,
  shownWhen: { field: 'by', is: 'figures', orUnsaid: true },
}));

/** Density of every cell, by figures or by bands. */
export const hydrometerFields = [densityBy, ...byHydrometer, ...bandChoices] as const;

/** What came to light as it was opened: caps, ports under a label, or a case that stays closed. */
const isClosed = ({ valuesOf }: StepContext): boolean => valuesOf('open-cells')['caps'] === 'closed';
const hasHiddenPorts = ({ valuesOf }: StepContext): boolean => valuesOf('open-cells')['caps'] === 'hidden';

const LEVELS = 'level';
const levelsOf = ({ valuesOf }: StepContext): readonly unknown[] => ofCells(valuesOf('levels-cells'), LEVELS);
const hasBarePlates = (context: StepContext): boolean => levelsOf(context).includes('plates-bare');

const cellsNamed = (cells: readonly number[]): string =>
  cells.length === 1 ? `Cell ${cells[0]}` : `Cells ${cells.join(', ')}`;

/** What the levels say, the cells by their numbers. */
function levelWords(values: StepValues): string | undefined {
  const levels = ofCells(values, LEVELS).filter((level) => level !== undefined);
  const which = (level: string): number[] =>
    levels.flatMap((one, index) => (one === level ? [index + 1] : []));
  const bare = which('plates-bare');
  const low = which('low');
  if (bare.length > 0)
    return `${cellsNamed(bare)}: plates bare, dried out. What stood bare is lost; the rest may come back.`;
  if (low.length === 0) return undefined;
  return low.length === levels.length
    ? 'All low: overcharge or neglect.'
    : `${cellsNamed(low)} low: suspect ${low.length === 1 ? 'that cell' : 'those cells'}.`;
}

const WATER_WORDS = {
  coverPlates: 'just over the plates, no more: the level rises on charge',
  midMark: 'to the mid mark, by this house’s rule: the level rises on charge',
} as const;

/** What went in, and how much of it. */
const wentIn: ChoiceField = {
  kind: 'choice',
  id: 'added',
  label: 'What went in',
  options: [
    { id: 'none', label: 'Nothing' },
    { id: 'distilled', label: 'Distilled water' },
    { id: 'acid', label: 'Acid' },
    { id: 'tap', label: 'Tap water' },
  ],
};

const wrongWater = (values: StepValues): Hold | undefined =>
  notWater(
    values['added'],
    'Acid never goes into a battery in service: what is missing is water. Draw it off, or record why it stays.',
  ) ?? (values['added'] === 'distilled' ? waterDoubt(values) : undefined);

/** Water for opened cells, wherever it stands in the order of work. */
const water = (own: Pick<MeasureStep, 'id' | 'title' | 'detail'> & Partial<MeasureStep>): MeasureStep => ({
  kind: 'measure',
  fields: [wentIn, ...waterFields({ field: 'added', is: 'distilled' })],
  holds: wrongWater,
  denials: [],
  handsMin: 3,
  overdueAfterMin: 60,
  cautions: ['waterOnly'],
  ...own,
});

/** As logs of the first three editions have it: of the whole battery, no cell by its number. */
const levelsOfOldLogs: Step = {
  kind: 'measure',
  id: 'levels-before',
  title: 'Look into every cell',
  detail: () => 'Caps off into distilled water; a lamp into each cell.',
  editions: { to: 3 },
  fields: [
    {
      kind: 'choice',
      id: 'levels',
      label: 'Acid above the plates',
      options: [
        { id: 'covered', label: 'In every cell' },
        { id: 'all-low', label: 'All low, plates covered' },
        { id: 'one-low', label: 'One cell low' },
        { id: 'bare', label: 'Plates bare' },
      ],
    },
  ],
  holds: () => undefined,
  denials: [],
  remark: ({ levels }) =>
    ({
      'all-low': 'All low: overcharge or neglect.',
      'one-low': 'One low: suspect that cell.',
      bare: 'Plates bare: dried out. What stood bare is lost; the rest may come back.',
    })[String(levels)],
  handsMin: 2,
  overdueAfterMin: 60,
  cautions: ['acid', 'gasInside'],
};

const opening: readonly Step[] = [
  {
    kind: 'measure',
    id: 'open-cells',
    title: 'Open the cells',
    detail: () =>
      'Press-in caps: pliers, straight up. Threaded: fingers or a coin. Some that call themselves maintenance-free have ports under a label. Caps wait in distilled water.',
    editions: { from: 4 },
    fields: [
      {
        kind: 'choice',
        id: 'caps',
        label: 'How it opens',
        options: [
          { id: 'caps', label: 'Caps' },
          { id: 'hidden', label: 'Ports under a label' },
          { id: 'closed', label: 'It stays closed' },
        ],
      },
    ],
    holds: () => undefined,
    denials: [],
    initial: ({ opened: { type } }): StepValues => (type.hasHiddenPorts ? { caps: 'hidden' } : {}),
    remark: ({ caps }) =>
      caps === 'closed' ? 'Then no cell is looked into: charge, voltage and tester must say it.' : undefined,
    handsMin: 3,
    overdueAfterMin: 60,
    cautions: ['acid', 'gasInside', 'neverPry'],
  },
  {
    kind: 'gate',
    id: 'hidden-ports',
    title: 'Lift the label over the ports',
    detail: () =>
      'Photograph it as it is. Warm it, and lift it whole from one corner; it goes back, so keep it with the battery. Opened at its ports alone, and only where its caps seal again.',
    editions: { from: 4 },
    isMoot: (context) => !hasHiddenPorts(context),
    claims: [
      'Label photographed, warmed, lifted whole and kept with the battery',
      'Caps come out at the ports, undamaged, and will seal again',
      'Caps in distilled water',
    ],
    affirmLabel: 'Open at its ports',
    denials: [
      {
        id: 'will-not-seal',
        label: 'A cap is damaged or will not seal',
        say: 'One that does not seal loses its water and sprays acid: find a cap that does, or leave this battery.',
        leads: 'hold',
      },
    ],
    handsMin: 6,
    overdueAfterMin: 60,
    cautions: ['neverPry', 'acid'],
  },
];

export const openedCells: readonly Step[] = [
  ...opening,
  levelsOfOldLogs,
  {
    kind: 'measure',
    id: 'levels-cells',
    title: 'Look into every cell',
    detail: () => 'A lamp into each cell, the first at the positive post.',
    editions: { from: 4 },
    isMoot: isClosed,
    fields: cellChoices(LEVELS, 'Acid above the plates', [
      { id: 'at-line', label: 'At line' },
      { id: 'low', label: 'Low' },
      { id: 'plates-bare', label: 'Bare' },
    ]),
    holds: () => undefined,
    denials: [],
    remark: levelWords,
    handsMin: 2,
    overdueAfterMin: 60,
    cautions: ['acid', 'gasInside'],
  },
  {
    kind: 'measure',
    id: 'density-before',
    title: 'Density, cell by cell',
    detail: () =>
      'Positive post first. It is corrected to 25 °C here. All low and equal: discharged or sulfated. A cell without acid to draw stays empty.',
    isMoot: isClosed,
    fields: hydrometerFields,
    holds: () => undefined,
    denials: [],
    remark: (values) => {
      const spread = spreadOf(densitiesAt25(values, MOST_CELLS));
      if (spread === undefined || spread <= SPREAD_EQUALISE) return undefined;
      return spread > SPREAD_BAD
        ? `Cells differ by ${spread.toFixed(3)}: after a full charge that is a bad cell.`
        : `Cells differ by ${spread.toFixed(3)}: worth evening out.`;
    },
    skipLabel: 'No acid to draw',
    handsMin: 4,
    overdueAfterMin: 60,
    cautions: ['acid'],
  },
  water({
    id: 'water-cover',
    title: 'Cover the bare plates first',
    detail: () =>
      'Distilled water just over the plates, in the cells that stand bare: a dry cell can light itself from inside. No load is put on this battery before its charge.',
    editions: { from: 4 },
    isMoot: (context) => !hasBarePlates(context),
    cautions: ['waterOnly', 'gasInside', 'acid'],
  }),
  {
    kind: 'measure',
    id: 'dips-before',
    title: 'Voltage along the cells',
    detail: ({ opened: { type } }) =>
      `Two dip probes of one metal in the acid: positive post to cell 1, cell to cell, last cell to negative post, ${type.cells + 1} readings that add up to the battery. A sound step is 2.00–2.15 V; what a dead cell lacks shows in either of two neighbours.`,
    editions: { from: 4 },
    isMoot: isClosed,
    fields: dipFields,
    holds: () => undefined,
    denials: [],
    skipLabel: 'No dip probes',
    handsMin: 6,
    overdueAfterMin: 60,
    cautions: ['acid', 'gasInside'],
  },
  {
    kind: 'measure',
    id: 'load-before',
    title: 'Put a load on it',
    detail: ({ opened: { type, rules }, valuesOf }) => {
      const tempC = numberOf(valuesOf('first-ocv')['tempC']) ?? 25;
      const { currentA, seconds } = loadTestFor(type, rules.loadTest, tempC);
      return `${currentA.toFixed(0)} A for ${seconds} s, caps on, read the lowest voltage. On a flat battery it condemns good ones: below 12 V leave it out, charge it and load it then.`;
    },
    editions: { from: 4 },
    isMoot: hasBarePlates,
    fields: [
      {
        kind: 'choice',
        id: 'by',
        label: 'Load tester with',
        optional: true,
        usual: [{ instrument: 'loadTester', gives: { volts: 'volts', colours: 'scale' } }],
        options: [
          { id: 'volts', label: 'Volts' },
          { id: 'scale', label: 'Colours only' },
        ],
      },
      {
        ...voltageField({
          id: 'loadV',
          label: 'Lowest voltage under load',
          plausible: [4, 12.4],
          quantity: 'loadVoltage',
        }),
        shownWhen: { field: 'by', is: 'volts', orUnsaid: true },
      },
      { ...loadScaleField, shownWhen: { field: 'by', is: 'scale' } },
    ],
    holds: () => undefined,
    denials: [],
    skipLabel: 'Not now: flat, or no load tester',
    handsMin: 3,
    overdueAfterMin: 60,
    cautions: ['sparkAtTest', 'gasInside'],
  },
  water({
    id: 'water-before',
    title: 'Water, only after the readings',
    detail: ({ opened: { rules } }) =>
      `Distilled water ${WATER_WORDS[rules.waterBefore]}. Density means nothing from now until it has mixed: a charge to gassing, or rocking and hours.`,
    isMoot: (context) => isClosed(context) || hasBarePlates(context),
  }),
];

/** After a charge of an opened battery: to the line, then closed again (handbook 3.4, water back). */
export const closedAgain = (id: string): readonly Step[] => {
  const isHere = {
    editions: { from: 4 },
    isFor: ({ construction }) => construction === 'flooded',
    isMoot: isClosed,
  } satisfies Pick<Step, 'editions' | 'isFor' | 'isMoot'>;
  return [
    water({
      ...isHere,
      id: `${id}-to-line`,
      title: 'Levels to the line',
      detail: () =>
        'A lamp into each cell. Now that it is charged it stands as high as it will: distilled water to the line, no acid.',
      cautions: ['waterOnly', 'acid'],
    }),
    {
      ...isHere,
      kind: 'gate',
      id: `${id}-caps`,
      title: 'Caps back on, wipe it down',
      detail: (context) =>
        hasHiddenPorts(context)
          ? 'Caps out of the water, dry, into the ports they came from until they seal; the label goes back over them. Spills: baking soda, then water.'
          : 'Press-in caps pushed straight home by hand, threaded ones finger-tight, no tool. Spills: baking soda, then water.',
      claims: ['Every cap home by its kind', 'Wiped with baking soda and water'],
      affirmLabel: 'Caps on, wiped',
      denials: [
        {
          id: 'cap-missing',
          label: 'A cap is missing or broken',
          say: 'It is not left open: acid and dirt go both ways. Find one that fits.',
          leads: 'hold',
        },
      ],
      handsMin: 3,
      overdueAfterMin: 60,
      cautions: ['acid'],
    },
  ];
};
