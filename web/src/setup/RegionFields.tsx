/** How the shop writes its figures: each choice with an example of what it makes of one. */
import { localised, MONEY, verbatim } from '@cork-ember/core/units/localise.ts';
import { DATE_FORMS, type DateForm, type Region } from '@cork-ember/core/units/region.ts';
import { NumberField } from '../ui/NumberField.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { Named } from '../ui/Named.tsx';
import { TextBox } from '../ui/TextBox.tsx';
import { Tick } from '../ui/Tick.tsx';

const TEMPERATURES = [
  { id: '°C', label: 'Celsius' },
  { id: '°F', label: 'Fahrenheit' },
] as const;
const VOLUMES = [
  { id: 'mL', label: 'Millilitres, litres' },
  { id: 'fl oz', label: 'Fluid ounces, quarts' },
] as const;
const MASSES = [
  { id: 'kg', label: 'Grams, kilograms' },
  { id: 'lb', label: 'Ounces, pounds' },
] as const;
const MARKS = [
  { id: '.', label: 'Point' },
  { id: ',', label: 'Comma' },
] as const;
const CLOCKS = [
  { id: '24 h', label: '24 hours' },
  { id: '12 h', label: 'am and pm' },
] as const;

/** A line of a run sheet that has one of everything. */
const SAMPLE = `10 Mar 2026 14:06: 400 mL at 21 °C, 2.65 kg, 12.65 V, ${MONEY} 4.50`;

export function RegionFields({ region, onChange }: { region: Region; onChange: (next: Region) => void }) {
  const { money } = region;
  const set = (part: Partial<Region>): void => onChange({ ...region, ...part });
  return (
    <div className="max-w-3xl space-y-4">
      <p className="rounded-lg border border-line bg-card p-3">
        <span className="block text-sm text-soft">So it will read</span>
        <span className="reading" translate="no">
          {localised(SAMPLE, region)}
        </span>
      </p>
      <div className="grid gap-4 sm:grid-cols-2">
        <Choice
          kind="pill"
          isNamed
          legend="Temperatures"
          options={TEMPERATURES}
          chosen={region.temperature}
          onChoose={(temperature) => set({ temperature })}
        />
        <Choice
          kind="pill"
          isNamed
          legend="Volumes"
          options={VOLUMES}
          chosen={region.volume}
          onChoose={(volume) => set({ volume })}
        />
        <Choice
          kind="pill"
          isNamed
          legend="Masses"
          options={MASSES}
          chosen={region.mass}
          onChoose={(mass) => set({ mass })}
        />
        <Choice
          kind="pill"
          isNamed
          legend="Decimal mark"
          options={MARKS}
          chosen={region.decimalMark}
          onChoose={(decimalMark) => set({ decimalMark })}
        />
        <Choice
          kind="pill"
          isNamed
          legend="Hours of a day"
          options={CLOCKS}
          chosen={region.clock}
          onChoose={(clock) => set({ clock })}
        />
        <Named label="Dates">
          <Combobox
            label="Dates"
            className="w-full"
            value={region.date}
            choices={Object.entries(DATE_FORMS).map(([value, label]) => ({ value, label: verbatim(label) }))}
            onChoose={(date) => set({ date: date as DateForm })}
          />
        </Named>
      </div>
      <div className="grid items-end gap-4 sm:grid-cols-3">
        <TextBox
          label="Sign of the money"
          value={money.sign}
          most={4}
          onChange={(sign) => set({ money: { ...money, sign } })}
        />
        <NumberField
          label="Its decimals"
          unit=""
          value={money.decimals}
          onChange={(decimals) => set({ money: { ...money, decimals: decimals ?? Number.NaN } })}
        />
        <Tick
          label="Behind the amount"
          isOn={money.isAfter}
          onChange={(isAfter) => set({ money: { ...money, isAfter } })}
        />
      </div>
    </div>
  );
}
