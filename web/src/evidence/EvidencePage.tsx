/** Evidence: what is probably wrong with a battery brought back, why, and what is still in it. */
import { Link, useParams } from 'react-router';
import type { Check } from '@cork-ember/core/observation/checks.ts';
import { shortName } from '@cork-ember/core/battery/types.ts';
import { procedureOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import { sentenceOf } from '../api/client.ts';
import { useJob } from '../api/jobs.ts';
import { useLearned } from '../api/queries.ts';
import { useReading } from '../judgement/useReading.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { Causes } from '../judgement/Causes.tsx';
import { Figures } from '../judgement/Figures.tsx';
import { Misfits } from '../judgement/Misfits.tsx';
import { Reasons } from './Reasons.tsx';
import { useAdvice } from '../judgement/useAdvice.ts';
import { useBelief } from '../judgement/useBelief.ts';
import { WhatToDo } from './WhatToDo.tsx';
import { Title } from '../ui/Title.tsx';
import { later } from '../ui/later.tsx';

const AddReading = later(async () => (await import('../judgement/AddReading.tsx')).AddReading);

const Courses = later(async () => (await import('./Courses.tsx')).Courses);

function Evidence({ job }: { job: Job }) {
  const { state } = job;
  const { opened, outcome } = state;
  const belief = useBelief(state);
  const { data: learned } = useLearned();
  const { believed, error } = belief;
  const advice = useAdvice(state, belief);
  const problem = error ?? advice.error;
  const [reading, read] = useReading();
  const measure = (check: Check): void => {
    read(check);
    document.getElementById('add-title')?.focus();
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
          <Notice tone="stop">
            <p>{sentenceOf(problem)}</p>
            <Button onClick={error ? belief.again : advice.again}>Try again</Button>
          </Notice>
        </div>
      )}
      {/* What to do and why first; what it goes by beside it, or after it where there is one column. */}
      <div
        className="mt-4 grid grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-[minmax(0,1fr)_22rem] lg:items-start"
        aria-live="polite"
        aria-busy={!believed}
      >
        {!outcome && (
          <div className="space-y-4">
            {believed && <Misfits misfits={believed.misfits} />}
            <WhatToDo
              state={state}
              advice={advice}
              isDoubted={(believed?.misfits.length ?? 0) > 0}
              onMeasure={measure}
            />
            <AddReading job={job} kind={reading} onKind={read} onTaken={() => read(undefined)} />
          </div>
        )}
        <div className="space-y-4 lg:col-start-2 lg:row-span-2 lg:row-start-1">
          {believed ? (
            <>
              <Causes summary={believed.summary} isAtRest={believed.isAtRest} />
              <Figures figures={believed.summary.figures} atFirst={believed.atFirst} />
            </>
          ) : (
            <p className="text-soft">Candidate batteries are being weighed …</p>
          )}
        </div>
        <div className="space-y-4">
          {advice.comparison && <Courses comparison={advice.comparison} ways={advice.ways} />}
          {believed && <Reasons explained={believed.explained} jobs={learned?.jobs.causes ?? 0} />}
        </div>
      </div>
    </div>
  );
}

export function EvidencePage() {
  const { id = '' } = useParams();
  const { job, error, refetch } = useJob(id);
  if (!job) return <Waiting on={[{ data: job, error, refetch }]} />;
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
