/** What was measured of a battery each time it was here, drawn and in figures. */
import { percentText } from '@cork-ember/core/units/percent.ts';
import { useMemo } from 'react';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import type { Finding } from '@cork-ember/core/ledger/finding.ts';
import { dateText } from '@cork-ember/core/clock/clockText.ts';
import { later } from '../ui/later.tsx';
import { OUTCOME_WORDS } from '../ui/outcome.ts';
import { Table, type Column } from '../ui/Table.tsx';
import { card } from '../ui/card.ts';

const LifeChart = later(async () => (await import('./LifeChart.tsx')).LifeChart, <div className="h-52" />);

const percent = (share: number | undefined): string => (share === undefined ? '–' : percentText(share));

/** @param rating cranking amperes it was made for */
function columnsOf(timeZone: string, rating: number | undefined): readonly Column<Finding>[] {
  return [
    {
      id: 'left',
      head: 'Left',
      cell: ({ endedAt }) => dateText(endedAt, timeZone),
      sortBy: ({ endedAt }) => endedAt,
      className: 'whitespace-nowrap',
    },
    {
      id: 'as',
      head: 'As',
      cell: ({ outcome }) => (
        <span className={OUTCOME_WORDS[outcome].tone}>{OUTCOME_WORDS[outcome].word}</span>
      ),
    },
    {
      id: 'grade',
      head: 'Grade',
      cell: ({ grade }) => grade ?? '–',
      sortBy: ({ grade }) => grade,
      isFigure: true,
    },
    {
      id: 'capacity',
      head: 'Capacity',
      cell: ({ capacityShare }) => percent(capacityShare),
      sortBy: ({ capacityShare }) => capacityShare,
      isFigure: true,
    },
    {
      id: 'cranking',
      head: 'Cranking',
      cell: (finding) => percent(crankingShare(finding, rating)),
      sortBy: (finding) => crankingShare(finding, rating),
      isFigure: true,
    },
    {
      id: 'resistance',
      head: 'mΩ',
      cell: ({ milliohm }) => milliohm?.toFixed(1) ?? '–',
      sortBy: ({ milliohm }) => milliohm,
      isFigure: true,
    },
    {
      id: 'rested',
      head: 'Rested, V',
      cell: ({ ocvV }) => ocvV?.toFixed(2) ?? '–',
      sortBy: ({ ocvV }) => ocvV,
      isFigure: true,
    },
  ];
}

const crankingShare = ({ crankingA }: Finding, rating: number | undefined): number | undefined =>
  crankingA === undefined || rating === undefined ? undefined : crankingA / rating;

export function Life({
  findings,
  type,
  timeZone,
}: {
  /** Of this battery, the oldest first. */
  findings: readonly Finding[];
  type: ListedType | undefined;
  timeZone: string;
}) {
  const measured = findings.filter(
    ({ capacityShare, crankingA }) => capacityShare !== undefined || crankingA !== undefined,
  );
  const rating = type?.cranking?.amps;
  const columns = useMemo(() => columnsOf(timeZone, rating), [timeZone, rating]);
  if (measured.length < 2) return null;
  const inPercent = (share: number | undefined): number | undefined =>
    share === undefined ? undefined : share * 100;
  const points = measured.map((finding) => ({
    at: finding.endedAt,
    capacity: inPercent(finding.capacityShare),
    cranking: inPercent(crankingShare(finding, rating)),
  }));
  return (
    <section aria-labelledby="life-title" className={card({ pad: 'wide', className: 'max-w-4xl' })}>
      <h2 id="life-title" className="text-lg font-bold">
        Over the years
      </h2>
      <LifeChart points={points} />
      <Table
        name="Measured each time"
        rows={measured}
        columns={columns}
        keyOf={({ job }) => job}
        className="mt-2"
      />
    </section>
  );
}
