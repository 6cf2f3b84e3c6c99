/** Which ways brought batteries back in this shop, and how sure that is. */
import { percentText } from '@cork-ember/core/units/percent.ts';
import { CONSTRUCTION } from '@cork-ember/core/battery/construction.ts';
import type { WayRecord } from '@cork-ember/core/ledger/ways.ts';
import { moneyText } from '@cork-ember/core/advice/worth.ts';
import { Heads } from './Heads.tsx';
import { useWays } from '../api/queries.ts';
import { Waiting } from '../ui/Waiting.tsx';

/** Came back, on a line from none to all, with the interval it lies in. */
function Share({ record: { back, tried, low, high } }: { record: WayRecord }) {
  return (
    <span className="block min-w-36 lg:min-w-44">
      <span aria-hidden className="relative block h-5 rounded bg-panel">
        <span
          className="absolute inset-y-1.5 rounded-full bg-cork"
          style={{ left: percentText(low).replace(' ', ''), width: percentText(high - low).replace(' ', '') }}
        />
        <span
          className="absolute inset-y-0 w-1.5 -translate-x-1/2 rounded-full bg-verdigris"
          style={{ left: percentText(back / tried).replace(' ', '') }}
        />
      </span>
      <span className="text-sm">
        {back} of {tried}; the odds are {(low * 100).toFixed(0)} to {(high * 100).toFixed(0)}
        {'\u00a0%'}
      </span>
    </span>
  );
}

const CELL = 'border-t border-line px-2 py-2.5 align-top lg:px-3';

export function WaysPart() {
  const { data: records, error, refetch } = useWays();
  if (!records) return <Waiting error={error} retry={() => void refetch()} />;
  if (records.length === 0)
    return (
      <p>No battery that was brought back has come to its grade yet; what worked is shown from then on.</p>
    );
  return (
    <>
      <p className="max-w-3xl text-soft">
        Batteries that came to a grade. One that took several ways counts for each: what came of it cannot be
        told apart. Capacity is the middle of those counted.
      </p>
      <div className="mt-3 overflow-x-auto" tabIndex={0} role="region" aria-label="Ways that worked">
        <table className="w-full border-collapse text-left">
          <thead>
            <tr className="text-sm text-soft">
              <Heads
                words={['Way', 'Came back', 'As A or B']}
                figures={['Capacity after', 'Hands, min', 'Cost']}
              />
            </tr>
          </thead>
          <tbody>
            {records.map((record) => (
              <tr key={`${record.way.id} ${record.construction}`}>
                <th scope="row" className={`${CELL} font-bold`}>
                  {record.way.title}
                  <span className="block text-sm font-normal text-soft">
                    {CONSTRUCTION[record.construction].name}
                  </span>
                </th>
                <td className={CELL}>
                  <Share record={record} />
                </td>
                <td className={`${CELL} whitespace-nowrap`}>
                  {record.good} of {record.tried}
                </td>
                <td className={`reading ${CELL} text-right`}>
                  {record.capacityShare === undefined ? 'not counted' : percentText(record.capacityShare)}
                </td>
                <td className={`reading ${CELL} text-right`}>{record.handsMin.toFixed(0)}</td>
                <td className={`reading ${CELL} text-right`}>{moneyText(record.cost)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}
