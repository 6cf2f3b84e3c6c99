/** What every chart's axes share: the look of their figures, and all of them shown. */
export const CHART_AXIS = {
  type: 'number',
  interval: 0,
  stroke: 'var(--line)',
  tick: { fontSize: 12, fontFamily: 'var(--font-mono)', fill: 'var(--soft)' },
} as const;
