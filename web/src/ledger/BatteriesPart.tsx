/** Every battery the shop knows, and what was last measured of it. */
import { percentText } from '@cork-ember/core/units/percent.ts';
import { Search } from 'lucide-react';
import { Link, useSearchParams } from 'react-router';
import { standsText } from '@cork-ember/core/runsheet/entries/place.ts';
import type {
  BatteryPage,
  BatteryQuery,
  BatteryRow,
  LastMeasured,
} from '@cork-ember/core/contract/answers.ts';
import { dateText } from '@cork-ember/core/clock/clockText.ts';
import { useBatteryPage } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { OUTCOME_WORDS } from '../ui/outcome.ts';
import { Select } from '../ui/Select.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { Heads } from './Heads.tsx';

function lastWord({ last }: BatteryRow, timeZone: string): { text: string; tone: string } {
  if (!last.outcome || last.endedAt === null)
    return { text: `at work, ${standsText(last.bay)}`, tone: 'text-ember-text' };
  const { word, tone } = OUTCOME_WORDS[last.outcome];
  return { text: `${word} ${dateText(last.endedAt, timeZone)}`, tone };
}

/** What was last measured, where anything was; what was not stays empty. */
function Measured({ measured: { grade, capacityShare, crankingA, ocvV } }: { measured: LastMeasured }) {
  const cells = [
    grade,
    capacityShare === undefined ? undefined : percentText(capacityShare),
    crankingA === undefined ? undefined : `${crankingA.toFixed(0)} A`,
    ocvV === undefined ? undefined : `${ocvV.toFixed(2)} V`,
  ];
  return cells.map((text, index) => (
    <td key={index} className="reading px-2 text-right text-sm whitespace-nowrap lg:px-3">
      {text ?? <span className="text-soft">–</span>}
    </td>
  ));
}

const HEADS = ['Tag', 'Type, for', 'Last'] as const;
const FIGURES = ['Grade', 'Capacity', 'Cranking', 'Rested'] as const;

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
  return (
    <search className="mb-3 flex flex-wrap items-center gap-3">
      <label className="flex min-h-12 min-w-60 flex-1 items-center gap-2 rounded-lg border-2 border-cork bg-card px-3 focus-within:outline-3 focus-within:outline-ember">
        <Search aria-hidden className="size-5 shrink-0 text-soft" />
        <span className="sr-only">Find a battery</span>
        <input
          type="search"
          value={asked.words}
          maxLength={80}
          autoComplete="off"
          placeholder="Tag, serial, type, maker or owner"
          onChange={(event) => ask({ words: event.target.value })}
          className="min-h-11 w-full bg-transparent outline-none"
        />
      </label>
      <Select
        label="Which batteries"
        className="w-full sm:w-auto"
        value={asked.where}
        choices={WHERE}
        onChoose={(where) => ask({ where: oneOf(WHERE, where) ?? 'anywhere' })}
      />
      <Select
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
    <nav aria-label="Pages of batteries" className="mt-3 flex flex-wrap items-center gap-3">
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

function Rows({ rows, timeZone }: { rows: readonly BatteryRow[]; timeZone: string }) {
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Batteries">
      <table className="w-full border-collapse text-left">
        <thead>
          <tr className="border-b-2 border-cork text-sm text-soft">
            <Heads words={HEADS} figures={FIGURES} notOnPhone={['Last']} />
          </tr>
        </thead>
        <tbody>
          {rows.map((battery) => {
            const last = lastWord(battery, timeZone);
            return (
              <tr key={battery.tag} className="border-b border-line hover:bg-panel">
                <th scope="row" className="p-0">
                  <Link
                    to={`/batteries/${battery.tag}`}
                    className="flex min-h-13 items-center px-2 font-bold lg:px-3 whitespace-nowrap underline decoration-cork underline-offset-4"
                  >
                    {battery.tag}
                  </Link>
                </th>
                <td className="max-w-40 px-2 py-1.5 lg:max-w-72 lg:px-3">
                  <span className="block truncate">
                    <span className="whitespace-nowrap">{battery.typeId}</span>{' '}
                    <span className="hidden text-soft lg:inline">made {battery.dateCode}</span>
                  </span>
                  <span className="block truncate text-sm text-soft">{battery.owner}</span>
                  <span className={`block text-sm font-medium sm:hidden ${last.tone}`}>{last.text}</span>
                </td>
                <td
                  className={`min-w-28 px-2 font-medium max-sm:hidden lg:px-3 lg:whitespace-nowrap ${last.tone}`}
                >
                  {last.text}
                </td>
                <Measured measured={battery.measured} />
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
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
        <Waiting error={error} retry={() => void refetch()} />
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
            <>
              <Rows rows={answer.rows} timeZone={timeZone} />
              <Pages answer={answer} page={asked.page} turn={(page) => ask({ page })} />
            </>
          )}
        </>
      )}
    </>
  );
}
