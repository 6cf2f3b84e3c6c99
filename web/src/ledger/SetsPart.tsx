/** Recovered batteries matched into sets, and why the others are in none. */
import { percentText } from '@cork-ember/core/units/percent.ts';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { SET_LIMITS, setsOf, type LeftOut, type MatchedSet } from '@cork-ember/core/ledger/sets.ts';
import { sentenceOf } from '../api/client.ts';
import { useMatchable, useShop } from '../api/queries.ts';
import { useEnterOnShelf } from '../api/enterOnShelf.ts';
import { Notice } from '../ui/Notice.tsx';
import { say } from '../ui/say.ts';
import { TextBox } from '../ui/TextBox.tsx';
import { Button } from '../ui/Button.tsx';
import { Table, type Column } from '../ui/Table.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { card } from '../ui/card.ts';

const SIZES = [2, 3, 4] as const;

type Member = MatchedSet['members'][number];

const COLUMNS: readonly Column<Member>[] = [
  {
    id: 'tag',
    head: 'Tag',
    cell: ({ tag }) => (
      <Link
        to={`/batteries/${tag}`}
        className="inline-flex min-h-12 items-center underline decoration-cork underline-offset-4"
      >
        {tag}
      </Link>
    ),
  },
  {
    id: 'capacity',
    head: 'Capacity',
    cell: ({ capacityShare }) => percentText(capacityShare),
    isFigure: true,
  },
  { id: 'milliohm', head: 'mΩ', cell: ({ milliohm }) => milliohm.toFixed(1), isFigure: true },
  { id: 'ocvV', head: 'Rested, V', cell: ({ ocvV }) => ocvV.toFixed(2), isFigure: true },
  { id: 'made', head: 'Made', cell: ({ dateCode }) => dateCode, isFigure: true },
];

/** A set gets a name, and goes as one from then on. */
function KeepTogether({ tags }: { tags: readonly string[] }) {
  const enter = useEnterOnShelf();
  const [name, setName] = useState('');
  const [problem, setProblem] = useState('');
  const keep = async (): Promise<void> => {
    try {
      for (const tag of tags)
        await enter(tag, { kind: 'joined', payload: { set: name.trim(), of: tags.length } });
      setProblem('');
      say(`${tags.join(', ')} go together as “${name.trim()}”.`);
      setName('');
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <div className="min-w-40 flex-1">
        <TextBox
          label="Keep together as"
          value={name}
          onChange={setName}
          placeholder="Night ferry"
          most={60}
        />
      </div>
      <Button type="submit" disabled={name.trim() === ''}>
        Keep together
      </Button>
      {problem !== '' && <Notice tone="stop">{problem}</Notice>}
    </form>
  );
}

function SetCard({ set: { typeId, members, apart } }: { set: MatchedSet }) {
  const apartText: Readonly<Record<string, string>> = {
    tag: 'apart',
    capacity: `${(apart.capacityShare * 100).toFixed(1)} %`,
    milliohm: `${(apart.resistanceShare * 100).toFixed(1)} %`,
    ocvV: apart.ocvV.toFixed(2),
    made: `${apart.ageMonths} mo`,
  };
  return (
    <li className={card()}>
      <h2 className="font-bold">{members.map(({ tag }) => tag).join(' + ')}</h2>
      <p className="text-soft">{typeId}</p>
      <KeepTogether tags={members.map(({ tag }) => tag)} />
      <Table
        name={`Set of ${members.map(({ tag }) => tag).join(' and ')}`}
        className="mt-2"
        rows={members}
        columns={COLUMNS}
        keyOf={({ tag }) => tag}
        foot={({ id }) => apartText[id]}
        isDense
      />
    </li>
  );
}

function Unmatched({ leftOut, alone }: { leftOut: readonly LeftOut[]; alone: readonly string[] }) {
  const all = [...alone.map((tag) => ({ tag, why: 'nothing like it on the shelf' })), ...leftOut];
  if (all.length === 0) return null;
  return (
    <section aria-labelledby="alone-title" className="mt-5">
      <h2 id="alone-title" className="text-lg font-bold">
        In no set
      </h2>
      <ul className="mt-1 space-y-1">
        {all.map(({ tag, why }) => (
          <li key={tag}>
            <Link to={`/batteries/${tag}`} className="font-bold underline decoration-cork underline-offset-4">
              {tag}
            </Link>
            : {why}.
          </li>
        ))}
      </ul>
    </section>
  );
}

export function SetsPart() {
  const [size, setSize] = useState<number>(2);
  const { data: shelf, error, refetch } = useMatchable();
  const shop = useShop();
  const limits = shop.data && SET_LIMITS[shop.data.rules.setMatch];
  const sets = useMemo(
    () => (shelf && limits ? setsOf(shelf.members, size, limits) : []),
    [shelf, size, limits],
  );
  if (!shelf || !limits) return <Waiting on={[{ data: shelf, error, refetch }, shop]} />;
  const { members, leftOut } = shelf;
  const matched = new Set(sets.flatMap((set) => set.members.map(({ tag }) => tag)));
  const { capacityShare, resistanceShare, ocvV, ageMonths } = limits;
  return (
    <>
      <p className="max-w-3xl text-soft">
        Recovered batteries of one type, by what was measured within the last year: capacity within{' '}
        {percentText(capacityShare)}, resistance within {percentText(resistanceShare)}, rested voltage within{' '}
        {ocvV.toFixed(2)} V, made within {ageMonths} months. The closest come first. Read the rested voltages
        again on the day a set leaves: they fall on the shelf.
      </p>
      <div role="group" aria-label="Batteries in a set" className="mt-3 flex flex-wrap gap-2">
        {SIZES.map((one) => (
          <Button
            key={one}
            tone={one === size ? 'go' : 'plain'}
            aria-pressed={one === size}
            onClick={() => setSize(one)}
          >
            {one} in a set
          </Button>
        ))}
      </div>
      {sets.length === 0 ? (
        <p className="mt-4">No {size} on the shelf are alike enough to work as one.</p>
      ) : (
        <ul className="mt-4 grid grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-2">
          {sets.map((set) => (
            <SetCard key={set.members.map(({ tag }) => tag).join()} set={set} />
          ))}
        </ul>
      )}
      <Unmatched leftOut={leftOut} alone={members.map(({ tag }) => tag).filter((tag) => !matched.has(tag))} />
    </>
  );
}
