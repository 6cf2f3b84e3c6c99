/** The shop itself: its name, when it is open, who works in it. */
import { useState } from 'react';
import { X } from 'lucide-react';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { Button } from '../ui/Button.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { HoursFields } from './HoursFields.tsx';
import { useShopChange } from './useShopChange.ts';
import { WhyBar } from './WhyBar.tsx';
import { ZONES } from './zones.ts';

const BOX = 'block min-h-12 rounded-lg border-2 border-cork bg-card px-3';

export function ShopPart({ shop }: { shop: Pick<Shop, 'name' | 'tagLetters' | 'hours' | 'people'> }) {
  const [name, setName] = useState(shop.name);
  const [letters, setLetters] = useState(shop.tagLetters);
  const [zone, setZone] = useState(shop.hours.timeZone);
  const [hours, setHours] = useState(shop.hours);
  const [people, setPeople] = useState(shop.people);
  const [fresh, setFresh] = useState('');
  const change = useShopChange();
  const isName = name !== shop.name;
  const isLetters = letters !== shop.tagLetters;
  const isZone = zone !== shop.hours.timeZone;
  const isHours = JSON.stringify(hours) !== JSON.stringify(shop.hours);
  const isPeople = JSON.stringify(people) !== JSON.stringify(shop.people);
  const changed = [
    isName && 'name',
    isLetters && 'letters of the tags',
    isZone && 'time zone',
    isHours && 'hours',
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
          <HoursFields hours={hours} onChange={setHours} />
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
              ...(isHours || isZone ? { hours: { ...hours, timeZone: zone } } : {}),
              ...(isPeople ? { people } : {}),
            })
          }
          onDrop={() => {
            setName(shop.name);
            setLetters(shop.tagLetters);
            setZone(shop.hours.timeZone);
            setHours(shop.hours);
            setPeople(shop.people);
          }}
        />
      )}
    </div>
  );
}
