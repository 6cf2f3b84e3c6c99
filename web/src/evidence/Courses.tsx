/** Every way back open to it, side by side; and what is not open, with the rule that shuts it. */
import { MONEY } from '@cork-ember/core/units/localise.ts';
import { useMemo } from 'react';
import type { Comparison, Scored } from '@cork-ember/core/advice/compare.ts';
import { isOfTheHouse, type Ways } from '@cork-ember/core/advice/courses.ts';
import { moneyText } from '@cork-ember/core/advice/worth.ts';
import { here, isOtherwiseHere } from '../region/shopRegion.ts';
import { Table, type Column } from '../ui/Table.tsx';
import { Odds } from '../judgement/Odds.tsx';
import { hoursWords } from '@cork-ember/core/advice/recommend.ts';
import { card } from '../ui/card.ts';

/** With a minus that is one. */
const whole = (amount: number): string => amount.toFixed(0).replace('-', '−');

const columnsOf = (best: Scored | undefined, isWatered: boolean): readonly Column<Scored>[] => [
  {
    id: 'way',
    head: 'Way',
    cell: (one) => <span className={one === best ? 'font-bold' : ''}>{one.course.title}</span>,
    sortBy: ({ course }) => course.title,
  },
  {
    id: 'odds',
    head: 'Comes back as',
    cell: ({ odds }) => <Odds odds={odds} />,
    sortBy: ({ odds }) => odds.A + odds.B + odds.C,
    className: 'w-40 min-w-32 lg:w-52',
  },
  {
    id: 'worth',
    head: 'Worth',
    cell: ({ worth, worthLow, worthHigh }) => (
      <>
        <span className="font-bold">{moneyText(worth)}</span>
        <span className="block text-sm text-soft">
          {whole(worthLow)} to {whole(worthHigh)} {MONEY}
        </span>
      </>
    ),
    sortBy: ({ worth }) => worth,
    isFigure: true,
  },
  {
    id: 'time',
    head: 'Time',
    cell: ({ hours }) => hoursWords(hours),
    sortBy: ({ hours }) => hours,
    isFigure: true,
  },
  {
    id: 'hands',
    head: 'Hands, min',
    cell: ({ handsMin }) => handsMin.toFixed(0),
    sortBy: ({ handsMin }) => handsMin,
    isFigure: true,
  },
  {
    id: 'energy',
    head: 'kWh',
    cell: ({ mainsWh }) => (mainsWh / 1000).toFixed(2),
    sortBy: ({ mainsWh }) => mainsWh,
    isFigure: true,
  },
  ...(isWatered
    ? [
        {
          id: 'water',
          head: 'Water, mL',
          cell: ({ waterMl }: Scored) => here(waterMl, 'mL').toFixed(isOtherwiseHere('mL') ? 1 : 0),
          sortBy: ({ waterMl }: Scored) => waterMl,
          isFigure: true,
        },
      ]
    : []),
  {
    id: 'cost',
    head: 'Cost',
    cell: ({ cost }) => moneyText(cost),
    sortBy: ({ cost }) => cost,
    isFigure: true,
  },
];

export function Courses({ comparison, ways }: { comparison: Comparison; ways: Ways }) {
  const isWatered = comparison.scored.some(({ waterMl }) => waterMl > 0);
  const best = comparison.scored.find(({ course }) => isOfTheHouse(course));
  const columns = useMemo(() => columnsOf(best, isWatered), [best, isWatered]);
  return (
    <section aria-labelledby="courses-title" className={card({ pad: 'wide' })}>
      <h2 id="courses-title" className="text-lg font-bold">
        Ways back, side by side
      </h2>
      <p className="text-soft">
        Each is run on the candidates up to its proof. Pulses count at their average current; salts and
        additives are not forecast. Worth is what it brings whoever has it, less what it still costs.
      </p>
      <Table
        name="Ways compared"
        rows={comparison.scored}
        columns={columns}
        keyOf={({ course }) => course.id}
        under={({ course: { wants } }) =>
          wants === undefined ? null : <span className="text-brass-ink">Wants a reason: {wants}</span>
        }
        className="mt-3"
      />
      {ways.forbidden.length > 0 && (
        <details className="mt-2">
          <summary className="flex min-h-12 cursor-pointer items-center font-medium text-soft">
            Not open to it, and why ({ways.forbidden.length})
          </summary>
          <ul className="space-y-1 pb-2">
            {ways.forbidden.map(({ title, why }) => (
              <li key={title}>
                <span className="font-medium">{title}:</span> <span className="text-soft">{why}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
