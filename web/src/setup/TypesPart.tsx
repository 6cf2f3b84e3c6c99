/** Battery types: label values and maker's sheets, edited in place, in and out as CSV and JSON. */
import { Download, Plus, Upload } from 'lucide-react';
import { useState } from 'react';
import { kindName, shortName, type ListedType, type PrintedValues } from '@cork-ember/core/battery/types.ts';
import { PRINTED, typeMark } from '@cork-ember/core/contract/shopWords.ts';
import type { ShopChange } from '@cork-ember/core/contract/answers.ts';
import { dateTimeText } from '@cork-ember/core/clock/clockText.ts';
import { askWithFile, sentenceOf } from '../api/client.ts';
import { useShopChanges } from '../api/queries.ts';
import { verbatim } from '@cork-ember/core/units/localise.ts';
import { Button } from '../ui/Button.tsx';
import { FileButton } from '../ui/FileButton.tsx';
import { Notice } from '../ui/Notice.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { ImportPreview } from './ImportPreview.tsx';
import { TypeFields } from './TypeFields.tsx';
import { useShopChange } from './useShopChange.ts';
import { WhyBar } from './WhyBar.tsx';
import { box } from '../ui/box.ts';
import { card } from '../ui/card.ts';
import { buttonClass } from '../ui/Button.tsx';

function withPrinted(
  type: ListedType,
  part: 'label' | 'sheet',
  id: keyof PrintedValues,
  value: number | undefined,
): ListedType {
  const kept = Object.entries(type[part]).filter(([name]) => name !== id);
  return { ...type, [part]: Object.fromEntries(value === undefined ? kept : [...kept, [id, value]]) };
}

/** Who changed what of a type, when and why; the newest first. */
function Provenance({ changes, timeZone }: { changes: readonly ShopChange[]; timeZone: string }) {
  if (changes.length === 0) return <p className="mt-4 text-sm text-soft">As it came; nobody changed it.</p>;
  return (
    <ol aria-label="Where the values come from" className="mt-4 text-sm">
      {changes.map(({ id, what, at, by, why }) => (
        <li key={id} className="border-t border-line py-2">
          {what.replace(/^Type \S+?,? /, '')}
          <span className="block text-soft">
            {by}, {dateTimeText(at, timeZone)}: “{why}”
          </span>
        </li>
      ))}
    </ol>
  );
}

function TypeCard({
  type,
  changes,
  timeZone,
  isChanged,
  isNew,
  onChange,
  onCopy,
}: {
  type: ListedType;
  changes: readonly ShopChange[];
  timeZone: string;
  isChanged: boolean;
  isNew: boolean;
  onChange: (next: ListedType) => void;
  onCopy: () => void;
}) {
  const [isOpen, setOpen] = useState(isNew);
  return (
    <li className={card({ edge: isChanged ? 'live' : 'plain' })}>
      <div className="flex flex-wrap items-center gap-3">
        <div className="min-w-0 flex-1">
          <p translate="no" className="reading font-semibold">
            {type.id === '' ? 'A new type' : type.id}
          </p>
          <p className="text-sm text-soft">
            {type.maker === '' ? '' : `${verbatim(type.maker)} · `}
            {Number.isNaN(type.capacityAh) ? '' : `${shortName(type)} at ${type.hourRate} h · `}
            {kindName(type)}
            {type.cranking ? ` · ${type.cranking.amps} A ${type.cranking.standard}` : ''}
            {type.pack ? ` · pack ${verbatim(type.pack.code)}, ${type.pack.volumeMl} mL` : ''}
            {type.isRetired ? ' · not offered' : ''}
          </p>
        </div>
        <Button onClick={onCopy}>Copy</Button>
        <Button
          onClick={() => {
            const { isRetired = false, ...rest } = type;
            onChange(isRetired ? rest : { ...type, isRetired: true });
          }}
        >
          {type.isRetired ? 'Offer again' : 'Retire'}
        </Button>
        <Button aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          {isOpen ? 'Close' : 'Change'}
        </Button>
      </div>
      {isOpen && <TypeFields type={type} isNew={isNew} onChange={onChange} />}
      {isOpen &&
        (['label', 'sheet'] as const).map((part) => (
          <fieldset key={part} className="mt-4">
            <legend className="font-semibold">
              {part === 'label' ? 'Printed on the label' : 'On the maker’s sheet'}
            </legend>
            <div className="mt-1 grid grid-cols-2 gap-3 md:grid-cols-4">
              {PRINTED.map(([id, label, unit]) => (
                <NumberField
                  key={id}
                  label={label}
                  unit={unit}
                  value={type[part][id]}
                  onChange={(value) => onChange(withPrinted(type, part, id, value))}
                />
              ))}
            </div>
          </fieldset>
        ))}
      {isOpen && <Provenance changes={changes} timeZone={timeZone} />}
    </li>
  );
}

/** A line of the list: a new type has no code yet to be told from others by. */
interface Row {
  readonly key: string;
  readonly type: ListedType;
}

const rowOf = (type: ListedType): Row => ({ key: type.id, type });
const NEW = 'new';

