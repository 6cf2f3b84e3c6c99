/** Issues of an ended job's papers: which is valid, by what code it can be held against the record. */
import { ShieldCheck } from 'lucide-react';
import { Link } from 'react-router';
import type { SealSummary } from '@cork-ember/core/contract/answers.ts';
import { dateTimeText } from '@cork-ember/core/clock/clockText.ts';

interface IssuesProps {
  readonly job: string;
  readonly seals: readonly SealSummary[];
  /** What its paper is called. */
  readonly paper: string;
  readonly timeZone: string;
}

export function Issues({ job, seals, paper, timeZone }: IssuesProps) {
  if (seals.length === 0) return null;
  const latest = seals.at(-1);
  return (
    <section aria-label="Issues" className="mt-5 border-t border-line pt-3">
      <ul>
        {seals.toReversed().map((seal) => (
          <li key={seal.issue} className="flex flex-wrap items-center gap-x-3">
            <span className={seal === latest ? 'font-semibold' : 'text-soft'}>
              Issue {seal.issue}, sealed {dateTimeText(seal.at, timeZone)}
              {seal !== latest && ': no longer valid'}
            </span>
            <Link
              to={`/check/${seal.code}`}
              className="inline-flex min-h-12 items-center gap-1 text-verdigris underline underline-offset-4"
            >
              <ShieldCheck aria-hidden className="size-5" />
              <span translate="no" className="reading">
                {seal.code}
              </span>
            </Link>
            {seal !== latest && (
              <a
                href={`/api/jobs/${job}/certificate.pdf?issue=${seal.issue}`}
                download
                className="inline-flex min-h-12 items-center text-verdigris underline underline-offset-4"
              >
                {paper} as it was (PDF)
              </a>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
