/** Every battery the shop knows, and what was last measured of it. */
import { Link } from 'react-router';
import { standsText } from '@cork-ember/core/runsheet/place.ts';
import type { BatteryAnswer } from '@cork-ember/core/contract/answers.ts';
import type { Finding } from '@cork-ember/core/ledger/finding.ts';
import { dateText } from '@cork-ember/core/schedule/clockText.ts';
import { Heads } from './Heads.tsx';
import { OUTCOME_WORDS } from '../ui/outcome.ts';

function lastWord(battery: BatteryAnswer, timeZone: string): { text: string; tone: string } {
  const last = battery.jobs.at(-1);
  if (!last) return { text: 'never on the bench', tone: 'text-soft' };
  if (!last.outcome || last.endedAt === null)
    return { text: `at work, ${standsText(last.bay)}`, tone: 'text-ember-text' };
  const { word, tone } = OUTCOME_WORDS[last.outcome];
  return { text: `${word} ${dateText(last.endedAt, timeZone)}`, tone };
}

/** What was last measured, where anything was; what was not stays empty. */
function Measured({ finding }: { finding: Finding | undefined }) {
  const cells = [
    finding?.grade,
    finding?.capacityShare === undefined ? undefined : `${(finding.capacityShare * 100).toFixed(0)} %`,
    finding?.crankingA === undefined ? undefined : `${finding.crankingA.toFixed(0)} A`,
    finding?.ocvV === undefined ? undefined : `${finding.ocvV.toFixed(2)} V`,
  ];
  return cells.map((text, index) => (
    <td key={index} className="reading px-2 text-right text-sm whitespace-nowrap lg:px-3">
      {text ?? <span className="text-soft">–</span>}
    </td>
  ));
}

const HEADS = ['Tag', 'Type, for', 'Last'] as const;
const FIGURES = ['Grade', 'Capacity', 'Cranking', 'Rested'] as const;

export function BatteriesPart({
  batteries,
  findings,
  timeZone,
}: {
  batteries: readonly BatteryAnswer[];
  findings: readonly Finding[];
  timeZone: string;
}) {
  if (batteries.length === 0)
    return (
      <p>
        None yet.{' '}
        <Link to="/intake" className="text-verdigris underline underline-offset-4">
          Take the first one in.
        </Link>
      </p>
    );
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Batteries">
      <table className="w-full border-collapse text-left">
        <thead>
          <tr className="border-b-2 border-cork text-sm text-soft">
            <Heads words={HEADS} figures={FIGURES} />
          </tr>
        </thead>
        <tbody>
          {[...batteries].reverse().map((battery) => {
            const last = lastWord(battery, timeZone);
            return (
              <tr key={battery.tag} className="border-b border-line hover:bg-panel">
                <th scope="row" className="p-0">
                  <Link
                    to={`/batteries/${battery.tag}`}
                    className="flex min-h-13 items-center px-2 font-bold lg:px-3 whitespace-nowrap underline decoration-cork underline-offset-4"
                  >
                    {battery.tag}
                  </Link>
                </th>
                <td className="max-w-40 px-2 py-1.5 lg:max-w-72 lg:px-3">
                  <span className="block truncate">
                    <span className="whitespace-nowrap">{battery.typeId}</span>{' '}
                    <span className="hidden text-soft lg:inline">made {battery.dateCode}</span>
                  </span>
                  <span className="block truncate text-sm text-soft">{battery.owner}</span>
                </td>
                <td className={`px-2 font-medium lg:px-3 lg:whitespace-nowrap ${last.tone}`}>{last.text}</td>
                <Measured finding={findings.findLast(({ tag }) => tag === battery.tag)} />
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
