/** The shop itself: its name, when it is open, who works in it. */
import { useState } from 'react';
import { X } from 'lucide-react';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { Button } from '../ui/Button.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { useShopChange } from './useShopChange.ts';
import { WhyBar } from './WhyBar.tsx';

const BOX = 'block min-h-12 rounded-lg border-2 border-cork bg-card px-3';
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
/** The zone a browser knows under another name is offered too. */
const ZONES = [...new Set(['Etc/UTC', ...Intl.supportedValuesOf('timeZone')])].map((value) => ({
  value,
  label: value.replaceAll('_', ' '),
}));
const NINE_TO_FIVE: readonly [number, number] = [9 * 60, 17 * 60];

const textOf = (minutes: number): string =>
  `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;

/** "7:30", "0730" or "7" as minutes after midnight. */
function minutesOf(text: string): number | undefined {
  const match = /^(\d{1,2})(?::?([0-5]\d))?$/.exec(text.trim());
  const minutes = match ? Number(match[1]) * 60 + Number(match[2] ?? 0) : Number.NaN;
  return minutes <= 24 * 60 ? minutes : undefined;
}

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
  const [text, setText] = useState(textOf(minutes));
  const isOff = minutesOf(text) === undefined;
  return (
    <input
      aria-label={label}
      value={text}
      maxLength={5}
      autoComplete="off"
      aria-invalid={isOff}
      onChange={(event) => {
        setText(event.target.value);
        const typed = minutesOf(event.target.value);
        if (typed !== undefined) onChange(typed);
      }}
      className={`reading w-24 text-char ${BOX} ${isOff ? 'border-clay' : ''}`}
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

export function ShopPart({ shop }: { shop: Pick<Shop, 'name' | 'tagLetters' | 'hours' | 'people'> }) {
  const [name, setName] = useState(shop.name);
  const [letters, setLetters] = useState(shop.tagLetters);
  const [zone, setZone] = useState(shop.hours.timeZone);
  const [week, setWeek] = useState(shop.hours.week);
  const [people, setPeople] = useState(shop.people);
  const [fresh, setFresh] = useState('');
  const change = useShopChange();
  const isName = name !== shop.name;
  const isLetters = letters !== shop.tagLetters;
  const isZone = zone !== shop.hours.timeZone;
  const isWeek = JSON.stringify(week) !== JSON.stringify(shop.hours.week);
  const isPeople = JSON.stringify(people) !== JSON.stringify(shop.people);
  const changed = [
    isName && 'name',
    isLetters && 'letters of the tags',
    isZone && 'time zone',
    isWeek && 'hours',
    isPeople && 'people',
  ].filter((one) => one !== false);
  const add = (): void => {
    const trimmed = fresh.trim();
    if (trimmed === '' || people.includes(trimmed)) return;
    setPeople([...people, trimmed]);
    setFresh('');
  };
  return (
    <div>
      <label className="font-semibold">
        Name of the shop
        <input
          value={name}
          maxLength={80}
          onChange={(event) => setName(event.target.value)}
          className={`mt-1 w-full max-w-md font-normal ${BOX}`}
        />
      </label>
      <div className="mt-4 grid max-w-2xl gap-4 sm:grid-cols-2">
        <label className="font-semibold">
          Tags begin with
          <input
            value={letters}
            maxLength={6}
            autoComplete="off"
            onChange={(event) => setLetters(event.target.value.toUpperCase())}
            className={`reading mt-1 w-full font-normal uppercase ${BOX}`}
          />
        </label>
        <div className="font-semibold">
          <span aria-hidden>Time zone</span>
          <Combobox
            label="Time zone"
            className="mt-1 w-full"
            value={zone}
            choices={ZONES}
            empty="No zone is called so: try the largest town near you."
            onChoose={setZone}
          />
        </div>
      </div>
      <div className="mt-6 grid gap-6 lg:grid-cols-2">
        <section aria-labelledby="hours-title">
          <h2 id="hours-title" className="text-lg font-bold">
            Opening hours
          </h2>
          <p className="mb-2 text-soft">
            Plans and promises keep them ({zone}). Jobs under way keep those they began with.
          </p>
          <ul className="space-y-2">
            {WEEK.map(([index, day]) => (
              <DayRow
                key={day}
                name={day}
                opening={week[index] ?? null}
                onChange={(next) => setWeek(week.map((one, i) => (i === index ? next : one)))}
              />
            ))}
          </ul>
        </section>
        <section aria-labelledby="people-title">
          <h2 id="people-title" className="text-lg font-bold">
            People
          </h2>
          <p className="mb-2 text-soft">Who can be picked at the bench. Names on the record stay.</p>
          <ul className="flex flex-wrap gap-2">
            {people.map((person) => (
              <li key={person} className="flex items-center rounded-lg border-2 border-cork bg-card pl-4">
                {person}
                <button
                  type="button"
                  aria-label={`Take ${person} off the list`}
                  onClick={() => setPeople(people.filter((one) => one !== person))}
                  className="flex size-12 items-center justify-center text-soft hover:text-char"
                >
                  <X aria-hidden className="size-5" />
                </button>
              </li>
            ))}
          </ul>
          <form
            onSubmit={(event) => {
              event.preventDefault();
              add();
            }}
            className="mt-3 flex gap-2"
          >
            <input
              aria-label="Another person"
              placeholder="First name"
              value={fresh}
              maxLength={40}
              onChange={(event) => setFresh(event.target.value)}
              className={BOX}
            />
            <Button type="submit">Add</Button>
          </form>
        </section>
      </div>
      {changed.length > 0 && (
        <WhyBar
          summary={`Changed: ${changed.join(', ')}.`}
          problem={change.error}
          isPending={change.isPending}
          onSave={(why) =>
            change.mutate({
              why,
              ...(isName ? { name } : {}),
              ...(isLetters ? { tagLetters: letters } : {}),
              ...(isWeek || isZone ? { hours: { ...shop.hours, timeZone: zone, week } } : {}),
              ...(isPeople ? { people } : {}),
            })
          }
          onDrop={() => {
            setName(shop.name);
            setLetters(shop.tagLetters);
            setZone(shop.hours.timeZone);
            setWeek(shop.hours.week);
            setPeople(shop.people);
          }}
        />
      )}
    </div>
  );
}
