/** The same reading of several batteries, entered down a column. */
import { Gauge } from 'lucide-react';
import { useState, type FormEvent } from 'react';
import { parseReading } from '@cork-ember/core/units/reading.ts';
import { sentenceOf } from '../api/client.ts';
import { usePerson } from '../api/person.ts';
import { readFrom, useInstruments } from '../api/queries.ts';
import { recordOn } from '../api/record.ts';
import { shopRegion, typedHere } from '../region/shopRegion.ts';
import { Button } from '../ui/Button.tsx';
import type { Column } from './together.ts';

type Cells = Readonly<Record<string, string>>;

export function ColumnEntry({ column }: { column: Column }) {
  const { title, fields, jobs } = column;
  const [by] = usePerson();
  const { data: instruments = [] } = useInstruments();
  const [cells, setCells] = useState<Cells>({});
  const [says, setSays] = useState<Cells>({});
  const [isBusy, setBusy] = useState(false);
  const keyOf = (job: string, field: string): string => `${job} ${field}`;
  const pullAll = async (): Promise<void> => {
    const pulled: Record<string, string> = {};
    for (const { job, hand } of jobs)
      for (const field of fields) {
        const { quantity } = field;
        const instrument = quantity && instruments.find((one) => one.quantities.includes(quantity));
        if (!instrument || !quantity || !hand) continue;
        const { value } = await readFrom(instrument, quantity, job.state.job);
        const { unit, decimals } = field.spec(hand.context);
        pulled[keyOf(job.state.job, field.id)] = typedHere(value, unit, decimals);
      }
    setCells({ ...cells, ...pulled });
  };
  /** One battery's row: recorded when all of it reads as numbers one expects, otherwise said why not. */
  const recordRow = async ({ job, hand }: Column['jobs'][number]): Promise<string | undefined> => {
    if (!hand) return undefined;
    const values: Record<string, number> = {};
    for (const field of fields) {
      const text = cells[keyOf(job.state.job, field.id)] ?? '';
      if (text.trim() === '') return undefined;
      const parsed = parseReading(text, field.spec(hand.context), shopRegion());
      if (parsed.kind === 'refused') return parsed.sentence;
      if (parsed.kind === 'ask') return `${parsed.question} Enter it on its own card.`;
      values[field.id] = parsed.value;
    }
    await recordOn(job, by, {
      kind: 'measured',
      payload: { step: hand.step.key, values, source: 'column' },
    });
    return undefined;
  };
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    setBusy(true);
    const next: Record<string, string> = {};
    for (const one of jobs)
      try {
        const sentence = await recordRow(one);
        if (sentence !== undefined) next[one.job.state.job] = sentence;
      } catch (error) {
        next[one.job.state.job] = sentenceOf(error);
      }
    setSays(next);
    setBusy(false);
  };
  return (
    <form
      onSubmit={(event) => void submit(event)}
      noValidate
      aria-label={`${title}, ${jobs.length} batteries`}
      className="mb-4 rounded-xl border-2 border-verdigris bg-card p-4"
    >
      <h2 className="text-lg font-bold">
        {title}: {jobs.length} batteries
      </h2>
      <ul className="mt-2 space-y-2">
        {jobs.map(({ job, hand }) => (
          <li key={job.state.job} className="flex flex-wrap items-center gap-2">
            <span className="w-24 shrink-0 font-semibold">{job.state.opened.battery.tag}</span>
            {fields.map((field) => {
              const spec = hand && field.spec(hand.context);
              return (
                <span
                  key={field.id}
                  className="flex min-w-36 flex-1 items-center rounded-lg border-2 border-cork bg-card"
                >
                  <input
                    aria-label={`${spec?.label ?? field.id}, ${job.state.opened.battery.tag}`}
                    value={cells[keyOf(job.state.job, field.id)] ?? ''}
                    inputMode="decimal"
                    autoComplete="off"
                    maxLength={14}
                    onChange={(event) =>
                      setCells({ ...cells, [keyOf(job.state.job, field.id)]: event.target.value })
                    }
                    className="reading min-h-12 w-full min-w-0 bg-transparent px-3 text-lg outline-none"
                  />
                  <span className="reading pr-3 text-soft">{spec?.unit}</span>
                </span>
              );
            })}
            {says[job.state.job] !== undefined && (
              <span role="alert" className="w-full text-clay">
                {says[job.state.job]}
              </span>
            )}
          </li>
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap gap-2">
        {instruments.length > 0 && (
          <Button className="min-h-14" onClick={() => void pullAll()}>
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
