/** Every battery the shop knows, and what was last measured of it. */
import { percentText } from '@cork-ember/core/units/percent.ts';
import { Printer, Search } from 'lucide-react';
import { useMemo, useState } from 'react';
import { flushSync } from 'react-dom';
import { Link, useNavigationType, useSearchParams } from 'react-router';
import { sayTrouble } from '../ui/say.ts';
import { standsText } from '@cork-ember/core/runsheet/entries/place.ts';
import type { BatteryPage, BatteryQuery, BatteryRow } from '@cork-ember/core/contract/answers.ts';
import { dateText } from '@cork-ember/core/clock/clockText.ts';
import { sentenceOf } from '../api/client.ts';
import { fetchBatteryPage, useBatteryPage } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { OUTCOME_WORDS } from '../ui/outcome.ts';
import { Combobox } from '../ui/Combobox.tsx';
import { Table, type Column } from '../ui/Table.tsx';
import { Waiting } from '../ui/Waiting.tsx';

function lastWord({ last }: BatteryRow, timeZone: string): { text: string; tone: string } {
  if (!last) return { text: 'never on the bench', tone: 'text-soft' };
  if (!last.outcome || last.endedAt === null)
    return { text: `at work, ${standsText(last.bay)}`, tone: 'text-ember-text' };
  const { word, tone } = OUTCOME_WORDS[last.outcome];
  return { text: `${word} ${dateText(last.endedAt, timeZone)}`, tone };
}

const WHERE = [
  { value: 'anywhere', label: 'All batteries' },
  { value: 'bench', label: 'On the bench' },
] as const;
const SORTS = [
  { value: 'last', label: 'Latest work first' },
  { value: 'tag', label: 'By tag' },
] as const;

const oneOf = <T extends string>(
  choices: readonly { readonly value: T }[],
  said: string | null,
): T | undefined => choices.find(({ value }) => value === said)?.value;

/** What is asked for stands in the address: it can be kept, sent and gone back to. */
function useAsked(): readonly [BatteryQuery, (change: Partial<BatteryQuery>) => void] {
  const [params, setParams] = useSearchParams();
  const asked: BatteryQuery = {
    words: params.get('find') ?? '',
    where: oneOf(WHERE, params.get('where')) ?? 'anywhere',
    sort: oneOf(SORTS, params.get('sort')) ?? 'last',
    page: Math.max(0, Math.floor(Number(params.get('page') ?? 1)) - 1 || 0),
  };
  const ask = (change: Partial<BatteryQuery>): void => {
    const { words, where, sort, page } = { ...asked, page: 0, ...change };
    const next = {
      ...(words === '' ? {} : { find: words }),
      ...(where === 'anywhere' ? {} : { where }),
      ...(sort === 'last' ? {} : { sort }),
      ...(page === 0 ? {} : { page: String(page + 1) }),
    };
    setParams(next, { replace: change.page === undefined });
  };
  return [asked, ask];
}

/** Tags, types and owners by the words they begin with. */
function Asking({ asked, ask }: { asked: BatteryQuery; ask: (change: Partial<BatteryQuery>) => void }) {
  // The address follows what is typed, and may come behind: a field that waited for it would lose letters.
  const [typed, setTyped] = useState(asked.words);
  const [known, setKnown] = useState(asked.words);
  const isGoneBack = useNavigationType() === 'POP';
  if (known !== asked.words) {
    setKnown(asked.words);
    if (isGoneBack) setTyped(asked.words);
  }
  return (
    <search className="mb-3 flex flex-wrap items-center gap-3 print:hidden">
      <label className="flex min-h-12 min-w-60 flex-1 items-center gap-2 rounded-lg border-2 border-cork bg-card px-3 focus-within:outline-3 focus-within:outline-ember">
        <Search aria-hidden className="size-5 shrink-0 text-soft" />
        <span className="sr-only">Find a battery</span>
        <input
          type="search"
          value={typed}
          maxLength={80}
          autoComplete="off"
          placeholder="Tag, serial, type, maker or owner"
          onChange={({ target }) => {
            setTyped(target.value);
            ask({ words: target.value });
          }}
          className="min-h-11 w-full bg-transparent outline-none"
        />
      </label>
      <Combobox
        label="Which batteries"
        className="w-full sm:w-auto"
        value={asked.where}
        choices={WHERE}
        onChoose={(where) => ask({ where: oneOf(WHERE, where) ?? 'anywhere' })}
      />
      <Combobox
        label="In which order"
        className="w-full sm:w-auto"
        value={asked.sort}
        choices={SORTS}
        onChoose={(sort) => ask({ sort: oneOf(SORTS, sort) ?? 'last' })}
      />
    </search>
  );
}

