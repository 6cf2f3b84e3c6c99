/** What is seen rather than measured: levels and bubbles on the drawing of the battery, and a charger's own view. */
import { useState, type FormEvent } from 'react';
import type { Reading } from '@cork-ember/core/belief/readings.ts';
import type { Job } from '@cork-ember/core/runsheet/fold.ts';
import { BatteryTop } from '../ui/BatteryTop.tsx';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { useTakeIn } from './useTakeIn.ts';

interface Option {
  readonly id: string;
  readonly label: string;
}

export interface Look {
  readonly id: string;
  readonly name: string;
  readonly how: string;
  readonly isFor?: 'flooded';
  readonly options: readonly Option[];
  /** Asked of every cell; of the battery as a whole otherwise. */
  readonly perCell: boolean;
  readonly reading: (option: string, cell: number) => Reading;
}

/** Where most automatic chargers begin to see a battery, V on six cells (handbook 3.4). */
const STARTS_V = 8;

export const LOOKS: readonly Look[] = [
  {
    id: 'level',
    name: 'Levels',
    how: 'A lamp into each cell. Plates bare: dried out; one low: that cell.',
    isFor: 'flooded',
    perCell: true,
    options: [
      { id: 'at-line', label: 'At line' },
      { id: 'low', label: 'Low' },
      { id: 'plates-bare', label: 'Bare' },
    ],
    reading: (level, cell) => ({ kind: 'level', cell, level: level as 'at-line' | 'low' | 'plates-bare' }),
  },
  {
    id: 'bubbles',
    name: 'Bubbles',
    how: 'On charge, caps off, face away. The silent cell is shorted, or the last to wake.',
    isFor: 'flooded',
    perCell: true,
    options: [
      { id: 'lively', label: 'Lively' },
      { id: 'few', label: 'Few' },
      { id: 'none', label: 'Silent' },
    ],
    reading: (bubbles, cell) => ({ kind: 'bubbles', cell, bubbles: bubbles as 'lively' | 'few' | 'none' }),
  },
  {
    id: 'charger',
    name: 'The charger’s view',
    how: 'What an automatic charger that starts at 8 V makes of it.',
    perCell: false,
    options: [
      { id: 'refuses', label: 'Does not start on it' },
      { id: 'stuck', label: 'Stays in its first stage, or trips' },
      { id: 'finishes', label: 'Comes to its end' },
    ],
    reading: (view) => ({
      kind: 'charger',
      view: view as 'refuses' | 'stuck' | 'finishes',
      startV: STARTS_V,
    }),
  },
];

export function TakeIn() {
  return (
    <div className="p-5">
      <Button type="submit" tone="go" className="min-h-14 w-full text-lg">
        Take it in
      </Button>
    </div>
  );
}

function Options({
  legend,
  options,
  chosen,
  onChoose,
  isNarrow,
}: {
  legend: string;
  options: readonly Option[];
  chosen: string | undefined;
  onChoose: (id: string) => void;
  isNarrow: boolean;
}) {
  return (
    <fieldset className={isNarrow ? 'space-y-1' : 'flex flex-wrap gap-2'}>
      <legend className="sr-only">{legend}</legend>
      {options.map(({ id, label }) => (
        <label
          key={id}
          className={`flex min-h-12 cursor-pointer items-center justify-center rounded-lg border-2 border-line px-1 text-center has-checked:border-verdigris has-checked:font-bold has-focus-visible:outline-3 has-focus-visible:outline-ember ${isNarrow ? 'text-sm' : 'px-4'}`}
        >
          <input
            type="radio"
            name={legend}
            checked={chosen === id}
            onChange={() => onChoose(id)}
            className={isNarrow ? 'sr-only' : 'mr-2 size-5 accent-(--verdigris)'}
          />
          {chosen === id && isNarrow ? '✓ ' : ''}
          {label}
        </label>
      ))}
    </fieldset>
  );
}

export function LookForm({ job, look }: { job: Job; look: Look }) {
  const { type } = job.state.opened;
  const take = useTakeIn(job);
  const [chosen, setChosen] = useState<Readonly<Record<number, string>>>({});
  const choose = (cell: number, option: string): void =>
    setChosen((before) => ({ ...before, [cell]: option }));
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const readings = Object.entries(chosen).map(([cell, option]) => look.reading(option, Number(cell)));
    if (await take.all(readings)) setChosen({});
  };
  return (
    <form onSubmit={(event) => void submit(event)} noValidate>
      <p className="px-5 pt-3 text-soft">{look.how}</p>
      {take.problem !== '' && (
        <div className="mt-3">
          <Notice tone="stop">{take.problem}</Notice>
        </div>
      )}
      <div className="px-5 pt-3">
        {look.perCell ? (
          <BatteryTop
            type={type}
            cell={(cell) => (
              <Options
                legend={`${look.name}, cell ${cell}`}
                options={look.options}
                chosen={chosen[cell]}
                onChoose={(option) => choose(cell, option)}
                isNarrow
              />
            )}
          />
        ) : (
          <Options
            legend={look.name}
            options={look.options}
            chosen={chosen[0]}
            onChoose={(option) => choose(0, option)}
            isNarrow={false}
          />
        )}
      </div>
      <TakeIn />
    </form>
  );
}
