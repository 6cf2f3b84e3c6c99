/** When the shop is open: the week, lunch and holidays. */
import { useState } from 'react';
import type { ShopHours } from '@cork-ember/core/clock/shopHours.ts';
import { dateFromEntry, minutesFromEntry, minutesText } from '@cork-ember/core/units/entryTime.ts';
import { shopRegion } from '../region/shopRegion.ts';
import { Button } from '../ui/Button.tsx';
import { Removable } from '../ui/Removable.tsx';
import { box } from '../ui/box.ts';

const BOX = box({ fit: 'inline', className: 'block' });
/** Monday first, as a week is worked; the index counts from Sunday. */
const WEEK = [
  [1, 'Monday'],
  [2, 'Tuesday'],
  [3, 'Wednesday'],
  [4, 'Thursday'],
  [5, 'Friday'],
  [6, 'Saturday'],
  [0, 'Sunday'],
] as const;
const NINE_TO_FIVE: readonly [number, number] = [9 * 60, 17 * 60];

/** Hours as the shop writes them, whatever the browser's own habit; what is typed stays until it is a time. */
function TimeBox({
  label,
  minutes,
  onChange,
}: {
  label: string;
  minutes: number;
  onChange: (minutes: number) => void;
}) {
  const [text, setText] = useState(minutesText(minutes, shopRegion()));
  const isOff = minutesFromEntry(text) === undefined;
  return (
    <input
      aria-label={label}
      value={text}
      maxLength={8}
      autoComplete="off"
      aria-invalid={isOff}
      onChange={(event) => {
        setText(event.target.value);
        const typed = minutesFromEntry(event.target.value);
        if (typed !== undefined) onChange(typed);
      }}
      className={`reading w-28 text-char ${BOX} ${isOff ? 'border-clay' : ''}`}
    />
  );
}

type Opening = readonly [openMin: number, closeMin: number] | null;

function DayRow({
  name,
  opening,
  onChange,
}: {
  name: string;
  opening: Opening;
  onChange: (next: Opening) => void;
}) {
  return (
    <li className="flex flex-wrap items-center gap-3">
      <label className="flex min-h-12 w-40 items-center gap-3 font-medium">
        <input
          type="checkbox"
          checked={opening !== null}
          onChange={(event) => onChange(event.target.checked ? NINE_TO_FIVE : null)}
          className="size-5 accent-(--verdigris)"
        />
        {name}
      </label>
      {opening === null ? (
        <span className="text-soft">closed</span>
      ) : (
        (['opens', 'closes'] as const).map((word, side) => (
          <label key={word} className="flex items-center gap-2 text-soft">
            {word}
            <TimeBox
              label={`${name} ${word}`}
              minutes={opening[side] ?? 0}
              onChange={(minutes) => onChange(side === 0 ? [minutes, opening[1]] : [opening[0], minutes])}
            />
          </label>
        ))
      )}
    </li>
  );
}

const NOON: readonly [number, number] = [12 * 60, 13 * 60];

/** Without lunch, or without holidays: what is not there is left out. */
const withLunch = ({ lunch: _before, ...rest }: ShopHours, lunch: ShopHours['lunch']): ShopHours =>
  lunch ? { ...rest, lunch } : rest;
const withHolidays = ({ holidays: _before, ...rest }: ShopHours, holidays: readonly string[]): ShopHours =>
  holidays.length > 0 ? { ...rest, holidays } : rest;

function Holidays({
  days,
  onChange,
}: {
  days: readonly string[];
  onChange: (days: readonly string[]) => void;
}) {
  const [fresh, setFresh] = useState('');
  const day = dateFromEntry(fresh, shopRegion().date);
  const isNew = day !== undefined && !days.includes(day);
  return (
    <div>
      <p className="font-medium">Closed on</p>
      <ul className="mt-1 flex flex-wrap gap-2">
        {days.map((closed) => (
          <Removable
            key={closed}
            isReading
            text={closed}
            removeLabel={`Open on ${closed} after all`}
            onRemove={() => onChange(days.filter((one) => one !== closed))}
          />
        ))}
        <li className="flex flex-wrap gap-2">
          <input
            aria-label="Another holiday"
            placeholder="2026-12-24"
            value={fresh}
            maxLength={12}
            autoComplete="off"
            onChange={(event) => setFresh(event.target.value)}
            className={`reading w-36 ${BOX}`}
          />
          <Button
            disabled={!isNew}
            onClick={() => {
              if (day === undefined) return;
              onChange([...days, day].sort());
              setFresh('');
            }}
          >
            Closed that day
          </Button>
        </li>
      </ul>
    </div>
  );
}

export function HoursFields({ hours, onChange }: { hours: ShopHours; onChange: (next: ShopHours) => void }) {
  const { week, lunch, holidays = [] } = hours;
  return (
    <div className="space-y-4">
      <ul className="space-y-2">
        {WEEK.map(([index, day]) => (
          <DayRow
            key={day}
            name={day}
            opening={week[index] ?? null}
            onChange={(next) =>
              onChange({ ...hours, week: week.map((one, i) => (i === index ? next : one)) })
            }
          />
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-3">
        <label className="flex min-h-12 w-40 items-center gap-3 font-medium">
          <input
            type="checkbox"
            checked={lunch !== undefined}
            onChange={(event) => onChange(withLunch(hours, event.target.checked ? NOON : undefined))}
            className="size-5 accent-(--verdigris)"
          />
          Lunch
        </label>
        {lunch &&
          (
            [
              ['from', 0],
              ['to', 1],
            ] as const
          ).map(([word, side]) => (
            <label key={word} className="flex items-center gap-2 text-soft">
              {word}
              <TimeBox
                label={`Lunch ${word}`}
                minutes={lunch[side]}
                onChange={(minutes) =>
                  onChange(withLunch(hours, side === 0 ? [minutes, lunch[1]] : [lunch[0], minutes]))
                }
              />
            </label>
          ))}
      </div>
      <Holidays days={holidays} onChange={(next) => onChange(withHolidays(hours, next))} />
    </div>
  );
}
