/** Who is at the bench: by a name that is said, or, where people have PINs, by one that is proven. */
import { IdCard, KeyRound, LockKeyhole } from 'lucide-react';
import { useState, type FormEvent } from 'react';
import type { SessionAnswer } from '@cork-ember/core/access/people.ts';
import { ROLE_WORDS } from '@cork-ember/core/access/rights.ts';
import { usePerson } from '../api/person.ts';
import { leaveBench, signIn } from '../api/session.ts';
import { Button } from '../ui/Button.tsx';
import { Popup } from '../ui/Popup.tsx';
import { box } from '../ui/box.ts';
import { OwnPin } from './OwnPin.tsx';
import { PinPad } from './PinPad.tsx';

interface PersonBoxProps {
  /** Names that are said, in a shop without PINs. */
  readonly people: readonly string[];
  readonly session: SessionAnswer | undefined;
}

export function PersonBox({ people, session }: PersonBoxProps) {
  const [person] = usePerson();
  const isProven = session !== undefined && (session.mode === 'held' || session.people.length > 0);
  return (
    <Popup
      name="Who is at the bench"
      align="end"
      className="w-72"
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
      {(close) =>
        isProven ? <Proven session={session} close={close} /> : <Said people={people} close={close} />
      }
    </Popup>
  );
}

function Proven({ session, close }: { session: SessionAnswer; close: () => void }) {
  const [chosen, setChosen] = useState<SessionAnswer['people'][number]>();
  const [isChanging, setChanging] = useState(false);
  if (chosen)
    return (
      <PinPad
        name={chosen.name}
        shown={chosen.pin}
        onBack={() => setChosen(undefined)}
        onPin={async (pin) => {
          await signIn(chosen.id, pin);
          close();
        }}
      />
    );
  if (isChanging) return <OwnPin onDone={close} onBack={() => setChanging(false)} />;
  return (
    <>
      <p className="font-semibold">Who is at the bench?</p>
      <div className="mt-3 grid gap-2">
        {session.people.map((one) => (
          <Button
            key={one.id}
            tone={one.id === session.person?.id ? 'go' : 'plain'}
            className="min-h-14"
            onClick={() => setChosen(one)}
          >
            <span className="min-w-0 flex-1 truncate text-left">{one.name}</span>
            <span className="text-sm font-normal">{ROLE_WORDS[one.role].name}</span>
          </Button>
        ))}
        {session.people.length === 0 && (
          <p className="text-soft">This browser is not one of the shop’s: a lead enrols it.</p>
        )}
        {session.people.length > 0 && (
          <p className="flex items-center gap-2 text-sm text-soft">
            <IdCard aria-hidden className="size-5 shrink-0" /> or scan your badge, on any page
          </p>
        )}
        {session.person && (
          <>
            <Button onClick={() => void leaveBench().then(close)}>
              <LockKeyhole aria-hidden className="size-5" /> Leave the bench
            </Button>
            <Button tone="quiet" onClick={() => setChanging(true)}>
              <KeyRound aria-hidden className="size-5" /> Change my PIN
            </Button>
          </>
        )}
      </div>
    </>
  );
}

function Said({ people, close }: { people: readonly string[]; close: () => void }) {
  const [person, setPerson] = usePerson();
  const choose = (name: string): void => {
    if (name.trim() === '') return;
    setPerson(name.trim().slice(0, 40));
    close();
  };
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    choose(String(new FormData(event.currentTarget).get('name') ?? ''));
  };
  return (
    <>
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
            className={box({ fit: 'inline', className: 'flex-1' })}
          />
          <Button type="submit">Set</Button>
        </form>
      </div>
    </>
  );
}
