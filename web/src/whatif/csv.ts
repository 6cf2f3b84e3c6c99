/** The figures of What-if as a file any spreadsheet opens. */
import papaparse from 'papaparse';
import type { Outcome } from '@cork-ember/core/whatif/answer.ts';
import { markOf } from './marks.ts';
import { inShop, shopRegion, unitHere } from '../region/shopRegion.ts';
import { decimalsHere, QUANTITIES, shownHere } from './quantities.ts';

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
  const { decimalMark } = shopRegion();
  const figure = (value: number, decimals: number): string =>
    value.toFixed(decimals).replace('.', decimalMark);
  const fields = [
    'battery',
    'plan',
    'name',
    'charger',
    'hours',
    ...QUANTITIES.map(({ name, unit }) => `${inShop(name)} (${unitHere(unit)})`),
  ];
  const data = drawings.flatMap(({ index, name, charger, outcome }) =>
    outcome.seconds.map((seconds, row) => [
      battery,
      markOf(index).letter,
      name,
      charger,
      figure(seconds / 3600, 4),
      ...QUANTITIES.map((quantity) =>
        figure(shownHere(quantity, outcome.columns[quantity.id][row] ?? 0), decimalsHere(quantity) + 1),
      ),
    ]),
  );
  // Where a comma marks decimals a spreadsheet parts columns by semicolons.
  return papaparse.unparse({ fields, data }, { delimiter: decimalMark === ',' ? ';' : ',' });
}
