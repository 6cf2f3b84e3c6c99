/** One way that is open: how it comes back, what it is worth and takes; a press takes it, or asks why. */
import { ChevronDown } from 'lucide-react';
import { useId, useState } from 'react';
import type { WayOn } from '@cork-ember/core/adapters/waysForJob.ts';
import type { Scored } from '@cork-ember/core/advice/compare.ts';
import { hoursWords } from '@cork-ember/core/advice/recommend.ts';
import { moneyText } from '@cork-ember/core/advice/worth.ts';
import { inSentence } from '@cork-ember/core/units/inSentence.ts';
import { Odds } from '../judgement/Odds.tsx';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { TextBox } from '../ui/TextBox.tsx';

/** Title, odds, worth, time, hands and the button: beside each other where the card is wide enough. */
export const WAY_COLUMNS =
  'grid grid-cols-[1fr_auto] gap-x-3 @2xl:grid-cols-[minmax(8rem,1fr)_9.5rem_5rem_4.5rem_3.75rem_5.75rem]';

interface WayRowProps {
  readonly way: WayOn;
  readonly scored: Scored | undefined;
  readonly onTake: (reason?: string) => void;
}

function Figure({ name, children }: { name: string; children: string }) {
  return (
    <span className="reading whitespace-nowrap @2xl:text-right">
      {/* The head of the column says it where there is one. */}
      <span className="font-sans text-sm text-soft @2xl:sr-only">{name} </span>
      {children}
    </span>
  );
}

/** What a route is for, when it ends, and what speaks against it. */
function About({ way: { route, veto, course } }: { way: WayOn }) {
  return (
    <div className="space-y-1 pb-1">
      <p className="text-soft">{route.isFor}</p>
      <p>{route.stop}</p>
      {[route.against, veto?.why, course?.wants]
        .filter((said, at, all) => said !== undefined && all.indexOf(said) === at)
        .map((said) => (
          <p key={said} className="text-brass-ink">
            {said}
          </p>
        ))}
    </div>
  );
}

export function WayRow({ way, scored, onTake }: WayRowProps) {
  const { title, route, veto } = way;
  const id = useId();
  const [isOpen, setOpen] = useState(false);
  const [isAsking, setAsking] = useState(false);
  const [reason, setReason] = useState('');
  const begins = title === route.title ? '' : `, beginning: ${inSentence(route.title)}`;
  return (
    <li className="border-t border-line first:border-t-0">
      <div className={`${WAY_COLUMNS} items-center px-4 py-1`}>
        <button
          type="button"
          aria-expanded={isOpen}
          aria-controls={`${id}-about`}
          onClick={() => setOpen(!isOpen)}
          className="flex min-h-12 min-w-0 items-center gap-1 text-left font-semibold"
        >
          <ChevronDown aria-hidden className={`size-4 shrink-0 text-soft ${isOpen ? 'rotate-180' : ''}`} />
          <span>
            {title}
            {veto && <span className="font-normal text-brass-ink"> wants a reason</span>}
          </span>
        </button>
        {scored ? (
          <>
            <span className="col-span-2 row-start-2 @2xl:col-span-1 @2xl:row-start-auto">
              <Odds odds={scored.odds} />
            </span>
            <span className="col-span-2 row-start-3 flex flex-wrap justify-between gap-x-4 @2xl:contents">
              <Figure name="Worth">{moneyText(scored.worth)}</Figure>
              <Figure name="Time">{hoursWords(scored.hours)}</Figure>
              <Figure name="Hands">{`${scored.handsMin.toFixed(0)} min`}</Figure>
            </span>
          </>
        ) : (
          <span className="col-span-2 row-start-2 text-sm text-soft @2xl:col-span-4 @2xl:row-start-auto">
            {way.course ? '' : 'Not forecast.'}
          </span>
        )}
        <Button
          aria-label={`Choose: ${title}${begins}`}
          aria-expanded={veto ? isAsking : undefined}
          className="col-start-2 row-start-1 @2xl:col-start-auto @2xl:row-start-auto"
          onClick={() => (veto ? setAsking(!isAsking) : onTake())}
        >
          Choose
        </Button>
      </div>
      <div id={`${id}-about`} hidden={!isOpen} className="px-4 pb-2 pl-9">
        <About way={way} />
      </div>
      {veto && isAsking && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            onTake(reason);
          }}
        >
          <Notice tone="caution">
            <p>{veto.why}</p>
            <div className="flex flex-wrap items-end gap-2">
              <div className="min-w-40 flex-1 text-char">
                <TextBox
                  label="Why all the same? It stays on the record."
                  value={reason}
                  most={300}
                  onChange={setReason}
                />
              </div>
              <Button type="submit">Take it all the same</Button>
            </div>
          </Notice>
        </form>
      )}
    </li>
  );
}
