/** The same figures as the charts, as a table. */
import { Scrolls } from '../ui/Scrolls.tsx';
import type { Drawing } from './csv.ts';
import { markOf } from './marks.ts';
import { decimalsHere, QUANTITIES, shownHere, valueAt } from './quantities.ts';

const ROWS = 24;

export function PlanTable({ drawings, untilS }: { drawings: readonly Drawing[]; untilS: number }) {
  const moments = Array.from({ length: ROWS + 1 }, (_, i) => (i * untilS) / ROWS);
  return (
    <Scrolls name="Plans as a table" className="max-h-[32rem] rounded-lg border border-line">
      <table className="w-full border-collapse bg-card text-right text-sm">
        <thead className="sticky top-0 bg-panel">
          <tr>
            <th scope="col" className="px-3 py-2 text-left">
              Hours
            </th>
            {drawings.map(({ index }) => (
              <th
                key={index}
                scope="colgroup"
                colSpan={QUANTITIES.length}
                className="border-l-2 border-cork px-2 text-left"
              >
                {markOf(index).letter}
              </th>
            ))}
          </tr>
          <tr className="text-soft">
            <td />
            {drawings.map(({ index }) =>
              QUANTITIES.map(({ id, name, unit }, column) => (
                <th
                  key={`${index}${id}`}
                  scope="col"
                  className={`px-2 pb-2 font-medium ${column === 0 ? 'border-l-2 border-cork' : ''}`}
                >
                  {name}, {unit}
                </th>
              )),
            )}
          </tr>
        </thead>
        <tbody className="reading">
          {moments.map((atS) => (
            <tr key={atS} className="border-t border-line">
              <th scope="row" className="px-3 py-1 text-left font-medium">
                {(atS / 3600).toFixed(1)}
              </th>
              {drawings.map(({ index, outcome }) =>
                QUANTITIES.map((quantity, column) => {
                  const { id } = quantity;
                  const value = valueAt(outcome, id, atS);
                  return (
                    <td
                      key={`${index}${id}`}
                      className={`px-2 ${column === 0 ? 'border-l-2 border-cork' : ''}`}
                    >
                      {value === undefined ? '–' : shownHere(quantity, value).toFixed(decimalsHere(quantity))}
                    </td>
                  );
                }),
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </Scrolls>
  );
}
