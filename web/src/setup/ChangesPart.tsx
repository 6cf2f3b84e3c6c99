/** The record: what was changed of the shop, by whom, when and why. */
import { Download } from 'lucide-react';
import type { ShopChange } from '@cork-ember/core/contract/answers.ts';
import { dateText, dateTimeText } from '@cork-ember/core/clock/clockText.ts';
import { Link } from 'react-router';
import { useQuarantined, useShopChanges } from '../api/queries.ts';
import { Customers } from './Customers.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { buttonClass } from '../ui/Button.tsx';

export function ChangesPart({ timeZone }: { timeZone: string }) {
  const { data, error, refetch } = useShopChanges();
  if (!data) return <Waiting on={[{ data, error, refetch }]} />;
  return (
    <>
      <Apart timeZone={timeZone} />
      <Copies />
      <Customers />
      <Changes data={data} timeZone={timeZone} />
    </>
  );
}

/** Records nobody can read today, ended ones too: each is a press away. */
function Apart({ timeZone }: { timeZone: string }) {
  const { data = [] } = useQuarantined();
  if (data.length === 0) return null;
  return (
    <section aria-labelledby="apart-title" className="mb-6 max-w-prose">
      <h2 id="apart-title" className="text-lg font-bold text-clay">
        Records that stand apart
      </h2>
      <ul>
        {data.map(({ id, tag, openedAt, why }) => (
          <li key={id} className="border-b border-line py-2">
            <Link
              to={`/jobs/${id}`}
              className="inline-flex min-h-12 items-center font-semibold underline underline-offset-4"
            >
              {tag}, taken in {dateText(openedAt, timeZone)}
            </Link>
            <p className="text-soft">{why}</p>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The shop as one file, to be put on another disk. */
function Copies() {
  return (
    <section aria-labelledby="copies-title" className="mb-6 max-w-prose">
      <h2 id="copies-title" className="text-lg font-bold">
        Copies
      </h2>
      <p className="text-soft">
        A working shop gets one each night beside its file, fourteen are kept; a demo gets none. Take one away
        now and then: a disk dies with all that is on it. <span className="reading">npm run restore</span>{' '}
        brings one back.
      </p>
      <a href="/api/copy" download className={buttonClass({ className: 'mt-2 min-h-14' })}>
        <Download aria-hidden className="size-5" /> Take a copy away
      </a>
      <p className="mt-4">
        A paper of this shop is in your hand?{' '}
        <Link
          to="/check"
          className="inline-flex min-h-12 items-center text-verdigris underline underline-offset-4"
        >
          Hold it against the record
        </Link>
      </p>
    </section>
  );
}

function Changes({ data, timeZone }: { data: readonly ShopChange[]; timeZone: string }) {
  if (data.length === 0)
    return (
      <p className="text-soft">
        Nothing was changed yet: the shop works by the defaults. What is changed stands here with its reason.
      </p>
    );
  return (
    <ol aria-label="Changes, the newest first" className="max-w-4xl">
      {data.map(({ id, at, by, why, what }) => (
        <li key={id} className="border-b border-line py-3">
          <p className="font-medium">{what}</p>
          <p className="text-sm text-soft">
            {dateTimeText(at, timeZone)}, {by}: “{why}”
          </p>
        </li>
      ))}
    </ol>
  );
}
