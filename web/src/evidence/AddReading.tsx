/** One more reading, of any kind, in any order: each narrows down what is the matter. */
import { useState, type FormEvent } from 'react';
import type { Reading } from '@cork-ember/core/belief/readings.ts';
import type { BatteryType } from '@cork-ember/core/battery/types.ts';
import type { Job } from '@cork-ember/core/runsheet/fold.ts';
import { voltageSpec } from '@cork-ember/core/runsheet/fields.ts';
import type { ReadingSpec } from '@cork-ember/core/units/reading.ts';
import { sentenceOf } from '../api/client.ts';
import { useRecord } from '../api/record.ts';
import { ReadingInputs, type AskedReading } from '../steps/ReadingInputs.tsx';
import { useReadings } from '../steps/useReadings.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';

type Values = Readonly<Record<string, number>>;

interface Kind {
  readonly id: 'ocv' | 'load' | 'tester' | 'acceptance' | 'density';
  readonly name: string;
  readonly how: (type: BatteryType) => string;
  readonly isFor?: 'flooded';
  readonly hasCell?: boolean;
  readonly fields: (type: BatteryType) => readonly AskedReading[];
  readonly reading: (values: Values, cell: number) => Reading;
}

const amps = (label: string, most: number, decimals: number): ReadingSpec => ({
  label,
  unit: 'A',
  decimals,
  possible: { min: 0, max: 3000 },
  plausible: { min: 0, max: most },
});

const LOAD_S = 15;
const onSix = (volts: number, { cells }: BatteryType): number => (volts * cells) / 6;

const KINDS: readonly Kind[] = [
  {
    id: 'ocv',
    name: 'Rested voltage',
    how: () => 'Four hours or more off charge and load, nothing connected.',
    fields: (type) => [
      {
        id: 'volts',
        spec: voltageSpec('Open-circuit voltage', [0, 13.2], type),
        isOptional: false,
        quantity: 'voltage',
      },
    ],
    reading: ({ volts = 0 }) => ({ kind: 'ocv', volts, isRested: true }),
  },
  {
    id: 'load',
    name: 'Load test',
    how: ({ capacityAh }) => `${(3 * capacityAh).toFixed(0)} A for ${LOAD_S} s: read the lowest voltage.`,
    fields: (type) => [
      { id: 'amps', spec: amps('Load', type.capacityAh * 8, 0), isOptional: false },
      {
        id: 'volts',
        spec: voltageSpec('Lowest voltage under load', [0, 12.4], type),
        isOptional: false,
        quantity: 'loadVoltage',
      },
    ],
    reading: ({ amps: drawn = 0, volts = 0 }) => ({ kind: 'load', amps: drawn, seconds: LOAD_S, volts }),
  },
  {
    id: 'tester',
    name: 'Tester',
    how: () => 'Set to construction, rating and standard; the warmth noted.',
    fields: (type) => [
      {
        id: 'amps',
        spec: amps('Cranking current on the tester', (type.cranking?.amps ?? type.capacityAh * 15) * 1.2, 0),
        isOptional: false,
        quantity: 'cranking',
      },
    ],
    reading: ({ amps: shown = 0 }) => ({ kind: 'tester', amps: shown }),
  },
  {
    id: 'acceptance',
    name: 'What it takes',
    how: (type) =>
      `A supply at ${onSix(14.4, type).toFixed(1)} V, ${(type.capacityAh / 5).toFixed(1)} A at most, for two minutes: read the current.`,
    fields: (type) => [
      {
        id: 'amps',
        spec: amps(`Current at ${onSix(14.4, type).toFixed(1)} V`, type.capacityAh / 5, 2),
        isOptional: false,
      },
    ],
    reading: ({ amps: taken = 0, heldV = 14.4 }) => ({ kind: 'acceptance', volts: heldV, amps: taken }),
  },
  {
    id: 'density',
    name: 'Density of a cell',
    how: () => 'As the hydrometer floats. Means nothing until water that was added has mixed.',
    isFor: 'flooded',
    hasCell: true,
    fields: () => [
      {
        id: 'density',
        spec: {
          label: 'Density',
          unit: 'g/cm³',
          decimals: 3,
          possible: { min: 1, max: 1.4 },
          plausible: { min: 1, max: 1.32 },
        },
        isOptional: false,
      },
    ],
    reading: ({ density = 1 }, cell) => ({ kind: 'density', cell, density }),
  },
];

function Form({ job, kind }: { job: Job; kind: Kind }) {
  const { type } = job.state.opened;
  const record = useRecord(job);
  const [cell, setCell] = useState(1);
  const [problem, setProblem] = useState('');
  const fields = kind.fields(type);
  const start = kind.id === 'load' ? { amps: { text: (3 * type.capacityAh).toFixed(0) } } : {};
  const readings = useReadings(fields, start);
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const taken = readings.take();
    if (!taken) return;
    const reading = kind.reading({ ...taken.values, heldV: onSix(14.4, type) }, cell);
    try {
      await record({ kind: 'evidenced', payload: { reading } });
      setProblem('');
      for (const field of fields) readings.type(field.id, '');
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  return (
    <form onSubmit={(event) => void submit(event)} noValidate>
      <p className="px-5 pt-3 text-soft">{kind.how(type)}</p>
      {kind.hasCell && (
        <fieldset className="px-5 pt-3">
          <legend className="font-medium">Cell, from the positive post</legend>
          <div className="mt-1 flex flex-wrap gap-2">
            {Array.from({ length: type.cells }, (_, index) => index + 1).map((one) => (
              <Button
                key={one}
                aria-pressed={cell === one}
                tone={cell === one ? 'go' : 'plain'}
                onClick={() => setCell(one)}
              >
                {one}
              </Button>
            ))}
          </div>
        </fieldset>
      )}
      {problem !== '' && (
        <div className="mt-3">
          <Notice tone="stop">{problem}</Notice>
        </div>
      )}
      <ReadingInputs fields={fields} readings={readings} job={job.state.job} />
      <div className="p-5">
        <Button type="submit" tone="go" className="min-h-14 w-full text-lg">
          Take it in
        </Button>
      </div>
    </form>
  );
}

export function AddReading({ job, asked }: { job: Job; asked: string | undefined }) {
  const isFlooded = job.state.opened.type.kind === 'flooded-dry-charged';
  const kinds = KINDS.filter((kind) => kind.isFor === undefined || isFlooded);
  const [id, setId] = useState<string>(asked ?? 'load');
  const kind = kinds.find((one) => one.id === id) ?? kinds[0];
  return (
    <section aria-labelledby="add-title" className="rounded-xl border border-line bg-card pt-4">
      <h2 id="add-title" className="px-5 text-lg font-bold">
        Read something more
      </h2>
      <div className="mt-2 flex flex-wrap gap-2 px-5">
        {kinds.map((one) => (
          <Button
            key={one.id}
            aria-pressed={one === kind}
            tone={one === kind ? 'go' : 'plain'}
            onClick={() => setId(one.id)}
          >
            {one.name}
          </Button>
        ))}
      </div>
      {kind && <Form key={kind.id} job={job} kind={kind} />}
    </section>
  );
}
