/** One job of a battery: how it ended, what it brought, its cord and its papers. */
import { Download } from 'lucide-react';
import { Link } from 'react-router';
import { dateText, dateTimeText } from '@cork-ember/core/clock/clockText.ts';
import type { JobSummary } from '@cork-ember/core/contract/answers.ts';
import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import { standsText } from '@cork-ember/core/runsheet/entries/place.ts';
import { chargeNow } from '@cork-ember/core/runsheet/outcome/chargeNow.ts';
import { gainsOf, gainWords } from '@cork-ember/core/runsheet/outcome/gain.ts';
import { forecast } from '@cork-ember/core/runsheet/plan/forecast.ts';
import { contextOf } from '@cork-ember/core/runsheet/state/context.ts';
import { latest, type JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { gradedFrom } from '@cork-ember/core/runsheet/verdict/proof.ts';
import { useNow } from '../api/clock.ts';
import { useJob } from '../api/jobs.ts';
import { Cord } from '../cord/Cord.tsx';
import { useWidth } from '../cord/useWidth.ts';
import { card } from '../ui/card.ts';
import { OUTCOME_WORDS } from '../ui/outcome.ts';
import { WhatItTook } from '../ui/WhatItTook.tsx';

function Results({ state }: { state: JobState }) {
  if (state.outcome === 'recovered') {
    const { grade, because, use } = gradedFrom(contextOf(state, latest(state, STEP.proveOcv)?.round ?? 1));
    return (
      <p>
        <strong>Grade {grade}.</strong> {because} For {use}.
      </p>
    );
  }
  const charge = chargeNow(state);
  if (!charge || (state.outcome !== 'certified' && state.outcome !== 'charged'))
    return state.outcomeNote ? <p>{state.outcomeNote}</p> : null;
  return (
    <p>
      Rested at <strong className="reading">{charge.ocvV.toFixed(2)} V</strong>, charge {charge.words},{' '}
      {charge.because}.
    </p>
  );
}

/** What a recovery brought back, each figure by itself. */
function Gains({ state }: { state: JobState }) {
  const gains = gainsOf(state);
  if (gains.length === 0) return null;
  return (
    <dl className="mt-2 grid max-w-3xl grid-cols-[9rem_1fr] gap-y-1">
      {gains.map((gain) => (
        <div key={gain.what} className="contents">
          <dt className="text-soft">{gain.what}</dt>
          <dd className="reading">{gainWords(gain)}</dd>
        </div>
      ))}
    </dl>
  );
}

export function JobCard({ summary, timeZone }: { summary: JobSummary; timeZone: string }) {
  const { job } = useJob(summary.id);
  const now = useNow();
  const [ref, width] = useWidth<HTMLDivElement>(700);
  const words = summary.outcome ? OUTCOME_WORDS[summary.outcome] : undefined;
  const drawn = job && forecast(job.state, now);
  return (
    <li className={card({ pad: 'wide' })}>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <h3 className={`text-lg font-bold ${words?.tone ?? 'text-ember-text'}`}>
          {words ? words.word : `at work, ${standsText(summary.bay)}`}
        </h3>
        <p className="text-soft">
          {dateTimeText(summary.openedAt, timeZone)}
          {summary.endedAt !== null && ` to ${dateTimeText(summary.endedAt, timeZone)}`}
        </p>
        <span className="flex-1" />
        {words && (
          <a
            href={`/api/jobs/${summary.id}/certificate.pdf`}
            download
            className="inline-flex min-h-12 items-center gap-2 rounded-lg bg-verdigris-deep px-4 font-medium text-white hover:brightness-110"
          >
            <Download aria-hidden className="size-5" /> {words.paper}
          </a>
        )}
        <Link
          to={`/jobs/${summary.id}`}
          className="inline-flex min-h-12 items-center rounded-lg border-2 border-cork px-4 font-medium hover:bg-paper"
        >
          Run sheet
        </Link>
      </div>
      {job && (
        <div className="mt-2">
          <Results state={job.state} />
          <Gains state={job.state} />
          <WhatItTook state={job.state} now={summary.endedAt ?? now} />
        </div>
      )}
      <div ref={ref} className="mt-1">
        {job && drawn && (
          <svg
            width={width}
            height={64}
            role="img"
            aria-label={`Cord of the job of ${dateText(summary.openedAt, timeZone)}`}
          >
            <Cord
              forecast={drawn}
              scale={{ from: summary.openedAt - 900_000, to: drawn.readyAt + 900_000, width }}
              now={summary.endedAt ?? now}
              timeZone={timeZone}
              y={38}
              isEnded={summary.outcome !== null}
            />
          </svg>
        )}
      </div>
    </li>
  );
}
