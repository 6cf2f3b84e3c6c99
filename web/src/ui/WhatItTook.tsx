/** What a job takes by its run sheet, and what it has taken: minutes, bay, energy, water, money. */
import { useMemo } from 'react';
import { plannedFor, spentOn } from '@cork-ember/core/adapters/jobSpent.ts';
import { costOf, moneyText, type Spent } from '@cork-ember/core/advice/worth.ts';
import { dateTimeText } from '@cork-ember/core/clock/clockText.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { useShop } from '../api/queries.ts';
import { Table, type Column } from './Table.tsx';

interface Figure {
  readonly name: string;
  readonly text: (spent: Spent) => string;
}

const FIGURES: readonly Figure[] = [
  { name: 'Hands', text: ({ handsMin }) => `${handsMin.toFixed(0)} min` },
  { name: 'On a charger', text: ({ bayH }) => `${bayH.toFixed(1)} h` },
  { name: 'Energy', text: ({ mainsWh }) => `${(mainsWh / 1000).toFixed(2)} kWh` },
  { name: 'Water', text: ({ waterMl }) => `${waterMl.toFixed(0)} mL` },
];

export function WhatItTook({ state, now }: { state: JobState; now: number }) {
  const { data: shop } = useShop();
  const figures = useMemo(() => {
    const plan = plannedFor(state);
    const spent = spentOn(state, now);
    const columns: readonly Column<Figure>[] = [
      { id: 'name', head: 'Figure', cell: ({ name }) => name },
      { id: 'plan', head: 'estimated', cell: ({ text }) => text(plan), isFigure: true },
      {
        id: 'spent',
        head: state.outcome ? 'actual' : 'so far',
        cell: ({ text }) => text(spent),
        isFigure: true,
      },
    ];
    return { plan, spent, columns };
  }, [state, now]);
  if (!shop) return null;
  const { plan, spent, columns } = figures;
  const cost = (of: Spent): string =>
    moneyText(costOf(of, { ...shop.costs, pricePerKwh: shop.room.pricePerKwh }));
  const COSTS: Readonly<Record<string, string>> = { name: 'Cost', plan: cost(plan), spent: cost(spent) };
  return (
    <div className="mt-3 max-w-md">
      <h3 className="font-semibold">What it takes</h3>
      <Table
        name={`What it takes, taken in ${dateTimeText(state.openedAt, state.opened.hours.timeZone)}`}
        rows={FIGURES}
        columns={columns}
        keyOf={({ name }) => name}
        foot={({ id }) => COSTS[id]}
        isDense
      />
    </div>
  );
}
