/** Evidence: what is probably wrong with a battery brought back, why, and what is still in it. */
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { Check } from '@cork-ember/core/belief/checks.ts';
import { shortName } from '@cork-ember/core/battery/types.ts';
import { procedureOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import { sentenceOf } from '../api/client.ts';
import { useJob } from '../api/queries.ts';
import { Notice } from '../ui/Notice.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { AddReading } from './AddReading.tsx';
import { Causes } from './Causes.tsx';
import { Courses } from './Courses.tsx';
import { Figures } from './Figures.tsx';
import { Reasons } from './Reasons.tsx';
import { useAdvice } from './useAdvice.ts';
import { useBelief } from '../belief/useBelief.ts';
import { WhatToDo } from './WhatToDo.tsx';
import { Title } from '../ui/Title.tsx';

function Evidence({ job }: { job: Job }) {
  const { state } = job;
  const { opened } = state;
  const belief = useBelief(state);
  const { believed, error } = belief;
  const advice = useAdvice(state, belief);
  const problem = error ?? advice.error;
  const [kind, setKind] = useState('load');
  const measure = (check: Check): void => {
    setKind(check);
    const title = document.getElementById('add-title');
    title?.scrollIntoView({ block: 'start' });
    title?.focus();
  };
  return (
    <div className="p-5">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <Title>Evidence</Title>
        <p className="min-w-0 truncate">
          {opened.battery.tag} · {shortName(opened.type)} · {opened.battery.owner}
        </p>
        <Link
          to={`/jobs/${state.job}`}
          className="ml-auto inline-flex min-h-12 items-center text-verdigris underline underline-offset-4"
        >
          Run sheet
        </Link>
      </div>
      <p className="text-soft">
        Estimates from a model of the battery and its readings. They advise; limits and stop rules stand
        whatever they say.
      </p>
      {problem !== null && problem !== undefined && (
        <div className="mt-4">
          <Notice tone="stop">{sentenceOf(problem)}</Notice>
        </div>
      )}
      {/* One column reads in order of use; two stand side by side where there is room. */}
      <div
        className="mt-4 flex flex-col gap-4 lg:grid lg:grid-cols-2 lg:items-start"
        aria-live="polite"
        aria-busy={!believed}
      >
        <div className="contents lg:block lg:space-y-4">
          {believed ? (
            <>
              <div className="order-1">
                <Causes summary={believed.summary} isAtRest={believed.isAtRest} />
              </div>
              <div className="order-3">
                <Figures figures={believed.summary.figures} />
              </div>
              <div className="order-3">
                <Reasons explained={believed.explained} />
              </div>
            </>
          ) : (
            <p className="text-soft">Candidate batteries are being weighed …</p>
          )}
        </div>
        {!state.outcome && (
          <div className="order-2 contents lg:block lg:space-y-4">
            <div className="order-2">
              <WhatToDo state={state} advice={advice} onMeasure={measure} />
            </div>
            <div className="order-2">
              <AddReading job={job} kind={kind} onKind={setKind} />
            </div>
          </div>
        )}
      </div>
      {advice.comparison && (
        <div className="mt-4">
          <Courses comparison={advice.comparison} ways={advice.ways} />
        </div>
      )}
    </div>
  );
}

export function EvidencePage() {
  const { id = '' } = useParams();
  const { job, error, refetch } = useJob(id);
  if (!job) return <Waiting error={error} retry={() => void refetch()} />;
  if (!procedureOf(job.state).routes)
    return (
      <p className="p-8 text-soft">
        A battery that is commissioned is not asked what is the matter.{' '}
        <Link to={`/jobs/${id}`} className="text-verdigris underline underline-offset-4">
          To its run sheet
        </Link>
      </p>
    );
  return <Evidence job={job} />;
}
