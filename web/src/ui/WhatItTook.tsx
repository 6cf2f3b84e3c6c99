/** What a job takes by its run sheet, and what it has taken: minutes, bay, energy, water, money. */
import { plannedFor, spentOn } from '@cork-ember/core/adapters/jobSpent.ts';
import { costOf, moneyText, type Spent } from '@cork-ember/core/advice/worth.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { useShop } from '../api/queries.ts';

const ROWS: readonly (readonly [name: string, text: (spent: Spent) => string])[] = [
  ['Hands', ({ handsMin }) => `${handsMin.toFixed(0)} min`],
  ['On a charger', ({ bayH }) => `${bayH.toFixed(1)} h`],
  ['Energy', ({ mainsWh }) => `${(mainsWh / 1000).toFixed(2)} kWh`],
  ['Water', ({ waterMl }) => `${waterMl.toFixed(0)} mL`],
];

/** A figure stays with its unit. */
const FIGURE = 'reading px-2 text-right whitespace-nowrap max-sm:px-1 max-sm:text-sm';

export function WhatItTook({ state, now }: { state: JobState; now: number }) {
  const { data: shop } = useShop();
  if (!shop) return null;
  const costs = { ...shop.costs, pricePerKwh: shop.room.pricePerKwh };
  const plan = plannedFor(state);
  const spent = spentOn(state, now);
  return (
    <table className="mt-3 w-full max-w-md border-collapse text-left">
      <caption className="text-left font-semibold">What it takes</caption>
      <thead>
        <tr className="text-sm text-soft">
          <th scope="col" className="font-medium">
            <span className="sr-only">Figure</span>
          </th>
          <th scope="col" className="px-2 text-right font-medium">
            estimated
          </th>
          <th scope="col" className="px-2 text-right font-medium">
            {state.outcome ? 'actual' : 'so far'}
          </th>
        </tr>
      </thead>
      <tbody>
        {ROWS.map(([name, text]) => (
          <tr key={name} className="border-t border-line">
            <th scope="row" className="py-1 font-normal">
              {name}
            </th>
            <td className={FIGURE}>{text(plan)}</td>
            <td className={FIGURE}>{text(spent)}</td>
          </tr>
        ))}
        <tr className="border-t border-line font-bold">
          <th scope="row" className="py-1">
            Cost
          </th>
          <td className={FIGURE}>{moneyText(costOf(plan, costs))}</td>
          <td className={FIGURE}>{moneyText(costOf(spent, costs))}</td>
        </tr>
      </tbody>
    </table>
  );
}
