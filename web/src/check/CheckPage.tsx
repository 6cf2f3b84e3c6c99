/** Holds a paper against the record: its check code, typed or scanned, and what the paper must say. */
import { useQuery } from '@tanstack/react-query';
import { ShieldAlert, ShieldCheck, ShieldX } from 'lucide-react';
import { useState, type FormEvent } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { CheckAnswer } from '@cork-ember/core/contract/answers.ts';
import { dateTimeText } from '@cork-ember/core/clock/clockText.ts';
import { ask, Refusal } from '../api/client.ts';
import { useShop } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { TextBox } from '../ui/TextBox.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { Title } from '../ui/Title.tsx';
import { card } from '../ui/card.ts';

function CodeForm({ code }: { readonly code: string }) {
  const navigate = useNavigate();
  const [typed, setTyped] = useState(code);
  const look = (event: FormEvent): void => {
    event.preventDefault();
    if (typed.trim() !== '') void navigate(`/check/${encodeURIComponent(typed.trim())}`);
  };
  return (
    <form onSubmit={look} className="flex flex-wrap items-end gap-3">
      <div className="min-w-56 flex-1">
        <TextBox label="Check code of the paper" value={typed} onChange={setTyped} most={12} isReading />
      </div>
      <Button type="submit" tone="go" className="min-h-13">
        Hold it against the record
      </Button>
    </form>
  );
}

/** The word of the record about a paper, in one line. */
function wordOn({ broken, latest }: CheckAnswer): { tone: string; Sign: typeof ShieldCheck; words: string } {
  if (broken !== undefined)
    return { tone: 'text-clay', Sign: ShieldX, words: 'The record cannot vouch for this paper' };
  if (latest)
    return {
      tone: 'text-brass-ink',
      Sign: ShieldAlert,
      words: `No longer valid: issue ${latest.issue} has taken its place`,
    };
  return { tone: 'text-verdigris', Sign: ShieldCheck, words: 'The record vouches for this paper' };
}

function Answer({ answer, timeZone }: { readonly answer: CheckAnswer; readonly timeZone: string }) {
  const { broken, latest, title, tag, issue, at, rows, verdict, signature, job } = answer;
  const { tone, Sign, words } = wordOn(answer);
  return (
    <article className={card({ pad: 'wide' })}>
      <h2 role="status" className={`flex items-center gap-3 text-2xl font-bold ${tone}`}>
        <Sign aria-hidden className="size-9 shrink-0" /> {words}
      </h2>
      {broken !== undefined && (
        <p className="mt-2 font-medium">
          {broken} Somebody wrote into the shop’s file past this program; ask for the copy of before.
        </p>
      )}
      <p className="mt-3">
        {title} of {tag}, issue {issue}, sealed {dateTimeText(at, timeZone)}. The paper must say exactly this:
      </p>
      <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-5 gap-y-1 max-sm:grid-cols-1 max-sm:gap-y-0">
        {[...(verdict === '' ? [] : [['Verdict', verdict] as const]), ...rows].map(([what, value]) => (
          <div key={what} className="contents max-sm:block max-sm:pb-2">
            <dt className="text-soft">{what}</dt>
            <dd className="font-medium">{value}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-3 border-t border-line pt-3">{signature}</p>
      <p className="mt-4 flex flex-wrap gap-x-5">
        {latest && (
          <Link
            to={`/check/${latest.code}`}
            className="inline-flex min-h-12 items-center font-semibold text-verdigris underline underline-offset-4"
          >
            Issue {latest.issue}, which is valid
          </Link>
        )}
        <Link
          to={`/jobs/${job}`}
          className="inline-flex min-h-12 items-center text-verdigris underline underline-offset-4"
        >
          The whole job
        </Link>
      </p>
    </article>
  );
}

export function CheckPage() {
  const { code = '' } = useParams();
  const shops = useShop();
  const { data: shop } = shops;
  const { data, error, refetch } = useQuery({
    queryKey: ['check', code],
    queryFn: () => ask<CheckAnswer>(`/api/check/${encodeURIComponent(code)}`),
    enabled: code !== '',
    retry: false,
    staleTime: 0,
  });
  return (
    <div className="mx-auto max-w-3xl space-y-5 p-5" data-scans="">
      <Title className="text-xl font-bold">Is this paper so?</Title>
      <CodeForm key={code} code={code} />
      {code !== '' &&
        (data && shop ? (
          <Answer answer={data} timeZone={shop.hours.timeZone} />
        ) : error instanceof Refusal ? (
          <Notice tone="stop">{error.message}</Notice>
        ) : (
          <Waiting on={[{ data, error, refetch }, shops]} />
        ))}
    </div>
  );
}
