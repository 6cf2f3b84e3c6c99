/** Looking into an opened flooded battery: level, density, then water; water only after the readings (handbook 3.2). */
import { hydrometerTo25 } from '../../../electrolyte/density.ts';
import { cellDensitySpec, electrolyteTempField, MOST_CELLS, waterDoubt, waterFields } from '../../fields.ts';
import type { NumberField, Step } from '../../step.ts';

/** Per cell, as the hydrometer floats; cells with no acid above the plates are left empty. */
const cellDensity = (cell: number): NumberField => ({
  kind: 'number',
  id: `density${cell}`,
  inCell: cell,
  optional: true,
  spec: () => cellDensitySpec(`Cell ${cell}`),
});

/** The densities read, corrected to 25 °C; undefined where a cell was not read. */
export function densitiesAt25(
  values: Readonly<Record<string, number | string>>,
  cells: number,
): (number | undefined)[] {
  const acidC = values['acidC'];
  return Array.from({ length: cells }, (_, index) => {
    const read = values[`density${index + 1}`];
    return typeof read === 'number' && typeof acidC === 'number' ? hydrometerTo25(read, acidC) : undefined;
  });
}

/** Between cells, g/cm³: worth an equalise, and a bad cell once charged (handbook 3.2). */
export const SPREAD_EQUALISE = 0.03;
export const SPREAD_BAD = 0.05;

export function spreadOf(densities: readonly (number | undefined)[]): number | undefined {
  const read = densities.filter((one) => one !== undefined);
  return read.length < 2 ? undefined : Math.max(...read) - Math.min(...read);
}

const WATER_WORDS = {
  coverPlates: 'just over the plates, no more: the level rises on charge',
  midMark: 'to the mid mark, by this house’s rule: the level rises on charge',
} as const;

export const openedCells: readonly Step[] = [
  {
    kind: 'measure',
    id: 'levels-before',
    title: 'Look into every cell',
    detail: () => 'Caps off into distilled water; a lamp into each cell.',
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
  },
  {
    kind: 'measure',
    id: 'density-before',
    title: 'Density, cell by cell',
    detail: () =>
      'Positive post first. It is corrected to 25 °C here. All low and equal: discharged or sulfated. A cell without acid to draw stays empty.',
    fields: [
      ...Array.from({ length: MOST_CELLS }, (_, index) => cellDensity(index + 1)),
      electrolyteTempField,
    ],
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
  {
    kind: 'measure',
    id: 'water-before',
    title: 'Water, only after the readings',
    detail: ({ opened: { rules } }) =>
      `Distilled water ${WATER_WORDS[rules.waterBefore]}. Density means nothing from now until it has mixed: a charge to gassing, or rocking and hours.`,
    fields: [
      {
        kind: 'choice',
        id: 'added',
        label: 'What went in',
        options: [
          { id: 'none', label: 'Nothing' },
          { id: 'distilled', label: 'Distilled water' },
          { id: 'acid', label: 'Acid' },
          { id: 'tap', label: 'Tap water' },
        ],
      },
      ...waterFields({ field: 'added', is: 'distilled' }),
    ],
    holds: (values) => {
      const { added } = values;
      if (added === 'acid')
        return {
          why: 'Acid never goes into a battery in service: what is missing is water. Draw it off, or record why it stays.',
          canOverride: true,
        };
      if (added === 'tap')
        return {
          why: 'Tap water carries iron and chlorine that discharge the plates for good. Draw it off and use distilled water; or record why it stays.',
          canOverride: true,
        };
      return added === 'distilled' ? waterDoubt(values) : undefined;
    },
    denials: [],
    handsMin: 3,
    overdueAfterMin: 60,
    cautions: ['waterOnly'],
  },
];
