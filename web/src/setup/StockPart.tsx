/** Acid and consumables: what is there, what runs low, deliveries in, spills made harmless. */
import { PackageMinus, TriangleAlert } from 'lucide-react';
import { useRef, useState, type FormEvent } from 'react';
import { v4 as uuid } from 'uuid';
import { useMutation } from '@tanstack/react-query';
import { sodaForSpill, type StockLevel } from '@cork-ember/core/stock/stock.ts';
import { dateTimeText } from '@cork-ember/core/clock/clockText.ts';
import { ask, sentenceOf } from '../api/client.ts';
import { usePerson } from '../api/person.ts';
import { refreshShop, useStock } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Table, type Column } from '../ui/Table.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { Named } from '../ui/Named.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { card } from '../ui/card.ts';
import { box } from '../ui/box.ts';

const BOX = box();

/** Millilitres and grams from a thousand on are easier read as litres and kilograms. */
function amountText(amount: number, unit: StockLevel['unit']): string {
  if (unit === 'packs') return `${amount} ${Math.abs(amount) === 1 ? 'pack' : 'packs'}`;
  if (Math.abs(amount) < 1000) return `${Math.round(amount)} ${unit}`;
  return `${(amount / 1000).toFixed(1)} ${unit === 'mL' ? 'L' : 'kg'}`;
}

function useStockChange(path: string, onDone: () => void) {
  const [by] = usePerson();
  // Sent again because no answer came, it is the same request and is done once.
  const sent = useRef({ said: '', requestKey: '' });
  return useMutation({
    mutationFn: (body: object) => {
      if (by === '') throw new Error('Say who is at the bench first, at the top right.');
      const said = JSON.stringify(body);
      if (said !== sent.current.said) sent.current = { said, requestKey: uuid() };
      return ask(path, { ...body, by, requestKey: sent.current.requestKey });
    },
    onSuccess: () => {
      sent.current = { said: '', requestKey: '' };
      void refreshShop();
      onDone();
    },
  });
}

function CountIn({ levels }: { levels: readonly StockLevel[] }) {
  const [item, setItem] = useState(levels[0]?.id ?? '');
  const [amount, setAmount] = useState<number>();
  const [why, setWhy] = useState('Delivery');
  const [round, setRound] = useState(0);
  const change = useStockChange('/api/stock', () => {
    setAmount(undefined);
    setRound(round + 1);
  });
  const unit = levels.find(({ id }) => id === item)?.unit ?? '';
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    change.mutate({ item, amount, why });
  };
  return (
    <form onSubmit={submit} noValidate className={card()}>
      <h2 className="font-semibold">Count in or out</h2>
      <div className="mt-2 grid grid-cols-2 gap-3">
        <Named label="What" className="col-span-2 text-sm">
          <Combobox
            label="What"
            className="w-full text-base"
            value={item}
            choices={levels.map(({ id, name }) => ({ value: id, label: name }))}
            onChoose={setItem}
          />
        </Named>
        <NumberField
          key={round}
          label="How much (− for out)"
          unit={unit}
          value={amount}
          onChange={setAmount}
        />
        <label className="text-sm font-medium">
          Why
          <input
            className={BOX}
            value={why}
            maxLength={200}
            onChange={(event) => setWhy(event.target.value)}
          />
        </label>
      </div>
      {change.error && (
        <p role="alert" className="mt-2 text-clay">
          {sentenceOf(change.error)}
        </p>
      )}
      <Button type="submit" tone="go" className="mt-3" disabled={change.isPending}>
        Record
      </Button>
    </form>
  );
}

