/** What is probably the matter, the most likely first. */
import type { Summary } from '@cork-ember/core/belief/figures.ts';
import { illnessesOf } from '@cork-ember/core/belief/words.ts';
import { percentText } from '@cork-ember/core/units/percent.ts';
import { card } from '../ui/card.ts';

/** Below this a cause is only counted among the rest. */
const WORTH_A_LINE = 0.01;
/** From here on what stands beside a cause is told, and its own way. */
const LEADS_FROM = 0.15;
/** Beside a step the first few are enough, and only the first is drawn. */
const BRIEF = { lines: 4, bars: 1 } as const;

/** A figure and its sign stay on one line. */
const unbroken = (words: string): string => words.replaceAll(' %', '\u00a0%');

interface CausesProps {
  readonly summary: Summary;
  readonly isAtRest: boolean;
  /** Beside a step: a few lines, without the ways they lead to. */
  readonly isBrief?: boolean;
}

export function Causes({ summary, isAtRest, isBrief = false }: CausesProps) {
  const all = illnessesOf(summary.causes, summary.together);
  const worthALine = all.filter(({ probability }) => probability >= WORTH_A_LINE);
  const shown = isBrief ? worthALine.slice(0, BRIEF.lines) : worthALine;
  const rest = all.length - worthALine.length;
  return (
    <section aria-labelledby="causes-title" className={isBrief ? '' : card({ pad: 'wide' })}>
      <h2 id="causes-title" className={isBrief ? 'font-bold' : 'text-lg font-bold'}>
        What is probably the matter
      </h2>
      {/* Its line is kept free, so that nothing jumps once it is refined. */}
      <p className="min-h-5 text-sm text-soft">{!isAtRest && 'A first estimate; it is being refined …'}</p>
      <ol className={`mt-1 ${isBrief ? 'space-y-1' : 'space-y-2'}`}>
        {shown.map(({ name, probability, degrees, leadsTo, onTop }, index) => (
          <li key={name}>
            <p
              className={`flex justify-between gap-3 ${index === 0 ? `font-bold ${isBrief ? '' : 'text-lg'}` : ''}`}
            >
              <span>
                {name}
                {degrees !== undefined && !isBrief && (
                  <span className="text-sm font-normal text-soft"> · {unbroken(degrees)}</span>
                )}
              </span>
              <span className="reading whitespace-nowrap">{percentText(probability)}</span>
            </p>
            {onTop !== undefined && probability >= LEADS_FROM && (!isBrief || index === 0) && (
              <p className="text-sm text-soft">{unbroken(onTop)}</p>
            )}
            {leadsTo !== undefined && probability >= LEADS_FROM && !isBrief && (
              <p className="text-sm">{leadsTo}</p>
            )}
            {(!isBrief || index < BRIEF.bars) && (
              <span aria-hidden className="mt-0.5 block h-2.5 rounded-full bg-rail">
                <span
                  className={`block h-full rounded-full ${index === 0 ? 'bg-ember' : 'bg-cork'}`}
                  style={{ width: `${probability * 100}%` }}
                />
              </span>
            )}
          </li>
        ))}
      </ol>
      {rest > 0 && !isBrief && (
        <p className="mt-2 text-sm text-soft">{rest} other causes are below 1 % each.</p>
      )}
    </section>
  );
}