/** What a new one begins with; its code and figures are typed. */
const NEW_TYPE: ListedType = {
  id: '',
  maker: '',
  construction: 'agm',
  duty: 'starter',
  delivery: 'in-service',
  cells: 6,
  capacityAh: Number.NaN,
  hourRate: 20,
  positivePost: 'unknown',
  label: {},
  sheet: {},
};

export function TypesPart({ types, timeZone }: { types: readonly ListedType[]; timeZone: string }) {
  const { data: record = [] } = useShopChanges();
  const [draft, setDraft] = useState<readonly Row[]>();
  /** The list as a file would have it. */
  const [would, setWould] = useState<readonly ListedType[]>();
  const [search, setSearch] = useState('');
  const [problem, setProblem] = useState('');
  const [round, setRound] = useState(0);
  const drop = (): void => {
    setDraft(undefined);
    setRound(round + 1);
  };
  const change = useShopChange(drop);
  const rows = draft ?? types.map(rowOf);
  const shown = rows.map(({ type }) => type);
  const [added, setAdded] = useState(0);
  const addType = (like: ListedType): void => {
    const { isGeneric: _generic, isRetired: _retired, ...rest } = like;
    const type: ListedType = { ...rest, id: like.id === '' ? '' : `${like.id} 2` };
    setAdded(added + 1);
    setSearch('');
    setDraft([{ key: `${NEW} ${added + 1}`, type }, ...rows]);
  };
  const isFound = (type: ListedType): boolean => {
    const text = `${type.id} ${type.maker} ${shortName(type)} ${kindName(type)}`.toLowerCase();
    return search
      .toLowerCase()
      .split(/\s+/)
      .every((word) => text.includes(word));
  };
  const before = new Map(types.map((type) => [type.id, JSON.stringify(type)]));
  // The list may still be on its way: what the file changes is told by the list as it is shown.
  const offered = would?.filter((type) => before.get(type.id) !== JSON.stringify(type));
  const changed = shown.filter((type) => before.get(type.id) !== JSON.stringify(type));
  const read = async (chosen: File): Promise<void> => {
    try {
      const isCsv = /\.csv$/i.test(chosen.name);
      const plain = new File([chosen], chosen.name, { type: isCsv ? 'text/csv' : 'text/plain' });
      setWould(await askWithFile<readonly ListedType[]>('/api/types/read', plain));
      setProblem('');
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  const link = buttonClass();
  return (
    <div>
      <div className="flex flex-wrap items-center gap-3">
        <p className="mr-auto max-w-xl">
          What the label prints wins, then the maker’s sheet, then the house, then the handbook. Each run
          sheet says where its numbers come from.
        </p>
        <a className={link} href="/api/types.csv" download>
          <Download aria-hidden className="size-5" /> CSV
        </a>
        <a className={link} href="/api/types.json" download>
          <Download aria-hidden className="size-5" /> JSON
        </a>
        <FileButton
          name="File of types"
          accept=".csv,.json"
          onFiles={([chosen]) => {
            if (chosen) void read(chosen);
          }}
        >
          <Upload aria-hidden className="size-5" /> Read a file
        </FileButton>
      </div>
      {problem !== '' && (
        <div className="mt-3">
          <Notice tone="stop">{problem} Nothing was changed.</Notice>
        </div>
      )}
      {offered && (
        <ImportPreview
          types={types}
          offered={offered}
          onDrop={() => setWould(undefined)}
          onTake={(taken) => {
            const ids = new Set(taken.map(({ id }) => id));
            setDraft([...rows.filter(({ type }) => !ids.has(type.id)), ...taken.map(rowOf)]);
            setWould(undefined);
            setRound(round + 1);
          }}
        />
      )}
      <div className="mt-4 flex flex-wrap items-end gap-3">
        <label className="min-w-56 flex-1 text-sm font-medium">
          Find a type
          <input
            className={box({ className: 'text-base' })}
            value={search}
            placeholder="code, maker, gel 40 …"
            onChange={(event) => setSearch(event.target.value)}
          />
        </label>
        <Button onClick={() => addType(NEW_TYPE)}>
          <Plus aria-hidden className="size-5" /> Add a type
        </Button>
      </div>
      <ul key={round} className="mt-4 space-y-3">
        {rows
          .filter(({ type }) => isFound(type))
          .map(({ key, type }) => (
            <TypeCard
              key={key}
              isNew={key.startsWith(NEW)}
              onCopy={() => addType(type)}
              type={type}
              changes={record.filter(
                ({ what }) =>
                  what === `${typeMark(type.id)} changed` || what.startsWith(`${typeMark(type.id)}, `),
              )}
              timeZone={timeZone}
              isChanged={changed.includes(type)}
              onChange={(next) => setDraft(rows.map((row) => (row.key === key ? { key, type: next } : row)))}
            />
          ))}
      </ul>
      {changed.length > 0 && (
        <WhyBar
          summary={`${changed.length} type${changed.length === 1 ? '' : 's'} changed or new: ${changed
            .map(({ id }) => (id === '' ? 'a new one' : id))
            .slice(0, 4)
            .join(', ')}${changed.length > 4 ? ' …' : ''}.`}
          problem={change.error}
          isPending={change.isPending}
          onSave={(why) => change.mutate({ why, types: shown })}
          onDrop={drop}
        />
      )}
    </div>
  );
}
