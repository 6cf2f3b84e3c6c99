/** A logger's file of the charge at hand: what its columns are taken for is shown and can be put right before it is taken in. */
import { FileUp } from 'lucide-react';
import { useId, useMemo, useState } from 'react';
import {
  LOG_QUANTITIES,
  LOG_UNITS,
  suggestedUnit,
  type LogQuantity,
  type LogShape,
} from '@cork-ember/core/logger/columns.ts';
import type { AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import { lastReadingOf } from '@cork-ember/core/runsheet/state/looks.ts';
import { sentenceOf } from '../api/client.ts';
import { Button } from '../ui/Button.tsx';
import { Table, type Column } from '../ui/Table.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { Hired } from '../workers/hired.ts';
import type { LogReader, Opened, Taken } from '../workers/log.worker.ts';
import type { StepActions } from './StepCard.tsx';
import { ReadingBox } from '../readings/ReadingBox.tsx';
import { useReadings, type ReadingField } from '../readings/useReadings.ts';
import { box } from '../ui/box.ts';

const reader = new Hired<LogReader>(
  () => new Worker(new URL('../workers/log.worker.ts', import.meta.url), { type: 'module' }),
);

interface Preview {
  readonly file: string;
  readonly opened: Opened;
  readonly shape: LogShape;
  readonly taken: Taken | undefined;
  readonly problem: string;
}

const BEGAN: ReadingField = {
  id: 'logBegan',
  isOptional: false,
  spec: {
    label: 'It began after the charger went on',
    unit: 'min',
    decimals: 0,
    possible: { min: 0, max: 20_160 },
    plausible: { min: 0, max: 2880 },
  },
};

const NAMES: Record<LogQuantity, string> = {
  time: 'Time',
  voltage: 'Voltage',
  current: 'Current',
  temperature: 'Temperature',
};
/** No column. */
const NONE = 'none';
const BOX = box({ fit: 'inline', className: 'text-char' });
const USUAL_C = 21;

const KEPT = 'cork-ember-loggers';
/** A logger is known again by its headings. */
const loggerOf = ({ names }: LogShape): string => names.join('\n');

function kept(): Record<string, LogShape['columns']> {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Record<string, LogShape['columns']>;
  } catch {
    return {};
  }
}

/** As this logger's columns were last put right. */
function rememberedFor(shape: LogShape): LogShape {
  const columns = kept()[loggerOf(shape)];
  return columns ? { ...shape, columns } : shape;
}

function remember(shape: LogShape): void {
  localStorage.setItem(KEPT, JSON.stringify({ ...kept(), [loggerOf(shape)]: shape.columns }));
}

function withColumn(
  shape: LogShape,
  quantity: LogQuantity,
  index: number | undefined,
  unit: string,
): LogShape {
  const { [quantity]: _old, ...others } = shape.columns;
  return { ...shape, columns: index === undefined ? others : { ...others, [quantity]: { index, unit } } };
}

function ColumnChoice({
  quantity,
  shape,
  sample,
  onChange,
}: {
  quantity: LogQuantity;
  shape: LogShape;
  sample: Opened['sample'];
  onChange: (shape: LogShape) => void;
}) {
  const id = useId();
  const column = shape.columns[quantity];
  const unit = column?.unit ?? '';
  return (
    <div className="flex flex-wrap items-end gap-2">
      <div className="min-w-40 flex-1">
        <label htmlFor={id} className="text-sm font-medium">
          {NAMES[quantity]}
        </label>
        <Combobox
          id={id}
          className="mt-1 w-full"
          value={String(column?.index ?? NONE)}
          choices={[
            { value: NONE, label: quantity === 'temperature' ? 'not in the file' : 'choose a column' },
            ...shape.names.map((name, index) => ({ value: String(index), label: name })),
          ]}
          onChoose={(chosen) => {
            if (chosen === NONE) return onChange(withColumn(shape, quantity, undefined, ''));
            const index = Number(chosen);
            const texts = sample.map((row) => row[index]?.trim() ?? '');
            return onChange(
              withColumn(
                shape,
                quantity,
                index,
                suggestedUnit(quantity, shape.names[index] ?? '', texts, shape.decimal),
              ),
            );
          }}
        />
      </div>
      <Combobox
        label={`${NAMES[quantity]}, unit`}
        value={unit}
        placeholder="unit"
        isInvalid={column !== undefined && unit === ''}
        isDisabled={!column}
        choices={LOG_UNITS[quantity].map((one) => ({ value: one, label: one }))}
        onChoose={(chosen) => onChange(withColumn(shape, quantity, column?.index, chosen))}
      />
    </div>
  );
}

interface FileRow {
  readonly row: readonly string[];
  readonly at: number;
}

/** The first rows as they stand in the file, so that a wrong column is seen. */
function Sample({ opened: { shape, sample } }: { opened: Opened }) {
  const { names } = shape;
  const columns = useMemo(
    () =>
      names.map((name, index): Column<FileRow> => ({
        id: String(index),
        head: name,
        cell: ({ row }) => row[index],
        className: 'reading whitespace-nowrap',
      })),
    [names],
  );
  return (
    <Table
      name="First rows of the file"
      className="mt-3 text-sm"
      rows={sample.map((row, at) => ({ row, at }))}
      columns={columns}
      keyOf={({ at }) => String(at)}
      isDense
    />
  );
}

