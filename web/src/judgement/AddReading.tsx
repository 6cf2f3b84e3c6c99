/** One more reading, of any kind, in any order: each narrows down what is the matter. */
import { loadTestFor, type LoadTest } from '@cork-ember/core/battery/loadTest.ts';
import { fullMassG } from '@cork-ember/core/battery/packMass.ts';
import { settingOf } from '@cork-ember/core/adapters/fromJob.ts';
import type { Reading } from '@cork-ember/core/observation/readings.ts';
import { onSix, type BatteryType } from '@cork-ember/core/battery/types.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import {
  cellDensitySpec,
  ELECTROLYTE_TEMP,
  voltageSpec,
} from '@cork-ember/core/runsheet/definition/fields.ts';
import { testerSpec } from '@cork-ember/core/runsheet/definition/testerFields.ts';
import {
  deficitSpec,
  missingG,
  usedMassSpec,
  weighingText,
} from '@cork-ember/core/runsheet/definition/missingMass.ts';
import type { ReadingSpec } from '@cork-ember/core/units/reading.ts';
import { LoadGuide } from '../steps/LoadGuide.tsx';
import type { AskedReading } from '../readings/ReadingFields.tsx';
import { ReadingForm } from '../readings/ReadingForm.tsx';
import { useReadings } from '../readings/useReadings.ts';
import type { CautionId } from '@cork-ember/core/rules/cautions.ts';
import { Button } from '../ui/Button.tsx';
import { ByInstrument } from './ByInstrument.tsx';
import { ChargerForm } from './ChargerForm.tsx';
import { LookForm, LOOKS, TAKE_IN } from './LookForm.tsx';
import { useTakeIn } from './useTakeIn.ts';
import { FormHead } from './FormHead.tsx';
import { card } from '../ui/card.ts';

type Values = Readonly<Record<string, number>>;

interface Kind {
  readonly id: string;
  readonly name: string;
  readonly how: (type: BatteryType) => string;
  readonly isFor?: 'flooded';
  readonly cautions: readonly CautionId[];
  readonly fields: (type: BatteryType) => readonly AskedReading[];
  readonly readings: (values: Values, type: BatteryType, load: LoadTest) => readonly Reading[];
}

const amps = (label: string, most: number, decimals: number): ReadingSpec => ({
  label,
  unit: 'A',
  decimals,
  possible: { min: 0, max: 3000 },
  plausible: { min: 0, max: most },
});

function stepLabel(index: number, cells: number): string {
  if (index === 0) return 'Positive post to cell 1';
  return index === cells ? `Cell ${cells} to negative post` : `Cell ${index} to cell ${index + 1}`;
}

const CELL_WARMTH: Omit<ReadingSpec, 'label'> = {
  unit: '°C',
  decimals: 1,
  possible: { min: -20, max: 90 },
  plausible: { min: 5, max: 50 },
};

const densityOf = (cell: number): AskedReading => ({
  id: `cell${cell}`,
  inCell: cell,
  spec: cellDensitySpec(`Density, cell ${cell}`),
  isOptional: true,
});

