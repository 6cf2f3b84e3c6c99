/** The same reading of several batteries, entered down a column; Enter goes on to the next empty field. */
import { Gauge } from 'lucide-react';
import { useId, useState, type FormEvent } from 'react';
import { flushSync } from 'react-dom';
import { sayTrouble } from '../ui/say.ts';
import type { Entry } from '@cork-ember/core/runsheet/entries/events.ts';
import { lastNumbers } from '@cork-ember/core/runsheet/state/lastRead.ts';
import { lastReadingOf } from '@cork-ember/core/runsheet/state/looks.ts';
import { sentenceOf } from '../api/client.ts';
import { usePerson } from '../api/person.ts';
import { readFrom, useInstruments } from '../api/queries.ts';
import { recordOn } from '../api/record.ts';
import { moveOnEnter } from '../readings/activeField.ts';
import { ReadingBox } from '../readings/ReadingBox.tsx';
import { Question, type AskedReading } from '../readings/ReadingFields.tsx';
import { useReadings, type Readings, type TakenReadings } from '../readings/useReadings.ts';
import { typedHere } from '../region/shopRegion.ts';
import { lookFields, lookValues, specsOf } from '../steps/ChargeLook.tsx';
import { Button } from '../ui/Button.tsx';
import type { AtBench, Column } from './together.ts';
import { card } from '../ui/card.ts';

/** One battery of the column. */
interface Line {
  readonly bench: AtBench;
  readonly fields: readonly AskedReading[];
  readonly entryOf: (taken: TakenReadings) => Entry | undefined;
}

/** Fields of one battery under names of their own. */
const named = (job: string, fields: readonly AskedReading[]): AskedReading[] =>
  fields.map((field) => ({ ...field, id: `${job} ${field.id}` }));

const unnamed = (job: string, values: Readonly<Record<string, number>>): Record<string, number> =>
  Object.fromEntries(Object.entries(values).map(([id, value]) => [id.slice(job.length + 1), value]));

function lineOf(bench: AtBench): Line | undefined {
  const { hand } = bench;
  const id = bench.job.state.job;
  if (hand?.definition.kind === 'measure') {
    const last = lastNumbers(hand.state);
    const fields = hand.definition.fields.flatMap((field): AskedReading[] =>
      field.kind === 'number'
        ? [
            {
              id: field.id,
              spec: field.spec(hand.context),
              isOptional: false,
              quantity: field.quantity,
              last: last[field.id],
            },
          ]
        : [],
    );
    return {
      bench,
      fields: named(id, fields),
      entryOf: ({ values, source }) => ({
        kind: 'measured',
        payload: { step: hand.step.key, values: unnamed(id, values), source },
      }),
    };
  }
  if (hand?.definition.kind !== 'charge') return undefined;
  const { type } = hand.context.opened;
  const last = lastReadingOf(hand.state, hand.step.key);
  const fields = lookFields(type, specsOf(hand, hand.definition), { last });
  return {
    bench,
    fields: named(
      id,
      fields.filter(({ isOptional }) => !isOptional),
    ),
    entryOf: ({ values, source }) => ({
      kind: 'chargeRead',
      payload: { step: hand.step.key, values: lookValues(unnamed(id, values), type), source },
    }),
  };
}

function LineRow({ line, readings, says }: { line: Line; readings: Readings; says: string | undefined }) {
  const own = useId();
  const idOf = (id: string): string => `${own}${id}`;
  const { tag } = line.bench.job.state.opened.battery;
  return (
    <li className="flex flex-wrap items-center gap-2">
      <span className="w-24 shrink-0 font-semibold">{tag}</span>
      {line.fields.map((field) => {
        const { text, isProblem = false } = readings.typed(field.id);
        const { label, unit, decimals } = field.spec;
        return (
          <span
            key={field.id}
            className={`flex min-w-32 flex-1 items-center rounded-lg border-2 bg-card focus-within:border-ember ${isProblem ? 'border-clay' : 'border-cork'}`}
          >
            <ReadingBox
              aria-label={`${label}, ${tag}`}
              value={text}
              label={`${tag}: ${label}`}
              unit={unit}
              last={field.last === undefined ? undefined : typedHere(field.last, unit, decimals)}
              required
              aria-invalid={isProblem}
              aria-describedby={isProblem ? `${idOf(field.id)}-says` : undefined}
              onType={(next) => readings.type(field.id, next)}
              className="min-h-12 px-3 text-lg"
            />
            <span className="reading pr-3 text-soft">{unit}</span>
          </span>
        );
      })}
      <div className="w-full empty:hidden">
        {line.fields.map((field) => (
          <Question key={field.id} field={field} readings={readings} idOf={idOf} />
        ))}
        {says !== undefined && (
          <p role="alert" className="text-clay">
            {says}
          </p>
        )}
      </div>
    </li>
  );
}

export function ColumnEntry({ column }: { column: Column }) {
  const { title, jobs, key } = column;
  const [by] = usePerson();
  const { data: instruments = [] } = useInstruments();
  const [says, setSays] = useState<Readonly<Record<string, string>>>({});
  const [isBusy, setBusy] = useState(false);
  const lines = jobs.flatMap((bench) => lineOf(bench) ?? []);
  const readings = useReadings(
    `column ${key}`,
    lines.flatMap(({ fields }) => fields),
  );
  const pullAll = async (): Promise<void> => {
    for (const { bench, fields } of lines)
      for (const { id, quantity } of fields) {
        const instrument = quantity && instruments.find((one) => one.quantities.includes(quantity));
        if (!instrument || !quantity) continue;
        const { value, instrument: name } = await readFrom(instrument, quantity, bench.job.state.job);
        readings.put(id, value, name);
      }
  };
  /** One battery's row, recorded when all of it reads as numbers one expects; a row left empty waits. */
  const recordLine = async ({ bench, fields, entryOf }: Line): Promise<void> => {
    if (fields.every(({ id }) => readings.typed(id).text.trim() === '')) return;
    const taken = flushSync(() => readings.take(fields));
    const entry = taken && entryOf(taken);
    if (!entry) return;
    await recordOn(bench.job, by, entry);
    readings.clear(fields);
  };
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    setBusy(true);
    const next: Record<string, string> = {};
    for (const line of lines)
      try {
        await recordLine(line);
      } catch (error) {
        next[line.bench.job.state.job] = sentenceOf(error);
      }
    setSays(next);
    setBusy(false);
    form.querySelector<HTMLInputElement>('input[aria-invalid="true"]')?.focus();
  };
  return (
    <form
      onSubmit={(event) => void submit(event)}
      onKeyDown={moveOnEnter}
      noValidate
      aria-label={`${title}, ${jobs.length} batteries`}
      className={card({ edge: 'ready', className: 'mb-4' })}
    >
      <h2 className="text-lg font-bold">
        {title}: {jobs.length} batteries
      </h2>
      <ul className="mt-2 space-y-2">
        {lines.map((line) => (
          <LineRow
            key={line.bench.job.state.job}
            line={line}
            readings={readings}
            says={says[line.bench.job.state.job]}
          />
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap gap-2">
        {instruments.length > 0 && (
          <Button
            className="min-h-14"
            onClick={() => void pullAll().catch((error: unknown) => sayTrouble(sentenceOf(error)))}
          >
            <Gauge aria-hidden className="size-5" /> Read all {jobs.length}
          </Button>
        )}
        <Button type="submit" tone="go" className="min-h-14 flex-1" disabled={isBusy}>
          Record the column
        </Button>
      </div>
    </form>
  );
}
