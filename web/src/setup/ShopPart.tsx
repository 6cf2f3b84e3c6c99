/** The shop itself: its name, when it is open, who works in it. */
import { useState } from 'react';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { Link } from 'react-router';
import { useSession } from '../api/session.ts';
import { Button } from '../ui/Button.tsx';
import { Removable } from '../ui/Removable.tsx';
import { HoursFields } from './HoursFields.tsx';
import { IdentityFields } from './IdentityFields.tsx';
import { useShopChange } from './useShopChange.ts';
import { WhyBar } from './WhyBar.tsx';
import { box } from '../ui/box.ts';

type Part = Pick<Shop, 'name' | 'tagLetters' | 'hours' | 'people'>;

const CALLED: Readonly<Record<keyof Part, string>> = {
  name: 'name',
  tagLetters: 'letters of the tags',
  hours: 'hours',
  people: 'people',
};

/** What differs from how the shop is now. */
function changesOf(draft: Part, shop: Part): Partial<Part> {
  const changed = (Object.keys(CALLED) as (keyof Part)[]).filter(
    (key) => JSON.stringify(draft[key]) !== JSON.stringify(shop[key]),
  );
  return Object.fromEntries(changed.map((key) => [key, draft[key]]));
}

export function ShopPart({ shop }: { shop: Part }) {
  const [draft, setDraft] = useState(shop);
  const [fresh, setFresh] = useState('');
  const change = useShopChange();
  const isProven = (useSession()?.people.length ?? 0) > 0;
  const { name, tagLetters, hours, people } = draft;
  const changes = changesOf(draft, shop);
  const changed = Object.keys(changes).map((key) => CALLED[key as keyof Part]);
  const add = (): void => {
    const trimmed = fresh.trim();
    if (trimmed === '' || people.includes(trimmed)) return;
    setDraft({ ...draft, people: [...people, trimmed] });
    setFresh('');
  };
  return (
    <div>
      <IdentityFields
        identity={{ name, tagLetters, timeZone: hours.timeZone }}
        onChange={({ timeZone, ...called }) =>
          setDraft({ ...draft, ...called, hours: { ...hours, timeZone } })
        }
      />
      <div className="mt-6 grid grid-cols-[minmax(0,1fr)] gap-6 lg:grid-cols-[repeat(2,minmax(0,1fr))]">
        <section aria-labelledby="hours-title">
          <h2 id="hours-title" className="text-lg font-bold">
            Opening hours
          </h2>
          <p className="mb-2 text-soft">
            Plans and promises keep them ({hours.timeZone}). Jobs under way keep those they began with.
          </p>
          <HoursFields hours={hours} onChange={(next) => setDraft({ ...draft, hours: next })} />
        </section>
        <section aria-labelledby="people-title">
          <h2 id="people-title" className="text-lg font-bold">
            People
          </h2>
          {isProven ? (
            <p className="text-soft">
              People have PINs here:{' '}
              <Link to="/setup?part=people" className="text-verdigris underline underline-offset-4">
                who works here
              </Link>{' '}
              stands by itself.
            </p>
          ) : (
            <>
              <p className="mb-2 text-soft">Who can be picked at the bench. Names on the record stay.</p>
              <ul className="flex flex-wrap gap-2">
                {people.map((person) => (
                  <Removable
                    key={person}
                    text={person}
                    removeLabel={`Take ${person} off the list`}
                    onRemove={() => setDraft({ ...draft, people: people.filter((one) => one !== person) })}
                  />
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
                  className={box({ fit: 'inline', className: 'block' })}
                />
                <Button type="submit">Add</Button>
              </form>
            </>
          )}
        </section>
      </div>
      {changed.length > 0 && (
        <WhyBar
          summary={`Changed: ${changed.join(', ')}.`}
          problem={change.error}
          isPending={change.isPending}
          onSave={(why) => change.mutate({ why, ...changes })}
          onDrop={() => setDraft(shop)}
        />
      )}
    </div>
  );
}