const KINDS: readonly Kind[] = [
  {
    id: 'ocv',
    name: 'Rested voltage',
    cautions: [],
    how: () => 'Four hours or more off charge and load, nothing connected.',
    fields: (type) => [
      {
        id: 'volts',
        spec: voltageSpec('Open-circuit voltage', [0, 13.2], type),
        isOptional: false,
        quantity: 'voltage',
      },
    ],
    readings: ({ volts = 0 }) => [{ kind: 'ocv', volts, isRested: true }],
  },
  {
    id: 'load',
    name: 'Load test',
    cautions: ['sparkAtTest', 'gasInside'],
    how: () => 'Read the lowest voltage. At once and a minute after tell a film from an empty cell.',
    fields: (type) => [
      { id: 'amps', spec: amps('Load', type.capacityAh * 8, 0), isOptional: false },
      { id: 'firstV', spec: voltageSpec('Voltage at once', [0, 12.4], type), isOptional: true },
      {
        id: 'volts',
        spec: voltageSpec('Lowest voltage under load', [0, 12.4], type),
        isOptional: false,
        quantity: 'loadVoltage',
      },
      {
        id: 'backV',
        spec: voltageSpec('A minute after', [0, 13.2], type),
        isOptional: true,
      },
    ],
    readings: ({ amps: drawn = 0, volts = 0, firstV, backV }, _, { seconds }) => [
      {
        kind: 'load',
        amps: drawn,
        seconds,
        volts,
        ...(firstV === undefined ? {} : { firstV }),
        ...(backV === undefined ? {} : { backV }),
      },
    ],
  },
  {
    id: 'tester',
    name: 'Tester',
    cautions: ['sparkAtTest'],
    how: () => 'Set to construction, rating and standard; the warmth noted.',
    fields: (type) => [
      {
        id: 'amps',
        spec: testerSpec(type),
        isOptional: false,
        quantity: 'cranking',
      },
    ],
    readings: ({ amps: shown = 0 }) => [{ kind: 'tester', amps: shown }],
  },
  {
    id: 'acceptance',
    name: 'What it takes',
    cautions: ['clipsFirst', 'chargerOffFirst', 'gas'],
    how: (type) =>
      `A supply at ${onSix(14.4, type).toFixed(1)} V, ${(type.capacityAh / 5).toFixed(1)} A at most, for two minutes: read the current.`,
    fields: (type) => [
      {
        id: 'amps',
        spec: amps(`Current at ${onSix(14.4, type).toFixed(1)} V`, type.capacityAh / 5, 2),
        isOptional: false,
      },
    ],
    readings: ({ amps: taken = 0 }, type) => [{ kind: 'acceptance', volts: onSix(14.4, type), amps: taken }],
  },
  {
    id: 'density',
    name: 'Density',
    cautions: ['acid', 'gasInside'],
    how: () =>
      'As the hydrometer floats, cell by cell from the positive post, and how warm the acid is: that is allowed for here. Means nothing until water that was added has mixed.',
    isFor: 'flooded',
    fields: ({ cells }) => [
      ...Array.from({ length: cells }, (_, index) => densityOf(index + 1)),
      {
        id: 'acidC',
        spec: ELECTROLYTE_TEMP,
        isOptional: true,
      },
    ],
    readings: ({ acidC, ...values }) =>
      Object.entries(values).flatMap(([id, density]) => {
        const cell = Number(/^cell(\d+)$/.exec(id)?.[1]);
        const warmth = acidC === undefined ? {} : { tempC: acidC };
        return Number.isNaN(cell) ? [] : [{ kind: 'density', cell, density, ...warmth } as const];
      }),
  },
  {
    id: 'dips',
    name: 'Along the cells',
    cautions: ['acid', 'gasInside'],
    how: () =>
      'Dip probes of one metal in the acid: the post to cell 1, cell 1 to 2, and so on to the other post. One reading more than cells; a low step may be either neighbour.',
    isFor: 'flooded',
    fields: ({ cells }) =>
      Array.from({ length: cells + 1 }, (_, index) => ({
        id: `dip${index}`,
        spec: {
          label: stepLabel(index, cells),
          unit: 'V',
          decimals: 2,
          possible: { min: -5, max: 5 },
          plausible: { min: -0.5, max: 3 },
        },
        isOptional: false,
      })),
    readings: (values, { cells }) => [
      { kind: 'dips', volts: Array.from({ length: cells + 1 }, (_, index) => values[`dip${index}`] ?? 0) },
    ],
  },
  {
    id: 'resistance',
    name: 'Resistance',
    cautions: ['sparkAtTest'],
    how: () => 'By a tester that shows it, between the posts, clips on the lead and not on the bolt.',
    fields: () => [
      {
        id: 'mOhm',
        spec: {
          label: 'Resistance between the posts',
          unit: 'mΩ',
          decimals: 1,
          possible: { min: 0.1, max: 99_999 },
          plausible: { min: 1, max: 200 },
        },
        isOptional: false,
      },
    ],
    readings: ({ mOhm = 0 }) => [{ kind: 'resistance', ohm: mOhm / 1000 }],
  },
  {
    id: 'warmth',
    name: 'Cell warmth',
    cautions: ['hot', 'gasInside'],
    how: () =>
      'On charge, a probe in or on each cell. One hot: a short that leaks. One cool while the others heat: a dead one. A touch is no number.',
    fields: ({ cells }) =>
      Array.from({ length: cells }, (_, index) => ({
        id: `warm${index + 1}`,
        inCell: index + 1,
        spec: { ...CELL_WARMTH, label: `Warmth, cell ${index + 1}` },
        isOptional: true,
      })),
    readings: (values, { cells }) => {
      const read = Array.from({ length: cells }, (_, index) => index + 1).flatMap((cell) => {
        const tempC = values[`warm${cell}`];
        return tempC === undefined ? [] : [{ cell, tempC }];
      });
      return read.length === 0 ? [] : [{ kind: 'warmth', cells: read }];
    },
  },
  {
    id: 'mass',
    name: 'Mass',
    cautions: ['heavy'],
    how: weighingText,
    fields: (type) =>
      fullMassG(type) === undefined
        ? [{ id: 'deficitG', spec: deficitSpec(type), isOptional: false }]
        : [{ id: 'massG', spec: usedMassSpec(type), isOptional: false, quantity: 'mass' }],
    readings: (values, type) => [{ kind: 'mass', deficitG: missingG(values, type) ?? 0 }],
  },
  {
    id: 'crank',
    name: 'Crank',
    cautions: ['cranking', 'gasInside'],
    how: () => 'In the vehicle, the lowest voltage while the engine turns. A start is the last proof of all.',
    fields: (type) => [
      {
        id: 'volts',
        spec: voltageSpec('Lowest voltage while cranking', [0, 12.2], type),
        isOptional: false,
      },
    ],
    readings: ({ volts = 0 }) => [{ kind: 'crank', volts }],
  },
];

