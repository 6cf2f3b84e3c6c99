/** What is probably the matter, the most likely first. */
import type { Summary } from '@cork-ember/core/belief/figures.ts';
import { illnessesOf } from '@cork-ember/core/belief/words.ts';

/** Below this a cause is only counted among the rest. */
const WORTH_A_LINE = 0.01;
/** From here on a cause's own way is named beside it. */
const LEADS_FROM = 0.15;

export function Causes({ summary, isAtRest }: { summary: Summary; isAtRest: boolean }) {
  const all = illnessesOf(summary.causes);
  const shown = all.filter(({ probability }) => probability >= WORTH_A_LINE);
  const rest = all.length - shown.length;
  return (
    <section aria-labelledby="causes-title" className="rounded-xl border border-line bg-card p-5">
      <h2 id="causes-title" className="text-lg font-bold">
        What is probably the matter
      </h2>
      {/* Its line is kept free, so that nothing jumps once it is refined. */}
      <p className="min-h-5 text-sm text-soft">{!isAtRest && 'A first estimate; it is being refined …'}</p>
      <ol className="mt-1 space-y-2">
        {shown.map(({ name, probability, degrees, leadsTo }, index) => (
          <li key={name}>
            <p className={`flex justify-between gap-3 ${index === 0 ? 'text-lg font-bold' : ''}`}>
              <span>
                {name}
                {degrees !== undefined && <span className="text-sm font-normal text-soft"> · {degrees}</span>}
              </span>
              <span className="reading whitespace-nowrap">{(probability * 100).toFixed(0)} %</span>
            </p>
            {leadsTo !== undefined && probability >= LEADS_FROM && <p className="text-sm">{leadsTo}</p>}
            <span aria-hidden className="mt-0.5 block h-2.5 rounded-full bg-panel">
              <span
                className={`block h-full rounded-full ${index === 0 ? 'bg-ember' : 'bg-cork'}`}
                style={{ width: `${probability * 100}%` }}
              />
            </span>
          </li>
        ))}
      </ol>
      {rest > 0 && <p className="mt-2 text-sm text-soft">{rest} other causes are below 1 % each.</p>}
    </section>
  );
}
