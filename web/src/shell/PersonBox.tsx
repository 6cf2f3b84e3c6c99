/** Who is at the bench. */
import type { FormEvent } from 'react';
import { usePerson } from '../api/person.ts';
import { Button } from '../ui/Button.tsx';
import { Popup } from '../ui/Popup.tsx';
import { box } from '../ui/box.ts';

export function PersonBox({ people }: { people: readonly string[] }) {
  const [person, setPerson] = usePerson();
  const choose = (name: string, close: () => void): void => {
    if (name.trim() === '') return;
    setPerson(name.trim().slice(0, 40));
    close();
  };
  const submit = (event: FormEvent<HTMLFormElement>, close: () => void): void => {
    event.preventDefault();
    choose(String(new FormData(event.currentTarget).get('name') ?? ''), close);
  };
  return (
    <Popup
      name="Who is at the bench"
      align="end"
      className="w-64"
      openerClass="flex min-w-24 shrink-0 flex-col items-end justify-center bg-black/35 px-4 text-white max-sm:w-16 max-sm:min-w-0 max-sm:px-1.5"
      opener={
        <>
          <span className="max-w-full truncate font-medium max-sm:text-sm">
            {person === '' ? 'Who is it?' : person}
          </span>
          <span className="text-xs text-band-soft max-sm:sr-only">at the bench</span>
        </>
      }
    >
      {(close) => (
        <>
          <p className="font-semibold">Who is at the bench?</p>
          <div className="mt-3 grid gap-2">
            {people.map((name) => (
              <Button key={name} tone={name === person ? 'go' : 'plain'} onClick={() => choose(name, close)}>
                {name}
              </Button>
            ))}
            <form onSubmit={(event) => submit(event, close)} className="flex gap-2">
              <input
                name="name"
                aria-label="Another name"
                placeholder="Another name"
                maxLength={40}
                className={box({ fit: 'inline', className: 'flex-1' })}
              />
              <Button type="submit">Set</Button>
            </form>
          </div>
        </>
      )}
    </Popup>
  );
}
