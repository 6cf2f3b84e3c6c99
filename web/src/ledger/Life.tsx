/** What was measured of a battery each time it was here, drawn and in figures. */
import { percentText } from '@cork-ember/core/units/percent.ts';
import { lazy, Suspense } from 'react';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import type { Finding } from '@cork-ember/core/ledger/finding.ts';
import { dateText } from '@cork-ember/core/clock/clockText.ts';
import { OUTCOME_WORDS } from '../ui/outcome.ts';
import { Heads } from './Heads.tsx';

const LifeChart = lazy(() => import('./LifeChart.tsx'));

const percent = (share: number | undefined): string => (share === undefined ? '–' : percentText(share));

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
  if (measured.length < 2) return null;
  const rating = type?.cranking?.amps;
  const crankingOf = ({ crankingA }: Finding): number | undefined =>
    crankingA === undefined || rating === undefined ? undefined : crankingA / rating;
  const points = measured.map((finding) => ({
    at: finding.endedAt,
    capacity: finding.capacityShare === undefined ? undefined : finding.capacityShare * 100,
    cranking: crankingOf(finding) === undefined ? undefined : (crankingOf(finding) ?? 0) * 100,
  }));
  return (
    <section aria-labelledby="life-title" className="max-w-4xl rounded-xl border border-line bg-card p-5">
      <h2 id="life-title" className="text-lg font-bold">
        Over the years
      </h2>
      <Suspense fallback={<div className="h-52" />}>
        <LifeChart points={points} />
      </Suspense>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Measured each time">
        <table className="mt-2 w-full border-collapse text-left">
          <thead>
            <tr className="text-sm text-soft">
              <Heads words={['Left', 'As']} figures={['Grade', 'Capacity', 'Cranking', 'mΩ', 'Rested, V']} />
            </tr>
          </thead>
          <tbody>
            {measured.map((finding) => (
              <tr key={finding.job} className="border-t border-line">
                <th scope="row" className="px-2 py-2 font-medium lg:px-3 whitespace-nowrap">
                  {dateText(finding.endedAt, timeZone)}
                </th>
                <td className={`px-2 lg:px-3 ${OUTCOME_WORDS[finding.outcome].tone}`}>
                  {OUTCOME_WORDS[finding.outcome].word}
                </td>
                <td className="reading px-2 text-right lg:px-3">{finding.grade ?? '–'}</td>
                <td className="reading px-2 text-right lg:px-3">{percent(finding.capacityShare)}</td>
                <td className="reading px-2 text-right lg:px-3">{percent(crankingOf(finding))}</td>
                <td className="reading px-2 text-right lg:px-3">{finding.milliohm?.toFixed(1) ?? '–'}</td>
                <td className="reading px-2 text-right lg:px-3">{finding.ocvV?.toFixed(2) ?? '–'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
