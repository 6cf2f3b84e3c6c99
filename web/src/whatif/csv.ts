/** The figures of What-if as a file any spreadsheet opens. */
import papaparse from 'papaparse';
import type { Outcome } from '@cork-ember/core/whatif/answer.ts';
import { markOf } from './marks.ts';
import { QUANTITIES } from './quantities.ts';

/** A plan that was run, and its place among the plans. */
export interface Drawing {
  readonly index: number;
  readonly name: string;
  readonly charger: string;
  readonly outcome: Outcome;
}

/**
 * Every kept point of every plan, one row each: nothing thinned further than the charts are.
 * @param battery as it is named on the page
 */
export function csvOf(battery: string, drawings: readonly Drawing[]): string {
  const fields = [
    'battery',
    'plan',
    'name',
    'charger',
    'hours',
    ...QUANTITIES.map(({ name, unit }) => `${name} (${unit})`),
  ];
  const data = drawings.flatMap(({ index, name, charger, outcome }) =>
    outcome.seconds.map((seconds, row) => [
      battery,
      markOf(index).letter,
      name,
      charger,
      (seconds / 3600).toFixed(4),
      ...QUANTITIES.map(({ id, scale, decimals }) =>
        ((outcome.columns[id][row] ?? 0) * scale).toFixed(decimals + 1),
      ),
    ]),
  );
  return papaparse.unparse({ fields, data });
}
