import { Check, CircleDot, Minus, OctagonX, TriangleAlert } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { definitionOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import type { JobState, StepState } from '@cork-ember/core/runsheet/state/jobState.ts';

const MARKS = {
  done: { icon: Check, word: 'done' },
  skipped: { icon: Minus, word: 'left out' },
  overridden: { icon: TriangleAlert, word: 'passed over' },
  held: { icon: OctagonX, word: 'blocked' },
  open: { icon: CircleDot, word: 'at hand' },
} as const;

function Row({ state, step, isHere }: { state: JobState; step: StepState; isHere: boolean }) {
  const ref = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (isHere) ref.current?.scrollIntoView({ block: 'nearest' });
  }, [isHere]);
  const { title } = definitionOf(state, step);
  const mark = step.status === 'ahead' ? undefined : MARKS[step.status];
  const Icon = mark?.icon;
  const look = isHere
    ? 'border-ember bg-card font-semibold text-char'
    : `border-transparent ${step.status === 'ahead' ? 'text-soft' : 'text-char'}`;
  return (
    <li
      ref={ref}
      aria-current={isHere ? 'step' : undefined}
      className={`flex items-center gap-2 border-l-5 py-1 pr-2 pl-3 text-[15px] ${look}`}
    >
      {Icon ? (
        <Icon
          aria-label={mark.word}
          className={`size-4 shrink-0 ${step.status === 'held' ? 'text-clay' : 'text-verdigris'}`}
        />
      ) : (
        <span className="size-4 shrink-0" />
      )}
      <span className="min-w-0">
        {title}
        {step.round > 1 ? ` (${step.round})` : ''}
      </span>
    </li>
  );
}

function Rows({ state }: { state: JobState }) {
  return state.steps.map((step, index) => (
    <Row key={step.key} state={state} step={step} isHere={index === state.cursor && !state.outcome} />
  ));
}

function whereText({ outcome, cursor, steps }: JobState): string {
  return outcome ? 'Steps' : `Step ${Math.min(cursor + 1, steps.length)} of ${steps.length}`;
}

/** The same on a press, where another column is worth more than the steps. */
export function FoldedSteps({ state }: { state: JobState }) {
  return (
    <details className="border-b border-line">
      <summary className="flex min-h-12 cursor-pointer items-center font-medium text-soft">
        {whereText(state)}
      </summary>
      <ol className="pb-2">
        <Rows state={state} />
      </ol>
    </details>
  );
}

/** The way through, with where it stands; folded into one line on a narrow screen. */
export function StepList({ state }: { state: JobState }) {
  return (
    <div
      role="region"
      tabIndex={0}
      aria-labelledby="steps-title"
      className="shrink-0 max-lg:border-b max-lg:border-line max-lg:px-4 max-lg:py-2 lg:w-60 lg:overflow-auto lg:py-3"
    >
      <h2 id="steps-title" className="text-sm font-semibold text-soft lg:px-4 lg:pb-1">
        {whereText(state)}
      </h2>
      <ol className="hidden lg:block">
        <Rows state={state} />
      </ol>
    </div>
  );
}
