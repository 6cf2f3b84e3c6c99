import { inShop } from '../region/shopRegion.ts';

/** What every chart's axes share: the look of their figures, and all of them shown. */
export const CHART_AXIS = {
  type: 'number',
  interval: 0,
  stroke: 'var(--line)',
  tick: { fontSize: 12, fontFamily: 'var(--font-mono)', fill: 'var(--soft)' },
} as const;

/** No two lines of an axis bear the same figure. */
const digitsFor = (spread: number, digits: number): number =>
  spread < 0.5 ? Math.max(2, digits) : spread < 4 ? Math.max(1, digits) : digits;

/**
 * The upright axis of a small chart.
 * @param ends least and most of each point that is drawn
 * @param digits of its figures, where they lie far apart
 */
export function valueAxis(ends: readonly (readonly number[])[], digits: number) {
  const spread =
    Math.max(...ends.map(([, most = 0]) => most)) - Math.min(...ends.map(([least = 0]) => least));
  const shown = digitsFor(spread, digits);
  return {
    ...CHART_AXIS,
    domain: ['auto', 'auto'] as ['auto', 'auto'],
    tickCount: 4,
    width: 56,
    tickFormatter: (value: number) => inShop(value.toFixed(shown)),
  };
}

/** What was read each second, as an area between what stood out. */
export const KEPT_AREA = {
  stroke: 'var(--ember)',
  strokeWidth: 1.5,
  fill: 'var(--ember)',
  fillOpacity: 0.35,
  isAnimationActive: false,
} as const;
