/** Shelf: every battery that is not on the bench, what is due first at the top, each as a fuse that burns towards its line. */
import { useDeferredValue, useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { ListedType } from '@cork-ember/core/battery/types.ts';
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import { callsAt } from '@cork-ember/core/shelf/calls.ts';
import { PLACE_KINDS, PLACES, type Place, type PlaceKind } from '@cork-ember/core/shelf/places.ts';
import { isDueBy, isOnRound, isWantedBy, needsTag, whereOf } from '@cork-ember/core/shelf/words.ts';
import { DAY_MS } from '@cork-ember/core/shelf/warmth.ts';
import { useMinute } from '../api/clock.ts';
import { useShelf } from '../api/shelf.ts';
import { useWidth } from '../cord/useWidth.ts';
import type { TimeScale } from '../cord/scale.ts';
import { Button, buttonClass } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { TextBox } from '../ui/TextBox.tsx';
import { Title } from '../ui/Title.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { Months } from './Months.tsx';
import { ShelfDrawer } from './ShelfDrawer.tsx';
import { ShelfRow } from './ShelfRow.tsx';
import { AddDialog } from './AddDialog.tsx';
import { TagsDialog } from './TagsDialog.tsx';
import { TakeDialog } from './TakeDialog.tsx';

/** What is foretold is drawn so far ahead, and a little of the past before it. */
const AHEAD_DAYS = 125;
const BEFORE_DAYS = 5;
/** Narrower than this a fuse has no room beside its words, px. */
const NARROW = 820;
/** Narrower than this the places are a list to choose from, px. */
const PHONE = 420;
/** Words before each fuse and the button after it, px. */
const BESIDE = 288 + 104 + 48;
/** Rows that are drawn at once; more of them on demand. */
const AT_ONCE = 40;

/** What is gone to now and then stands beside the count, smaller than what is pressed every day. */
const QUIET =
  'inline-flex min-h-12 items-center text-soft underline decoration-cork underline-offset-4 hover:text-char';

type Filter = PlaceKind | 'all' | 'nowhere';

function filterName(filter: Filter): string {
  if (filter === 'all') return 'Everything';
  return filter === 'nowhere' ? 'Not put away' : PLACES[filter].name;
}

const kindOf = ({ place }: Shelved): Filter => place?.kind ?? 'nowhere';

const texts = new WeakMap<Shelved, string>();

/** All one is found by, in small letters. */
function textOf(one: Shelved): string {
  const known = texts.get(one);
  if (known !== undefined) return known;
  const text =
    `${one.tag} ${one.tag.replace('-', '')} ${whereOf(one)} ${one.owner} ${one.typeId}`.toLowerCase();
  texts.set(one, text);
  return text;
}

const wordsOf = (search: string): readonly string[] =>
  search
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '');

interface ShelfProps {
  readonly shelved: readonly Shelved[];
  readonly types: readonly ListedType[];
  readonly timeZone: string;
}

interface BesideProps {
  readonly isEmpty: boolean;
  readonly calls: number;
  readonly toTag: number;
  readonly onAdd: () => void;
  readonly onTag: () => void;
}

/** What is gone to now and then. */
function Beside({ isEmpty, calls, toTag, onAdd, onTag }: BesideProps) {
  return (
    <nav aria-label="More of the shelf" className="flex flex-wrap items-center gap-x-5">
      {isEmpty ? (
        <Button tone="go" className="mt-3" onClick={onAdd}>
          Add one
        </Button>
      ) : (
        <button type="button" className={QUIET} onClick={onAdd}>
          Add one
        </button>
      )}
      <Link to="/shelf/machines" className={QUIET}>
        Machines
      </Link>
      {!isEmpty && (
        <>
          <Link to="/shelf/month" className={QUIET}>
            The month
          </Link>
          <Link to="/shelf/stores" className={QUIET}>
            How warm
          </Link>
          <Link to="/shelf/calls" className={QUIET}>
            Who to call{calls === 0 ? '' : `: ${calls}`}
          </Link>
          {toTag > 0 && (
            <button type="button" className={QUIET} onClick={onTag}>
              New tags: {toTag}
            </button>
          )}
        </>
      )}
    </nav>
  );
}

