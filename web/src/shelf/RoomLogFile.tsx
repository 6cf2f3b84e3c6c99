/** A logger's file of a room: which column is the time and which the warmth is shown, and can be put right. */
import { FileUp } from 'lucide-react';
import { useId, useState } from 'react';
import { LOG_UNITS, type LogShape } from '@cork-ember/core/logger/columns.ts';
import type { Warmth } from '@cork-ember/core/shelf/warmth.ts';
import { warmthText } from '@cork-ember/core/shelf/warmthText.ts';
import { sentenceOf } from '../api/client.ts';
import { Combobox } from '../ui/Combobox.tsx';
import { Notice } from '../ui/Notice.tsx';
import { box } from '../ui/box.ts';
import { Hired } from '../workers/hired.ts';
import type { LogReader } from '../workers/log.worker.ts';

const reader = new Hired<LogReader>(
  () => new Worker(new URL('../workers/log.worker.ts', import.meta.url), { type: 'module' }),
);

interface RoomLogFileProps {
  readonly before: Warmth;
  readonly timeZone: string;
  readonly logged: Warmth | undefined;
  readonly onLogged: (warmth: Warmth | undefined) => void;
}

export function RoomLogFile({ before, timeZone, logged, onLogged }: RoomLogFileProps) {
  const id = useId();
  const [shape, setShape] = useState<LogShape>();
  const [problem, setProblem] = useState('');
  const take = async (next: LogShape): Promise<void> => {
    setShape(next);
    try {
      onLogged(await reader.ask((worker) => worker.readRoom(next, before, timeZone)));
      setProblem('');
    } catch (error) {
      onLogged(undefined);
      setProblem(sentenceOf(error));
    }
  };
  const open = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    try {
      const text = await file.text();
      await take((await reader.ask((worker) => worker.open(text))).shape);
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  const names = (shape?.names ?? []).map((name, index) => ({ value: String(index), label: name }));
  const warm = shape?.columns.temperature;
  const setWarm = (change: { readonly index?: number; readonly unit?: string }): void => {
    if (!shape) return;
    const temperature = { index: warm?.index ?? 0, unit: warm?.unit ?? '°C', ...change };
    void take({ ...shape, columns: { ...shape.columns, temperature } });
  };
  return (
    <div className="space-y-3">
      <label htmlFor={id} className="block">
        <span className="flex items-center gap-2 font-medium">
          <FileUp aria-hidden className="size-5" /> The logger’s file, as CSV: time with its date, and °C
        </span>
        <input
          id={id}
          type="file"
          accept=".csv,.txt,.tsv,text/csv,text/plain"
          onChange={(event) => void open(event.target.files?.[0])}
          className={box({ className: 'mt-1 py-2' })}
        />
      </label>
      {shape && (
        <div className="grid gap-3 sm:grid-cols-2">
          <Combobox
            label="Warmth stands in"
            value={warm === undefined ? '' : String(warm.index)}
            choices={names}
            onChoose={(value) => setWarm({ index: Number(value) })}
            placeholder="Which column"
            className="w-full"
          />
          <Combobox
            label="In"
            value={warm?.unit ?? ''}
            choices={LOG_UNITS.temperature.map((unit) => ({ value: unit, label: unit }))}
            onChoose={(unit) => setWarm({ unit })}
            placeholder="Unit"
            className="w-full"
          />
        </div>
      )}
      {problem !== '' && <Notice tone="stop">{problem}</Notice>}
      {logged && 'loggedC' in logged && (
        <p role="status" className="font-semibold">
          {logged.loggedC.length} days: {warmthText(logged)}.
        </p>
      )}
    </div>
  );
}
