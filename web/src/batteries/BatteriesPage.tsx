/** Every battery the shop knows, by tag. */
import { Link } from 'react-router';
import type { BatteryAnswer } from '@cork-ember/core/contract/answers.ts';
import { dateText } from '@cork-ember/core/schedule/clockText.ts';
import { useBatteries, useShop } from '../api/queries.ts';
import { Waiting } from '../ui/Waiting.tsx';
import { OUTCOME_WORDS } from '../ui/outcome.ts';

function lastWord(battery: BatteryAnswer, timeZone: string): { text: string; tone: string } {
  const last = battery.jobs.at(-1);
  if (!last) return { text: 'never on the bench', tone: 'text-soft' };
  if (!last.outcome || last.endedAt === null)
    return { text: `on the bench, bay ${last.bay}`, tone: 'text-ember-text' };
  const { word, tone } = OUTCOME_WORDS[last.outcome];
  return { text: `${word} ${dateText(last.endedAt, timeZone)}`, tone };
}

export function BatteriesPage() {
  const { data: batteries, error, refetch } = useBatteries();
  const { data: shop } = useShop();
  if (!batteries || !shop) return <Waiting error={error} retry={() => void refetch()} />;
  return (
    <div className="p-5">
      <h1 className="text-2xl font-bold">Batteries</h1>
      {batteries.length === 0 ? (
        <p className="mt-3 text-soft">
          None yet.{' '}
          <Link to="/intake" className="text-verdigris underline underline-offset-4">
            Take the first one in.
          </Link>
        </p>
      ) : (
        <div className="mt-3 overflow-x-auto">
          <table className="w-full min-w-140 border-collapse text-left">
            <thead>
              <tr className="border-b-2 border-cork text-sm text-soft">
                {['Tag', 'Type', 'Made', 'For', 'Last'].map((name) => (
                  <th key={name} scope="col" className="px-3 py-2 font-semibold">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {[...batteries].reverse().map((battery) => {
                const last = lastWord(battery, shop.hours.timeZone);
                return (
                  <tr key={battery.tag} className="border-b border-line hover:bg-panel">
                    <th scope="row" className="p-0">
                      <Link
                        to={`/batteries/${battery.tag}`}
                        className="flex min-h-13 items-center px-3 font-bold underline decoration-cork underline-offset-4"
                      >
                        {battery.tag}
                      </Link>
                    </th>
                    <td className="px-3">{battery.typeId}</td>
                    <td className="reading px-3 text-sm">{battery.dateCode}</td>
                    <td className="max-w-72 truncate px-3">{battery.owner}</td>
                    <td className={`px-3 font-medium ${last.tone}`}>{last.text}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
    </div>
  );
}