function Shelf({ shelved, types, timeZone }: ShelfProps) {
  const now = useMinute();
  const [ref, width] = useWidth<HTMLDivElement>(1000);
  const [filter, setFilter] = useState<Filter>('all');
  const [search, setSearch] = useState('');
  const [most, setMost] = useState(AT_ONCE);
  const [params] = useSearchParams();
  // A link leads to one of them.
  const [open, setOpen] = useState<string | undefined>(params.get('tag') ?? undefined);
  const [isTaking, setTaking] = useState(false);
  const [isAdding, setAdding] = useState(false);
  const [isTagging, setTagging] = useState(false);
  const words = useDeferredValue(search);
  const counts = useMemo(() => {
    const byKind = new Map<Filter, number>([['all', shelved.length]]);
    for (const one of shelved) byKind.set(kindOf(one), (byKind.get(kindOf(one)) ?? 0) + 1);
    return byKind;
  }, [shelved]);
  const known = useMemo(
    () => shelved.flatMap(({ place }): readonly Place[] => (place ? [place] : [])),
    [shelved],
  );
  const found = useMemo(() => {
    const wanted = wordsOf(words);
    return shelved.filter(
      (one) =>
        (filter === 'all' || kindOf(one) === filter) && wanted.every((word) => textOf(one).includes(word)),
    );
  }, [shelved, filter, words]);
  const opened = shelved.find(({ tag }) => tag === open);
  const isNarrow = width < NARROW;
  const scale: TimeScale = {
    from: now - BEFORE_DAYS * DAY_MS,
    to: now + AHEAD_DAYS * DAY_MS,
    width: Math.max(200, width - BESIDE),
  };
  const kinds = (['all', 'nowhere', ...PLACE_KINDS] as const)
    .filter((id) => id === 'all' || counts.has(id))
    .map((id) => ({ id, label: `${filterName(id)} ${counts.get(id) ?? 0}` }));
  const toRead = shelved.filter((one) => isOnRound(one, now)).length;
  const toCharge = shelved.filter((one) => isWantedBy(one, 'recharge', now + DAY_MS)).length;
  const toTag = shelved.filter(needsTag);
  const calls = callsAt(shelved, now).length;
  const dueNow = shelved.filter(({ due }) => isDueBy(due[0], now)).length;
  return (
    <div className="p-4" ref={ref}>
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
        <div className="mr-auto">
          <Title>Shelf</Title>
          <p className="text-soft">{dueNow === 0 ? 'Nothing is due today.' : `${dueNow} due today.`}</p>
        </div>
        {shelved.length > 0 && (
          <>
            <div className="w-56 max-sm:w-full">
              <TextBox
                label="Find"
                value={search}
                onChange={setSearch}
                placeholder="Tag, type, place, owner"
              />
            </div>
            <Button onClick={() => setTaking(true)}>Take one</Button>
          </>
        )}
        {toCharge > 0 && (
          <Link to="/shelf/charge" className={buttonClass({ className: 'max-sm:flex-1' })}>
            Charge {toCharge}
          </Link>
        )}
        {toRead > 0 && (
          <Link to="/shelf/round" className={buttonClass({ tone: 'go', className: 'max-sm:basis-full' })}>
            Walk it: {toRead} to read
          </Link>
        )}
      </div>
      <Beside
        isEmpty={shelved.length === 0}
        calls={calls}
        toTag={toTag.length}
        onAdd={() => setAdding(true)}
        onTag={() => setTagging(true)}
      />
      {shelved.length > 0 && (
        <div className="mt-3">
          {width < PHONE ? (
            <Combobox
              label="Which"
              value={filter}
              choices={kinds.map(({ id, label }) => ({ value: id, label }))}
              onChoose={(id) => setFilter(id as Filter)}
              className="w-full"
            />
          ) : (
            <Choice legend="Which" kind="pill" options={kinds} chosen={filter} onChoose={setFilter} />
          )}
        </div>
      )}
      {found.length === 0 ? (
        <p className="mt-6 text-soft">
          {shelved.length === 0
            ? 'No battery stands off the bench. One that leaves it charged is asked about here.'
            : 'None is found so.'}
        </p>
      ) : (
        <>
          {!isNarrow && <Months scale={scale} now={now} timeZone={timeZone} left={288 + 12} />}
          <ul className={isNarrow ? 'mt-3' : ''}>
            {found.slice(0, most).map((one) => (
              <ShelfRow
                key={one.tag}
                one={one}
                scale={scale}
                now={now}
                timeZone={timeZone}
                isNarrow={isNarrow}
                onOpen={() => setOpen(one.tag)}
              />
            ))}
          </ul>
          {found.length > most && (
            <Button className="mt-4" onClick={() => setMost(most + AT_ONCE)}>
              {found.length - most} more
            </Button>
          )}
        </>
      )}
      {isAdding && <AddDialog types={types} known={known} onClose={() => setAdding(false)} />}
      {isTagging && <TagsDialog all={toTag} onClose={() => setTagging(false)} />}
      {isTaking && <TakeDialog shelved={shelved} types={types} onClose={() => setTaking(false)} />}
      {opened && (
        <ShelfDrawer
          key={`${opened.tag} ${opened.place?.kind ?? ''}`}
          one={opened}
          known={known}
          now={now}
          timeZone={timeZone}
          onClose={() => setOpen(undefined)}
        />
      )}
    </div>
  );
}

export function ShelfPage() {
  const { shelved, types, shop, asked } = useShelf();
  if (!shelved || !types || !shop) return <Waiting on={asked} />;
  return <Shelf shelved={shelved} types={types} timeZone={shop.hours.timeZone} />;
}
