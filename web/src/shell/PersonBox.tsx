/** Who is at the bench. */
import { Popover } from 'radix-ui';
import { useState, type FormEvent } from 'react';
import { usePerson } from '../api/person.ts';
import { Button } from '../ui/Button.tsx';
import { PopoverPane } from '../ui/PopoverPane.tsx';

export function PersonBox({ people }: { people: readonly string[] }) {
  const [person, setPerson] = usePerson();
  const [isOpen, setIsOpen] = useState(false);
  const choose = (name: string): void => {
    if (name.trim() === '') return;
    setPerson(name.trim().slice(0, 40));
    setIsOpen(false);
  };
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    choose(String(new FormData(event.currentTarget).get('name') ?? ''));
  };
  return (
    <Popover.Root open={isOpen} onOpenChange={setIsOpen}>
      <Popover.Trigger className="flex min-w-24 shrink-0 flex-col items-end justify-center bg-black/35 px-4 text-white max-sm:w-16 max-sm:min-w-0 max-sm:px-1.5">
        <span className="max-w-full truncate font-medium max-sm:text-sm">
          {person === '' ? 'Who is it?' : person}
        </span>
        <span className="text-xs text-band-soft max-sm:sr-only">at the bench</span>
      </Popover.Trigger>
      <PopoverPane name="Who is at the bench" align="end" className="w-64">
        <p className="font-semibold">Who is at the bench?</p>
        <div className="mt-3 grid gap-2">
          {people.map((name) => (
            <Button key={name} tone={name === person ? 'go' : 'plain'} onClick={() => choose(name)}>
              {name}
            </Button>
          ))}
          <form onSubmit={submit} className="flex gap-2">
            <input
              name="name"
              aria-label="Another name"
              placeholder="Another name"
              maxLength={40}
              className="min-h-12 min-w-0 flex-1 rounded-lg border-2 border-cork bg-card px-3"
            />
            <Button type="submit">Set</Button>
          </form>
        </div>
      </PopoverPane>
    </Popover.Root>
  );
}
