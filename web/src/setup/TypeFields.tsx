/** Every fact of a type, to be added or changed. */
import { MONEY } from '@cork-ember/core/units/localise.ts';
import { CONSTRUCTION, CONSTRUCTIONS } from '@cork-ember/core/battery/construction.ts';
import {
  CRANKING_STANDARDS,
  DELIVERY_NAMES,
  DUTY_NAMES,
  nominalV,
  POSTS,
  USUAL_CELLS,
  type ListedType,
} from '@cork-ember/core/battery/types.ts';
import { sentenceCase } from '@cork-ember/core/units/inSentence.ts';
import { NumberField } from '../ui/NumberField.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { Named } from '../ui/Named.tsx';
import { TextBox } from '../ui/TextBox.tsx';
import { Tick } from '../ui/Tick.tsx';

interface TypeFieldsProps {
  readonly type: ListedType;
  /** Of one that is new its code is typed too. */
  readonly isNew: boolean;
  readonly onChange: (next: ListedType) => void;
}

/** With a value, or without it where there is none. */
function withValue<K extends keyof ListedType>(
  type: ListedType,
  key: K,
  value: ListedType[K] | undefined,
): ListedType {
  const { [key]: _before, ...rest } = type;
  return (value === undefined ? rest : { ...rest, [key]: value }) as ListedType;
}

const BUILT = [
  ...CONSTRUCTIONS.map((value) => ({ value, label: CONSTRUCTION[value].name })),
  { value: 'lithium', label: 'Lithium, not taken' },
];
const named = (names: Readonly<Record<string, string>>) =>
  Object.entries(names).map(([value, label]) => ({ value, label: sentenceCase(label) }));
const DUTIES = named(DUTY_NAMES);
const DELIVERIES = named(DELIVERY_NAMES);
const VOLTS = USUAL_CELLS.map((cells) => ({ value: String(cells), label: `${nominalV({ cells })} V` }));
const NO_RATING = 'none';
const STANDARDS = [
  { value: NO_RATING, label: 'No rating' },
  ...CRANKING_STANDARDS.map((value) => ({ value, label: value })),
];
const POST_CHOICES = POSTS.map((value) => ({ value, label: sentenceCase(value) }));

export function TypeFields({ type, isNew, onChange }: TypeFieldsProps) {
  const set = <K extends keyof ListedType>(key: K, value: ListedType[K] | undefined): void =>
    onChange(withValue(type, key, value));
  const choose = (
    label: string,
    key: 'construction' | 'duty' | 'delivery' | 'positivePost',
    choices: readonly { readonly value: string; readonly label: string }[],
  ) => (
    <Named label={label} className="text-sm">
      <Combobox
        label={label}
        className="min-h-13 w-full text-base"
        value={type[key]}
        choices={choices}
        onChoose={(value) => set(key, value as never)}
      />
    </Named>
  );
  const text = (label: string, key: 'id' | 'maker' | 'caseCode') => (
    <TextBox
      label={label}
      value={type[key] ?? ''}
      most={key === 'maker' ? 60 : 40}
      onChange={(value) => set(key, key === 'caseCode' && value === '' ? undefined : value)}
    />
  );
  const figure = (label: string, unit: string, key: 'reserveMin' | 'dryMassG' | 'wetMassG' | 'newPrice') => (
    <NumberField label={label} unit={unit} value={type[key]} onChange={(value) => set(key, value)} />
  );
  const { cranking, pack } = type;
  const ofPack = (label: string, unit: string, key: 'volumeMl' | 'densityKgPerL') => (
    <NumberField
      label={label}
      unit={unit}
      value={pack?.[key]}
      onChange={(value) => {
        const { code = 'as it came', volumeMl = Number.NaN, densityKgPerL = Number.NaN } = pack ?? {};
        const next = { code, volumeMl, densityKgPerL, [key]: value ?? Number.NaN };
        set('pack', Number.isNaN(next.volumeMl) && Number.isNaN(next.densityKgPerL) ? undefined : next);
      }}
    />
  );
  return (
    <div className="mt-4 grid grid-cols-2 gap-3 md:grid-cols-3 xl:grid-cols-4">
      {isNew && text('Type code', 'id')}
      {text('Maker', 'maker')}
      {choose('Built as', 'construction', BUILT)}
      {choose('Made for', 'duty', DUTIES)}
      {choose('Delivered', 'delivery', DELIVERIES)}
      <Named label="Voltage" className="text-sm">
        <Combobox
          label="Voltage"
          className="min-h-13 w-full text-base"
          value={String(type.cells)}
          choices={
            VOLTS.some(({ value }) => value === String(type.cells))
              ? VOLTS
              : [...VOLTS, { value: String(type.cells), label: `${nominalV(type)} V` }]
          }
          onChoose={(cells) => set('cells', Number(cells))}
        />
      </Named>
      <NumberField
        label="Capacity"
        unit="Ah"
        value={type.capacityAh}
        onChange={(value) => set('capacityAh', value ?? Number.NaN)}
      />
      <NumberField
        label="At a rate of"
        unit="h"
        value={type.hourRate}
        onChange={(value) => set('hourRate', value ?? Number.NaN)}
      />
      <NumberField
        label="Cranking"
        unit="A"
        value={cranking?.amps}
        onChange={(amps) =>
          set('cranking', amps === undefined ? undefined : { amps, standard: cranking?.standard ?? 'EN' })
        }
      />
      <Named label="Rated by" className="text-sm">
        <Combobox
          label="Rated by"
          className="min-h-13 w-full text-base"
          value={cranking?.standard ?? NO_RATING}
          choices={STANDARDS}
          isDisabled={!cranking}
          onChoose={(standard) =>
            set(
              'cranking',
              !cranking || standard === NO_RATING
                ? undefined
                : { ...cranking, standard: standard as typeof cranking.standard },
            )
          }
        />
      </Named>
      {figure('Reserve', 'min', 'reserveMin')}
      {ofPack('Pack holds', 'mL', 'volumeMl')}
      {ofPack('Its density', 'kg/L', 'densityKgPerL')}
      {pack && (
        <TextBox
          label="Code on the pack"
          value={pack.code}
          onChange={(code) => set('pack', { ...pack, code })}
        />
      )}
      {figure('Dry mass', 'g', 'dryMassG')}
      {figure('Mass, filled', 'g', 'wetMassG')}
      {figure('A new one costs', MONEY, 'newPrice')}
      {choose('Positive post', 'positivePost', POST_CHOICES)}
      {text('Case or group', 'caseCode')}
      {(
        [
          ['hasHiddenPorts', 'Ports under its label'],
          ['hasVentHose', 'A vent hose'],
        ] as const
      ).map(([key, label]) => (
        <Tick
          key={key}
          className="self-end"
          label={label}
          isOn={type[key] ?? false}
          onChange={(isOn) => set(key, isOn || undefined)}
        />
      ))}
    </div>
  );
}
