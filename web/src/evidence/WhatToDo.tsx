/** What to do with it, why, where that would change, and what to measure before. */
import { percentText } from '@cork-ember/core/units/percent.ts';
import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import { inSentence } from '@cork-ember/core/units/inSentence.ts';
import { Link } from 'react-router';
import { CHECK_NAMES, type NextBest } from '@cork-ember/core/advice/bestCheck.ts';
import type { Check } from '@cork-ember/core/observation/checks.ts';
import { threeViews } from '@cork-ember/core/runsheet/procedures/recovery/triage.ts';
import { latest, type JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { Button } from '../ui/Button.tsx';
import type { Advice } from '../judgement/useAdvice.ts';
import { Stages } from '../judgement/Stages.tsx';
import { Weighing } from '../judgement/Weighing.tsx';
import { HowSure } from './HowSure.tsx';
import { card } from '../ui/card.ts';

function Measure({
  best: { advised: best, pays },
  onMeasure,
}: {
  best: NextBest;
  onMeasure: (check: Check) => void;
}) {
  return (
    <div className="mt-2">
      <p className="text-2xl font-bold text-ember-text">
        {CHECK_NAMES[best.check]} {pays ? 'first' : 'to settle it'}
      </p>
      <p className="text-soft">
        {best.minutes.toFixed(0)} min of hands; it would change what is done {percentText(best.changes)} of
        the time.{' '}
        {pays ? '' : 'On average it costs more hands than it gains: with the bench full, go on without it.'}
      </p>
      <ul className="mt-2 space-y-1">
        {best.meanings.map(({ result, share, then }) => (
          <li key={then} className="flex flex-wrap gap-x-3">
            <span className="reading min-w-44">{result}</span>
            <span>
              {then} <span className="text-soft">({percentText(share)})</span>
            </span>
          </li>
        ))}
      </ul>
      <Button className="mt-3 min-h-14 w-full" onClick={() => onMeasure(best.check)}>
        Enter its result
      </Button>
    </div>
  );
}

/** What the three schools of go or no-go would have said of its voltage. */
function Views({ state }: { state: JobState }) {
  const ocvV = latest(state, STEP.firstOcv)?.values?.['ocvV'];
  if (typeof ocvV !== 'number') return null;
  return (
    <details className="mt-4 border-t border-line pt-1">
      <summary className="flex min-h-12 cursor-pointer items-center font-medium text-soft">
        What the three schools say of <span className="reading mx-1">{ocvV.toFixed(2)}</span> V
      </summary>
      <ul className="space-y-1 pb-2">
        {threeViews(ocvV, state.opened.type).map((view) => (
          <li key={view}>{view}</li>
        ))}
      </ul>
    </details>
  );
}

export function WhatToDo({
  state,
  advice,
  isDoubted,
  onMeasure,
}: {
  state: JobState;
  advice: Advice;
  /** A reading fits nothing that is believed: it is read again before anything is done. */
  isDoubted: boolean;
  onMeasure: (check: Check) => void;
}) {
  const { recommendation, scored, sure, best, checks } = advice;
  const isHeld = isDoubted || best !== undefined;
  return (
    <section aria-labelledby="do-title" className={card({ edge: 'first', pad: 'wide' })}>
      <h2 id="do-title" className="text-lg font-bold">
        What to do
      </h2>
      <div className="mt-2">
        <Weighing advice={advice} />
      </div>
      {isDoubted ? (
        <p className="mt-2 text-2xl font-bold text-ember-text">First read again what does not fit</p>
      ) : (
        best && <Measure best={best} onMeasure={onMeasure} />
      )}
      {recommendation && (
        <div className={isHeld ? 'mt-4 border-t border-line pt-4' : 'mt-2'}>
          {isHeld ? (
            <h3 className="text-lg font-bold">As it stands: {inSentence(recommendation.title)}</h3>
          ) : (
            <p className="text-2xl font-bold text-ember-text">{recommendation.title}</p>
          )}
          <p className="mt-2">{recommendation.reason}</p>
          <Stages scored={scored} />
          <p className="mt-2 text-soft">{recommendation.turns}</p>
          {sure && <HowSure sure={sure} />}
          {checks && !best && (
            <p className="mt-2 text-soft">It is settled: no further check would change this.</p>
          )}
          <Link
            to={`/jobs/${state.job}`}
            className="mt-1 inline-flex min-h-12 items-center text-verdigris underline underline-offset-4"
          >
            Choose it on the run sheet
          </Link>
        </div>
      )}
      <Views state={state} />
    </section>
  );
}