export function LogImport({ hand, actions }: { hand: AtHand; actions: StepActions }) {
  const [preview, setPreview] = useState<Preview>();
  const [problem, setProblem] = useState('');
  const began = useReadings(`${hand.state.job} ${hand.step.key} log`, [BEGAN], { [BEGAN.id]: 0 });
  const beganId = useId();
  const tempC = lastReadingOf(hand.state, hand.step.key)?.tempC ?? USUAL_C;
  const { timeZone } = hand.state.opened.hours;

  const look = async (file: string, opened: Opened, shape: LogShape): Promise<void> => {
    try {
      setPreview({
        file,
        opened,
        shape,
        taken: await reader.ask((worker) => worker.read(shape, tempC, timeZone)),
        problem: '',
      });
    } catch (error) {
      setPreview({ file, opened, shape, taken: undefined, problem: sentenceOf(error) });
    }
  };
  const open = async (file: File): Promise<void> => {
    try {
      const opened = await reader.ask(async (worker) => worker.open(await file.text()));
      setProblem('');
      await look(file.name, opened, rememberedFor(opened.shape));
    } catch (error) {
      setPreview(undefined);
      setProblem(`${file.name}: ${sentenceOf(error)}`);
    }
  };
  const take = async ({ file, taken }: Preview): Promise<void> => {
    const late = began.take()?.values[BEGAN.id];
    if (!taken || late === undefined) return;
    const readings = taken.readings.map((one) => ({ ...one, afterMin: one.afterMin + late }));
    const isRecorded = await actions.record({
      kind: 'chargeLogged',
      payload: { step: hand.step.key, file, rows: taken.rows, readings },
    });
    if (!isRecorded) return;
    setPreview(undefined);
    began.clear();
  };
  return (
    <div className="px-5 pb-3">
      <label className="relative inline-flex min-h-12 cursor-pointer items-center gap-2 rounded-lg border-2 border-cork px-4 font-medium focus-within:outline-3 focus-within:outline-offset-2 focus-within:outline-ember hover:bg-paper">
        <FileUp aria-hidden className="size-5" />
        Take in a logger’s file
        <input
          type="file"
          accept=".csv,.txt,.tsv,text/csv,text/plain"
          className="absolute inset-0 cursor-pointer opacity-0"
          onChange={({ target }) => {
            const [file] = target.files ?? [];
            if (file) void open(file);
            target.value = '';
          }}
        />
      </label>
      {problem !== '' && (
        <p role="alert" className="mt-2 text-clay">
          {problem}
        </p>
      )}
      {preview && (
        <section aria-label="The logger’s file" className="mt-3 rounded-lg border-2 border-cork bg-paper p-4">
          <p className="font-semibold break-words">{preview.file}</p>
          <label className="mt-2 flex flex-wrap items-center gap-2" htmlFor={beganId}>
            {BEGAN.spec.label}, min
            <ReadingBox
              id={beganId}
              value={began.typed(BEGAN.id).text}
              label={BEGAN.spec.label}
              unit="min"
              aria-invalid={began.typed(BEGAN.id).isProblem === true}
              aria-describedby={`${beganId}-says`}
              onType={(text) => began.type(BEGAN.id, text)}
              className={`max-w-24 ${BOX}`}
            />
          </label>
          <p id={`${beganId}-says`} className={began.typed(BEGAN.id).isProblem ? 'text-clay' : 'text-soft'}>
            {began.typed(BEGAN.id).sentence ?? '0 where its first row is the moment the charger went on.'}
          </p>
          <div className="mt-3 grid gap-3 md:grid-cols-2">
            {LOG_QUANTITIES.map((quantity) => (
              <ColumnChoice
                key={quantity}
                quantity={quantity}
                shape={preview.shape}
                sample={preview.opened.sample}
                onChange={(shape) => {
                  remember(shape);
                  void look(preview.file, preview.opened, shape);
                }}
              />
            ))}
          </div>
          <Sample opened={preview.opened} />
          {preview.problem !== '' && (
            <p role="alert" className="mt-2 text-clay">
              {preview.problem}
            </p>
          )}
          {preview.taken && (
            <p className="mt-3">
              <span className="reading">{preview.taken.rows}</span> rows over{' '}
              <span className="reading">{(preview.taken.lastMin / 60).toFixed(2)}</span> h,{' '}
              <span className="reading">{preview.taken.readings[0]?.voltageV.toFixed(2)}</span> to{' '}
              <span className="reading">{preview.taken.readings.at(-1)?.voltageV.toFixed(2)}</span> V
              {preview.taken.skipped > 0 && `; ${preview.taken.skipped} rows lack a number and are left out`}
              {!preview.taken.hasTemperature && `; no warmth in it, ${tempC.toFixed(0)} °C is kept`}.
            </p>
          )}
          <div className="mt-3 flex flex-wrap gap-3">
            <Button
              tone="go"
              className="min-h-14"
              disabled={!preview.taken}
              onClick={() => void take(preview)}
            >
              Take it in
            </Button>
            <Button onClick={() => setPreview(undefined)}>Leave it</Button>
          </div>
        </section>
      )}
    </div>
  );
}