function Spill({ levels }: { levels: readonly StockLevel[] }) {
  const [item, setItem] = useState('leftover');
  const [ml, setMl] = useState<number | undefined>(250);
  const [density25, setDensity] = useState<number | undefined>(1.265);
  const change = useStockChange('/api/stock/spill', () => undefined);
  let says: string;
  try {
    const { sodaG, carbonDioxideL } = sodaForSpill(ml ?? 0, density25 ?? 0);
    says = `${Math.ceil(sodaG)} g of baking soda, a little at a time: it foams off ${carbonDioxideL.toFixed(0)} L of gas. Done when it no longer foams and a strip shows pH 6 to 9. It still carries lead: to the licensed disposal.`;
  } catch (error) {
    says = sentenceOf(error);
  }
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    change.mutate({ item, ml, density25 });
  };
  return (
    <form onSubmit={submit} noValidate className={card({ pad: 'none', className: 'overflow-hidden' })}>
      <Notice tone="caution">Goggles, acid gloves, ventilation. Soda on the spill, never water first.</Notice>
      <div className="p-4">
        <h2 className="font-semibold">Spilled, or left over</h2>
        <div className="mt-2 grid grid-cols-2 gap-3">
          <Named label="From" className="col-span-2 text-sm">
            <Combobox
              label="From"
              className="w-full text-base"
              value={item}
              choices={[
                { value: 'leftover', label: 'A pack or a battery' },
                ...levels
                  .filter(({ id }) => id.startsWith('acid:'))
                  .map(({ id, name }) => ({ value: id, label: `${name}, from the bottle` })),
              ]}
              onChoose={setItem}
            />
          </Named>
          <NumberField label="How much" unit="mL" value={ml} onChange={setMl} />
          <NumberField label="Density at 25 °C" unit="g/cm³" value={density25} onChange={setDensity} />
        </div>
        <p role="status" className="mt-3">
          {says}
        </p>
        {change.error && (
          <p role="alert" className="mt-2 text-clay">
            {sentenceOf(change.error)}
          </p>
        )}
        <Button type="submit" tone="go" className="mt-3" disabled={change.isPending}>
          <PackageMinus aria-hidden className="size-5" /> Neutralised, take the soda off
        </Button>
      </div>
    </form>
  );
}

const COLUMNS: readonly Column<StockLevel>[] = [
  {
    id: 'item',
    head: 'Item',
    cell: ({ name, because }) => <span title={because}>{name}</span>,
    sortBy: ({ name }) => name,
    text: ({ name }) => name,
  },
  {
    id: 'there',
    head: 'There',
    cell: ({ amount, unit, isLow }) => (
      <span className={`font-semibold ${isLow ? 'text-clay' : ''}`}>
        {isLow && <TriangleAlert aria-label="low" className="mr-1 inline size-4" />}
        {amountText(amount, unit)}
      </span>
    ),
    text: ({ amount, unit }) => amountText(amount, unit),
    isFigure: true,
  },
  {
    id: 'low',
    head: 'Low at',
    cell: ({ lowAt, unit }) => amountText(lowAt, unit),
    text: ({ lowAt, unit }) => amountText(lowAt, unit),
    isFigure: true,
  },
];

export function StockPart({ timeZone }: { timeZone: string }) {
  const { data, error, refetch } = useStock();
  if (!data) return <Waiting on={[{ data, error, refetch }]} />;
  const { levels, moves } = data;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-6 xl:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
      <section aria-label="Levels">
        <Table name="What is kept" rows={levels} columns={COLUMNS} keyOf={({ id }) => id} file="stock.csv" />
        <h2 className="mt-6 font-semibold">Latest moves</h2>
        {moves.length === 0 && (
          <p className="text-soft">None yet. Jobs draw their packs, electrolyte and water.</p>
        )}
        <ol className="mt-1 text-sm">
          {moves.slice(0, 20).map((move) => (
            <li key={move.id} className="flex flex-wrap gap-x-3 border-b border-line py-1.5">
              <span className="reading w-32 shrink-0 text-soft">{dateTimeText(move.at, timeZone)}</span>
              <span className="reading w-20 shrink-0 text-right font-semibold">
                {move.amount > 0 ? '+' : ''}
                {move.amount}
              </span>
              <span className="min-w-0 flex-1 basis-32 break-words">
                {move.item}, {move.why} ({move.by})
              </span>
            </li>
          ))}
        </ol>
      </section>
      <div className="space-y-4">
        <CountIn levels={levels} />
        <Spill levels={levels} />
      </div>
    </div>
  );
}