/** Which of how many are shown, and the way to the others. */
function Pages({
  answer: { rows, total, size },
  page,
  turn,
}: {
  answer: BatteryPage;
  page: number;
  turn: (page: number) => void;
}) {
  const first = page * size + 1;
  const last = page * size + rows.length;
  return (
    <nav aria-label="Pages of batteries" className="mt-3 flex flex-wrap items-center gap-3 print:hidden">
      <p aria-live="polite" className="reading mr-auto text-sm text-soft">
        {first} to {last} of {total}
      </p>
      {total > size && (
        <>
          <Button disabled={page === 0} onClick={() => turn(page - 1)}>
            Page before
          </Button>
          <Button disabled={last >= total} onClick={() => turn(page + 1)}>
            Next page
          </Button>
        </>
      )}
    </nav>
  );
}

const unknown = <span className="text-soft">–</span>;

/** Sorted by the server: the list is longer than a page. */
const columnsOf = (timeZone: string): readonly Column<BatteryRow>[] => [
  {
    id: 'tag',
    head: 'Tag',
    cell: ({ tag }) => (
      <Link
        to={`/batteries/${tag}`}
        className="flex min-h-12 items-center font-bold whitespace-nowrap underline decoration-cork underline-offset-4"
      >
        {tag}
      </Link>
    ),
    text: ({ tag }) => tag,
  },
  {
    id: 'type',
    head: 'Type, for',
    cell: (battery) => {
      const last = lastWord(battery, timeZone);
      return (
        <>
          <span className="block truncate">
            <span className="whitespace-nowrap">{battery.typeId}</span>{' '}
            <span className="hidden text-soft lg:inline">made {battery.dateCode}</span>
          </span>
          <span className="block truncate text-sm text-soft">{battery.owner}</span>
          <span className={`block text-sm font-medium sm:hidden ${last.tone}`}>{last.text}</span>
        </>
      );
    },
    text: ({ typeId, dateCode, owner }) => `${typeId} ${dateCode}, ${owner}`,
    className: 'max-w-40 lg:max-w-72',
  },
  {
    id: 'last',
    head: 'Last',
    cell: (battery) => {
      const { text, tone } = lastWord(battery, timeZone);
      return <span className={`font-medium ${tone}`}>{text}</span>;
    },
    text: (battery) => lastWord(battery, timeZone).text,
    className: 'min-w-28 max-sm:hidden lg:whitespace-nowrap',
  },
  {
    id: 'grade',
    head: 'Grade',
    cell: ({ measured: { grade } }) => grade ?? unknown,
    text: ({ measured: { grade } }) => grade ?? '',
    isFigure: true,
  },
  {
    id: 'capacity',
    head: 'Capacity',
    cell: ({ measured: { capacityShare: share } }) => (share === undefined ? unknown : percentText(share)),
    text: ({ measured: { capacityShare: share } }) => (share === undefined ? '' : percentText(share)),
    isFigure: true,
  },
  {
    id: 'cranking',
    head: 'Cranking',
    cell: ({ measured: { crankingA } }) => (crankingA === undefined ? unknown : `${crankingA.toFixed(0)} A`),
    text: ({ measured: { crankingA } }) => (crankingA === undefined ? '' : `${crankingA.toFixed(0)} A`),
    isFigure: true,
  },
  {
    id: 'rested',
    head: 'Rested',
    cell: ({ measured: { ocvV } }) => (ocvV === undefined ? unknown : `${ocvV.toFixed(2)} V`),
    text: ({ measured: { ocvV } }) => (ocvV === undefined ? '' : `${ocvV.toFixed(2)} V`),
    isFigure: true,
  },
];

