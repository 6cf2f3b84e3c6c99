import { Download, FileJson } from 'lucide-react';
import { Link } from 'react-router';
import type { SealSummary } from '@cork-ember/core/contract/answers.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { Photos } from './Photos.tsx';
import { Reopen } from './Amend.tsx';
import { Issues } from './Issues.tsx';
import { WhatItTook } from '../ui/WhatItTook.tsx';
import { OUTCOME_WORDS } from '../ui/outcome.ts';
import { card } from '../ui/card.ts';

const LINK =
  'inline-flex min-h-14 items-center gap-2 rounded-lg border-2 border-cork px-5 font-medium hover:bg-paper';

/**
 * What is left when a job has ended: its paper, its file, the next battery.
 * @param isRecorded whether the server has the end; before that there is no paper to fetch
 */
export function Ended({
  job,
  seals,
  isRecorded,
}: {
  job: Job;
  seals: readonly SealSummary[];
  isRecorded: boolean;
}) {
  const { state } = job;
  const words = OUTCOME_WORDS[state.outcome ?? 'withdrawn'];
  return (
    <article className={card({ pad: 'none', className: 'mx-auto max-w-3xl p-6' })}>
      <h2 className={`text-2xl font-bold ${words.tone}`}>{words.title}</h2>
      {state.outcomeNote && <p className="mt-2 text-[17px]">{state.outcomeNote}</p>}
      <Photos state={state} />
      <WhatItTook state={state} now={state.endedAt ?? state.openedAt} />
      <p className="mt-5 flex flex-wrap gap-3">
        {isRecorded ? (
          <>
            <a
              href={`/api/jobs/${state.job}/certificate.pdf`}
              download
              className={`${LINK} border-verdigris-deep bg-verdigris-deep text-white hover:bg-verdigris-deep hover:brightness-110`}
            >
              <Download aria-hidden className="size-5" /> {words.paper} (PDF)
            </a>
            {state.outcome === 'certified' && (
              <a href={`/api/jobs/${state.job}/owner-sheet.pdf`} download className={LINK}>
                <Download aria-hidden className="size-5" /> Owner’s sheet (PDF)
              </a>
            )}
            <a href={`/api/jobs/${state.job}/warranty-record.pdf`} download className={LINK}>
              <Download aria-hidden className="size-5" /> Warranty record (PDF)
            </a>
            <a href={`/api/jobs/${state.job}/export`} download className={LINK}>
              <FileJson aria-hidden className="size-5" /> Whole job (JSON)
            </a>
          </>
        ) : (
          <span role="status" className="self-center text-soft">
            Being recorded …
          </span>
        )}
        <Link to="/intake" className={LINK}>
          Take in the next
        </Link>
        {isRecorded && <Reopen job={job} />}
      </p>
      <Issues job={state.job} seals={seals} paper={words.paper} timeZone={state.opened.hours.timeZone} />
    </article>
  );
}
