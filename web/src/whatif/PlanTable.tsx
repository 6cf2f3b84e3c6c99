/** The same figures as the charts, as a table. */
import { useMemo } from 'react';
import { Table, type Column } from '../ui/Table.tsx';
import type { Drawing } from './csv.ts';
import { markOf } from './marks.ts';
import { decimalsHere, QUANTITIES, shownHere, valueAt } from './quantities.ts';

const ROWS = 24;

interface Moment {
  readonly atS: number;
}

function columnsOf(drawings: readonly Drawing[]): readonly Column<Moment>[] {
  return [
    { id: 'hours', head: 'Hours', cell: ({ atS }) => (atS / 3600).toFixed(1), isFigure: true },
    ...drawings.flatMap(({ index, outcome }) =>
      QUANTITIES.map((quantity, place): Column<Moment> => {
        const { letter } = markOf(index);
        return {
          id: `${letter} ${quantity.id}`,
          head: `${letter}: ${quantity.name}, ${quantity.unit}`,
          cell: ({ atS }) => {
            const value = valueAt(outcome, quantity.id, atS);
            return value === undefined ? '–' : shownHere(quantity, value).toFixed(decimalsHere(quantity));
          },
          isFigure: true,
          className: place === 0 ? 'border-l-2 border-cork' : '',
        };
      }),
    ),
  ];
}

export function PlanTable({ drawings, untilS }: { drawings: readonly Drawing[]; untilS: number }) {
  const columns = useMemo(() => columnsOf(drawings), [drawings]);
  const moments = Array.from({ length: ROWS + 1 }, (_, i) => ({ atS: (i * untilS) / ROWS }));
  return (
    <Table
      name="Plans as a table"
      className="rounded-lg border border-line bg-card text-sm"
      rows={moments}
      columns={columns}
      keyOf={({ atS }) => String(atS)}
      isDense
    />
  );
}