/** Every page of what is asked for, for paper and file: nobody reads a ledger a page at a time. */
function useAll(
  asked: BatteryQuery,
  answer: BatteryPage,
): readonly [all: readonly BatteryRow[] | undefined, fetchAll: () => Promise<void>] {
  const [all, setAll] = useState<{ readonly beside: BatteryPage; readonly rows: readonly BatteryRow[] }>();
  const fetchAll = async (): Promise<void> => {
    const rows: BatteryRow[] = [];
    for (let page = 0; rows.length < answer.total; page++) {
      const next = await fetchBatteryPage({ ...asked, page });
      rows.push(...next.rows);
      if (next.rows.length === 0) break;
    }
    // On the page before anybody prints it.
    flushSync(() => setAll({ beside: answer, rows }));
  };
  // Once the ledger has changed they are of yesterday.
  return [all?.beside === answer ? all.rows : undefined, fetchAll];
}

function Listed({
  answer,
  asked,
  ask,
  timeZone,
}: {
  answer: BatteryPage;
  asked: BatteryQuery;
  ask: (change: Partial<BatteryQuery>) => void;
  timeZone: string;
}) {
  const columns = useMemo(() => columnsOf(timeZone), [timeZone]);
  const [all, fetchAll] = useAll(asked, answer);
  const show = (then: () => void = () => undefined): void => {
    fetchAll()
      .then(then)
      .catch((error: unknown) => sayTrouble(sentenceOf(error)));
  };
  return (
    <>
      <Table
        name="Batteries"
        rows={all ?? answer.rows}
        columns={columns}
        keyOf={({ tag }) => tag}
        {...(all || answer.total <= answer.size ? { file: 'batteries.csv' } : {})}
      />
      {!all && <Pages answer={answer} page={asked.page} turn={(page) => ask({ page })} />}
      <div className="mt-3 flex flex-wrap gap-3 print:hidden">
        <Button onClick={() => show(() => window.print())}>
          <Printer aria-hidden className="size-5" /> Print all {answer.total}
        </Button>
        {!all && answer.total > answer.size && (
          <Button tone="quiet" onClick={() => show()}>
            Show all {answer.total} on one page
          </Button>
        )}
      </div>
    </>
  );
}

export function BatteriesPart({ timeZone }: { timeZone: string }) {
  const [asked, ask] = useAsked();
  const { data: answer, error, refetch, isPlaceholderData } = useBatteryPage(asked);
  const isEverything = asked.words === '' && asked.where === 'anywhere' && asked.page === 0;
  if (answer && answer.total === 0 && isEverything && !isPlaceholderData)
    return (
      <p>
        None yet.{' '}
        <Link to="/intake" className="text-verdigris underline underline-offset-4">
          Take the first one in.
        </Link>
      </p>
    );
  return (
    <>
      <Asking asked={asked} ask={ask} />
      {!answer ? (
        <Waiting on={[{ data: answer, error, refetch }]} />
      ) : (
        <>
          {answer.rows.length === 0 ? (
            <p role="status">
              {asked.words === '' ? 'Nothing stands there.' : 'No battery is found by these words.'}{' '}
              <Button tone="quiet" onClick={() => ask({ words: '', where: 'anywhere', page: 0 })}>
                Show all
              </Button>
            </p>
          ) : (
            <Listed answer={answer} asked={asked} ask={ask} timeZone={timeZone} />
          )}
        </>
      )}
    </>
  );
}