const CHARGER = { id: 'charger', name: 'The charger’s view' } as const;

function Form({ job, kind, onTaken }: { job: Job; kind: Kind; onTaken: () => void }) {
  const { type, rules } = job.state.opened;
  const load = loadTestFor(type, rules.loadTest, settingOf(job.state).tempC);
  const take = useTakeIn(job, onTaken);
  const fields = kind.fields(type);
  const start = kind.id === 'load' ? { amps: load.currentA } : {};
  const readings = useReadings(`${job.state.job} evidence ${kind.id}`, fields, start);
  return (
    <ReadingForm
      readings={readings}
      fields={fields}
      job={job.state.job}
      type={type}
      answer={TAKE_IN}
      onTake={({ values }) => take.all(kind.readings(values, type, load))}
    >
      <FormHead cautions={kind.cautions} how={kind.how(type)} problem={take.problem} />
      {kind.id === 'load' && (
        <LoadGuide
          seconds={load.seconds}
          isWatched
          limit={`${load.currentA.toFixed(0)} A; a sound, charged one holds ${load.floorV.toFixed(2)} V: ${load.basis}. Down to about 2\u00a0V from a good rested voltage: finished. Low, but it springs back: it may recover.`}
        />
      )}
    </ReadingForm>
  );
}

interface AddReadingProps {
  readonly job: Job;
  /** Of `KINDS`, `LOOKS` or the charger; undefined shows what can be read, and no form. */
  readonly kind: string | undefined;
  readonly onKind: (id: string) => void;
  /** It is on the record. */
  readonly onTaken: () => void;
}

export function AddReading({ job, kind: id, onKind, onTaken }: AddReadingProps) {
  const isFlooded = job.state.opened.type.construction === 'flooded';
  const kinds = KINDS.filter((kind) => kind.isFor === undefined || isFlooded);
  const looks = isFlooded ? LOOKS : [];
  const kind = kinds.find((one) => one.id === id);
  const look = looks.find((one) => one.id === id);
  return (
    <section aria-labelledby="add-title" className={card({ pad: 'none', className: 'py-4' })}>
      <h2 id="add-title" tabIndex={-1} className="scroll-mt-4 px-5 text-lg font-bold outline-none">
        Read something more
      </h2>
      <div className="mt-2 flex flex-wrap gap-2 px-5">
        {[...kinds, ...looks, CHARGER].map((one) => (
          <Button
            key={one.id}
            aria-pressed={one.id === id}
            tone={one.id === id ? 'go' : 'plain'}
            onClick={() => onKind(one.id)}
          >
            {one.name}
          </Button>
        ))}
      </div>
      {kind && (
        <ByInstrument key={kind.id} kind={kind.id} job={job} onTaken={onTaken}>
          <Form job={job} kind={kind} onTaken={onTaken} />
        </ByInstrument>
      )}
      {look && <LookForm key={look.id} job={job} look={look} onTaken={onTaken} />}
      {id === CHARGER.id && <ChargerForm job={job} onTaken={onTaken} />}
    </section>
  );
}
