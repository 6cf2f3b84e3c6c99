/** Which ways brought batteries back in this shop, and how sure that is. */
import { useMemo } from 'react';
import { percentText } from '@cork-ember/core/units/percent.ts';
import { CONSTRUCTION } from '@cork-ember/core/battery/construction.ts';
import type { WayRecord } from '@cork-ember/core/ledger/ways.ts';
import { moneyText } from '@cork-ember/core/advice/worth.ts';
import { useLearned, useWays } from '../api/queries.ts';
import { Table, type Column } from '../ui/Table.tsx';
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

/** A way, and how many would have come back by what was believed as each was chosen; of those that were looked into. */
interface Held extends WayRecord {
  readonly expected: { readonly back: number; readonly of: number } | undefined;
}

const wayName = ({ way, construction }: WayRecord): string =>
  `${way.title}, ${CONSTRUCTION[construction].name}`;

const expectedText = ({ expected }: Held): string =>
  expected ? `${expected.back.toFixed(1)} of ${expected.of}` : 'not yet looked into';

const WAY: readonly Column<WayRecord>[] = [
  {
    id: 'way',
    head: 'Way',
    cell: ({ way, construction }) => (
      <>
        <span className="font-bold">{way.title}</span>
        <span className="block text-sm font-normal text-soft">{CONSTRUCTION[construction].name}</span>
      </>
    ),
    sortBy: wayName,
    text: wayName,
  },
  {
    id: 'back',
    head: 'Came back',
    cell: (record) => <Share record={record} />,
    sortBy: ({ back, tried }) => back / tried,
    text: ({ back, tried }) => `${back} of ${tried}`,
  },
];

const EXPECTED: readonly Column<Held>[] = [
  {
    id: 'expected',
    head: 'Expected',
    cell: (record) => <span className={record.expected ? '' : 'text-soft'}>{expectedText(record)}</span>,
    sortBy: ({ expected }) => expected && expected.back / expected.of,
    text: expectedText,
    isFigure: true,
  },
];

const CAME: readonly Column<WayRecord>[] = [
  {
    id: 'good',
    head: 'As A or B',
    cell: ({ good, tried }) => `${good} of ${tried}`,
    sortBy: ({ good, tried }) => good / tried,
    text: ({ good, tried }) => `${good} of ${tried}`,
    className: 'whitespace-nowrap',
  },
  {
    id: 'capacity',
    head: 'Capacity after',
    cell: ({ capacityShare }) => (capacityShare === undefined ? 'not counted' : percentText(capacityShare)),
    sortBy: ({ capacityShare }) => capacityShare,
    text: ({ capacityShare }) => (capacityShare === undefined ? '' : percentText(capacityShare)),
    isFigure: true,
  },
  {
    id: 'hands',
    head: 'Hands, min',
    cell: ({ handsMin }) => handsMin.toFixed(0),
    sortBy: ({ handsMin }) => handsMin,
    text: ({ handsMin }) => handsMin.toFixed(0),
    isFigure: true,
  },
  {
    id: 'cost',
    head: 'Cost',
    cell: ({ cost }) => moneyText(cost),
    sortBy: ({ cost }) => cost,
    text: ({ cost }) => moneyText(cost),
    isFigure: true,
  },
];

const COLUMNS: readonly Column<Held>[] = [...WAY, ...EXPECTED, ...CAME];

/** What came of the ways alone, where nobody's beliefs are held against it. */
export const WAY_COLUMNS: readonly Column<WayRecord>[] = [...WAY, ...CAME];

export const wayKey = ({ way, construction }: WayRecord): string => `${way.id} ${construction}`;

export function WaysPart() {
  const { data: records, error, refetch } = useWays();
  const { data: learned } = useLearned();
  const held = useMemo(
    () =>
      (records ?? []).map((record): Held => {
        const here = learned?.ways.find(
          ({ way, construction }) => way === record.way.id && construction === record.construction,
        );
        return { ...record, expected: here && { back: here.expected, of: here.tried } };
      }),
    [records, learned],
  );
  if (!records) return <Waiting on={[{ data: records, error, refetch }]} />;
  if (records.length === 0)
    return (
      <p>No battery that was brought back has come to its grade yet; what worked is shown from then on.</p>
    );
  return (
    <>
      <p className="max-w-3xl text-soft">
        Batteries that came to a grade. Of several ways only the last brought it back; the others did not.
        Expected is what was believed as each was chosen: a way that gets the easy ones is held against that.
        Capacity, hands and cost are those of batteries it was the last way of.
      </p>
      <Table
        name="Ways that worked"
        rows={held}
        columns={COLUMNS}
        keyOf={wayKey}
        file="ways.csv"
        className="mt-3"
      />
    </>
  );
}
