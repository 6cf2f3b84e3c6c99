/** Beside the step at hand: what is probably the matter, what is in it, and what to read next. */
import { ChevronRight, Stethoscope } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { illnessesOf } from '@cork-ember/core/belief/words.ts';
import { percentText } from '@cork-ember/core/units/percent.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { sentenceOf } from '../api/client.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Causes } from './Causes.tsx';
import { Figures } from './Figures.tsx';
import { Misfits } from './Misfits.tsx';
import { NextCheck, type OnRead } from './NextCheck.tsx';
import { useAdvice } from './useAdvice.ts';
import { useBelief, type BeliefOf } from './useBelief.ts';
import { box } from '../ui/box.ts';

interface PanelProps {
  readonly state: JobState;
  readonly onRead: OnRead;
}

function Inside({ state, belief, onRead }: PanelProps & { belief: BeliefOf }) {
  const advice = useAdvice(state, belief);
  const { believed, error, again } = belief;
  const problem = error ?? advice.error;
  return (
    <div className="space-y-4">
      {problem !== null && problem !== undefined && (
        <div role="alert" className="text-clay">
          <p>{sentenceOf(problem)}</p>
          <Button className="mt-1" onClick={error ? again : advice.again}>
            Try again
          </Button>
        </div>
      )}
      {believed ? (
        <>
          <Misfits misfits={believed.misfits} isBrief />
          <Causes summary={believed.summary} isAtRest={believed.isAtRest} isBrief />
          <Figures figures={believed.summary.figures} isBrief />
        </>
      ) : (
        !problem && <p className="text-soft">Candidate batteries are being weighed …</p>
      )}
      <NextCheck advice={advice} onRead={onRead} />
      <Link
        to={`/jobs/${state.job}/evidence`}
        className="inline-flex min-h-12 items-center text-verdigris underline underline-offset-4"
      >
        The whole argument
      </Link>
    </div>
  );
}

/** What stands on the way into the drawer. */
function mostLikely({ believed, error }: BeliefOf): string {
  const [first] = believed ? illnessesOf(believed.summary.causes) : [];
  if (first) return `${first.name}, ${percentText(first.probability)}`;
  return error ? 'The judgement failed' : 'Being weighed …';
}

/** A column beside the step. */
export function JudgementColumn({ state, onRead }: PanelProps) {
  const belief = useBelief(state);
  return (
    <div className="border-b border-line pb-3">
      <Inside state={state} belief={belief} onRead={onRead} />
    </div>
  );
}

/** One line above the step, where there is no room for a column; it opens as a drawer. */
export function JudgementDrawer({ state, onRead }: PanelProps) {
  const belief = useBelief(state);
  const [isOut, setOut] = useState(false);
  const read: OnRead = (kind) => {
    setOut(false);
    onRead(kind);
  };
  return (
    <>
      <button
        type="button"
        onClick={() => setOut(true)}
        className={box({ fit: 'opener', className: 'w-full' })}
      >
        <Stethoscope aria-hidden className="size-5 shrink-0 text-cork-dark" />
        <span className="min-w-0 flex-1 truncate font-medium">{mostLikely(belief)}</span>
        <span className="text-soft max-sm:sr-only">Judgement</span>
        <ChevronRight aria-hidden className="size-5 shrink-0 text-soft" />
      </button>
      <Dialog
        isOpen={isOut}
        onClose={() => setOut(false)}
        title={`${state.opened.battery.tag}: the judgement`}
        isDrawer
      >
        <Inside state={state} belief={belief} onRead={read} />
      </Dialog>
    </>
  );
}
