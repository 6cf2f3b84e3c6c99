/** The calendar and the clock behind a moment: days, hours and quarters, each as large as a glove. */
import { DayPicker } from 'react-day-picker';
import { localText, momentOf } from '@cork-ember/core/clock/localTime.ts';
import { minutesText } from '@cork-ember/core/units/entryTime.ts';
import type { Region } from '@cork-ember/core/units/region.ts';
import { shopRegion } from '../region/shopRegion.ts';
import type { MomentFieldProps } from './MomentField.tsx';

const HOURS = Array.from({ length: 24 }, (_, hour) => hour);
const QUARTERS = [0, 15, 30, 45] as const;

/** "09", or "9 am". */
const hourText = (hour: number, clock: Region['clock']): string =>
  clock === '24 h' ? two(hour) : minutesText(hour * 60, { clock }).replace(':00', '');

const two = (value: number): string => String(value).padStart(2, '0');

/** Whole hours in which the shop is open at some time. */
function isOpen(hour: number, opening: readonly [number, number] | null | undefined): boolean {
  return opening !== null && opening !== undefined && hour * 60 + 59 >= opening[0] && hour * 60 < opening[1];
}

interface KeysProps {
  readonly name: string;
  readonly className: string;
  /** Those the shop is closed at stand back. */
  readonly keys: readonly { readonly one: number; readonly text: string; readonly isQuiet: boolean }[];
  readonly chosen: number;
  readonly onChoose: (one: number) => void;
}

function Keys({ name, className, keys, chosen, onChoose }: KeysProps) {
  return (
    <div role="group" aria-label={name} className={`grid gap-1 ${className}`}>
      {keys.map(({ one, text, isQuiet }) => (
        <button
          key={one}
          type="button"
          aria-pressed={one === chosen}
          onClick={() => onChoose(one)}
          className={`reading min-h-12 min-w-12 rounded-lg ${one === chosen ? 'bg-verdigris-deep text-white' : isQuiet ? 'text-soft hover:bg-paper' : 'bg-paper hover:bg-cork/30'}`}
        >
          {text}
        </button>
      ))}
    </div>
  );
}

export function MomentPicker({ value, now, hours, onChange }: Omit<MomentFieldProps, 'id'>) {
  const { timeZone, week } = hours;
  const { clock: clockForm, date } = shopRegion();
  // Where the month stands first a week begins on its Sunday.
  const isMonthFirst = date.startsWith('M');
  const dayName = new Intl.DateTimeFormat(isMonthFirst ? 'en-US' : 'en-GB', { timeZone, dateStyle: 'full' });
  const known = momentOf(value, timeZone);
  const text = localText(Number.isNaN(known) ? now : known, timeZone);
  const [day = '', clock = ''] = text.split('T');
  const [hour = 0, minute = 0] = clock.split(':').map(Number);
  const chosen = new Date(momentOf(text, timeZone));
  const set = (nextHour: number, nextMinute: number): void =>
    onChange(`${day}T${two(nextHour)}:${two(nextMinute)}`);
  const opening = week[new Date(`${day}T00:00Z`).getUTCDay()];
  return (
    <div className="mt-3 flex flex-wrap justify-center gap-x-6 gap-y-2">
      <DayPicker
        mode="single"
        required
        timeZone={timeZone}
        weekStartsOn={isMonthFirst ? 0 : 1}
        today={new Date(now)}
        selected={chosen}
        defaultMonth={chosen}
        disabled={{ before: new Date(now) }}
        onSelect={(date) => onChange(`${localText(date.getTime(), timeZone).slice(0, 10)}T${clock}`)}
        labels={{ labelDayButton: (date) => dayName.format(date) }}
        classNames={{
          months: 'relative',
          nav: 'absolute inset-x-0 top-0 flex justify-between',
          button_previous: 'grid size-12 place-items-center rounded-lg hover:bg-paper disabled:opacity-40',
          button_next: 'grid size-12 place-items-center rounded-lg hover:bg-paper',
          chevron: 'size-5 fill-char',
          month_caption: 'grid h-12 place-items-center font-semibold',
          weekday: 'h-8 text-sm font-normal text-soft',
          day_button: 'reading size-12 rounded-lg hover:bg-paper disabled:opacity-40',
          selected: 'rounded-lg bg-verdigris-deep font-semibold text-white [&>button]:hover:bg-transparent',
          today: 'underline underline-offset-4',
          disabled: 'text-soft',
        }}
      />
      <div>
        <p
          aria-hidden
          className="grid h-12 place-items-center font-semibold max-sm:hidden"
        >{`${two(hour)}:${two(minute)}`}</p>
        <Keys
          name="Hour"
          className="grid-cols-6"
          keys={HOURS.map((one) => ({ one, text: hourText(one, clockForm), isQuiet: !isOpen(one, opening) }))}
          chosen={hour}
          onChoose={(one) => set(one, minute)}
        />
        <Keys
          name="Minutes"
          className="mt-3 grid-cols-4"
          keys={QUARTERS.map((one) => ({ one, text: `:${two(one)}`, isQuiet: false }))}
          chosen={minute}
          onChoose={(one) => set(hour, one)}
        />
      </div>
    </div>
  );
}
