/** Who works here with which PIN, which browsers are the shop's, and how soon one locks. */
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import type {
  Badge,
  EnrolmentCode,
  PersonKept,
  SessionAnswer,
  Tablet,
} from '@cork-ember/core/access/people.ts';
import { PIN_HINT } from '@cork-ember/core/access/pins.ts';
import { ROLE_WORDS, ROLES, type Role } from '@cork-ember/core/access/rights.ts';
import { dayText } from '@cork-ember/core/clock/clockText.ts';
import { ask, revoke } from '../api/client.ts';
import { shopNow } from '../api/clock.ts';
import { queryClient } from '../api/queries.ts';
import { refreshSession, useSession } from '../api/session.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Notice } from '../ui/Notice.tsx';
import { say } from '../ui/say.ts';
import { Secret } from '../ui/Secret.tsx';
import { TextBox } from '../ui/TextBox.tsx';
import { Tick } from '../ui/Tick.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { box } from '../ui/box.ts';
import { useProblem } from '../ui/useProblem.ts';

const PEOPLE = ['people'] as const;
const TABLETS = ['tablets'] as const;
const ROLE_CHOICES = ROLES.map((id) => ({ id, label: ROLE_WORDS[id].name }));

export function PeoplePart({ timeZone }: { timeZone: string }) {
  const session = useSession();
  const people = useQuery({ queryKey: PEOPLE, queryFn: () => ask<readonly PersonKept[]>('/api/people') });
  if (!session || !people.data) return <Waiting on={[people]} />;
  const isFirst = people.data.length === 0;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-8 lg:grid-cols-[repeat(2,minmax(0,1fr))]">
      <div className="space-y-6">
        {isFirst && (
          <Notice tone="caution">
            <p>
              Nobody has a PIN yet: names are said, not proven, and nothing is recorded over the network. The
              first who gets one leads the shop.
            </p>
          </Notice>
        )}
        {!isFirst && <Working people={people.data} />}
        <Somebody isFirst={isFirst} />
      </div>
      {!isFirst && (
        <div className="space-y-6">
          <Tablets timeZone={timeZone} />
          <Locking session={session} />
        </div>
      )}
    </div>
  );
}

function took(people: readonly PersonKept[]): void {
  queryClient.setQueryData(PEOPLE, people);
  refreshSession();
}

function Working({ people }: { people: readonly PersonKept[] }) {
  const [chosen, setChosen] = useState<string>();
  const person = people.find(({ id }) => id === chosen);
  return (
    <section aria-labelledby="working-title">
      <h2 id="working-title" className="text-lg font-bold">
        Who works here
      </h2>
      <ul>
        {people.map(({ id, name, role, isLocked, hasPassphrase, hasBadge }) => (
          <li key={id} className="flex items-center gap-3 border-b border-line py-2">
            <div className="min-w-0 flex-1">
              <p className="truncate font-medium">{name}</p>
              <p className={`text-sm ${isLocked ? 'text-clay' : 'text-soft'}`}>
                {[
                  ROLE_WORDS[role].name,
                  ...(isLocked ? ['locked after wrong PINs'] : []),
                  ...(hasBadge ? ['has a badge'] : []),
                  ...(hasPassphrase ? ['from anywhere by passphrase'] : []),
                ].join(', ')}
              </p>
            </div>
            <Button aria-label={`Change ${name}`} onClick={() => setChosen(id)}>
              Change
            </Button>
          </li>
        ))}
      </ul>
      {person && <ChangePerson person={person} onClose={() => setChosen(undefined)} />}
    </section>
  );
}

function ChangePerson({ person, onClose }: { person: PersonKept; onClose: () => void }) {
  const { id, name, isLocked, hasBadge } = person;
  const [given, setGiven] = useState<Badge>();
  const [role, setRole] = useState(person.role);
  const [pin, setPin] = useState('');
  const [passphrase, setPassphrase] = useState('');
  const { problem, attempt } = useProblem();
  const change = (what: object, done: string): void => {
    const { went, failed } = attempt();
    ask<readonly PersonKept[]>(`/api/people/${id}`, what).then((people) => {
      went();
      took(people);
      say(done);
      onClose();
    }, failed);
  };
  const giveBadge = (): void => {
    const { went, failed } = attempt();
    ask<Badge>(`/api/people/${id}/badge`, {}).then((badge) => {
      went();
      setGiven(badge);
      void queryClient.invalidateQueries({ queryKey: PEOPLE });
    }, failed);
  };
  if (given) return <BadgeShown badge={given} onClose={onClose} />;
  const asked = {
    ...(role === person.role ? {} : { role }),
    ...(pin === '' ? {} : { pin }),
    ...(passphrase === '' ? {} : { passphrase }),
  };
  return (
    <Dialog
      title={name}
      said="A new role, PIN or passphrase ends what was begun with the old one."
      onClose={onClose}
    >
      <form
        className="mt-4 space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          change(asked, `${name}: changed.`);
        }}
      >
        {isLocked && (
          <Notice tone="stop">
            <p>Locked after wrong PINs. Ask {name} whether they were theirs.</p>
            <Button onClick={() => change({ unlock: true }, `${name} may try again.`)}>Unlock</Button>
          </Notice>
        )}
        <Choice legend="Role" isNamed options={ROLE_CHOICES} chosen={role} onChoose={setRole} />
        <p className="text-soft">{ROLE_WORDS[role].does}</p>
        <Secret label="New PIN" value={pin} onChange={setPin} />
        {role === 'lead' && <Secret label="New passphrase" value={passphrase} onChange={setPassphrase} />}
        {problem !== '' && <Notice tone="stop">{problem}</Notice>}
        <div className="flex flex-wrap gap-3">
          <Button type="submit" tone="go" disabled={Object.keys(asked).length === 0}>
            Change
          </Button>
          <Button onClick={giveBadge}>{hasBadge ? 'Another badge' : 'Make a badge'}</Button>
          {hasBadge && (
            <Button onClick={() => change({ badge: false }, `${name}’s badge opens nothing any more.`)}>
              Badge is lost
            </Button>
          )}
          <Button tone="danger" onClick={() => change({ gone: true }, `${name} works here no more.`)}>
            Works here no more
          </Button>
          <Button tone="quiet" onClick={onClose}>
            Close
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** Once: what stands on it is kept nowhere. */
function BadgeShown({ badge: { name, code, picture }, onClose }: { badge: Badge; onClose: () => void }) {
  return (
    <Dialog
      title={`Badge of ${name}`}
      said="Print it now: it is shown once. Any scanner reads it. Whoever holds it does what the bench does at a browser of the shop; what only a lead may do asks for the PIN."
      onClose={onClose}
    >
      <div className="badge-sheet mt-4 grid w-64 justify-items-center gap-2 rounded-lg bg-white p-4 text-black">
        <img
          src={`data:image/svg+xml;utf8,${encodeURIComponent(picture)}`}
          alt={`Code ${code}`}
          className="size-40"
        />
        <p className="text-xl font-bold">{name}</p>
      </div>
      <div className="mt-4 flex flex-wrap gap-3">
        <Button tone="go" onClick={() => window.print()}>
          Print it
        </Button>
        <Button tone="quiet" onClick={onClose}>
          Done
        </Button>
      </div>
    </Dialog>
  );
}

function Somebody({ isFirst }: { isFirst: boolean }) {
  const [name, setName] = useState('');
  const [chosen, setRole] = useState<Role>('bench');
  const [pin, setPin] = useState('');
  const [passphrase, setPassphrase] = useState('');
  const { problem, attempt } = useProblem();
  const role = isFirst ? 'lead' : chosen;
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    const { went, failed } = attempt();
    const person = { name, role, pin, ...(role === 'lead' && passphrase !== '' ? { passphrase } : {}) };
    ask<readonly PersonKept[]>('/api/people', person).then((people) => {
      went();
      took(people);
      say(`${name} works here now.`);
      for (const clear of [setName, setPin, setPassphrase]) clear('');
    }, failed);
  };
  return (
    <section aria-labelledby="somebody-title">
      <h2 id="somebody-title" className="text-lg font-bold">
        {isFirst ? 'Who leads the shop' : 'Somebody new'}
      </h2>
      <form onSubmit={submit} className="mt-2 max-w-md space-y-3">
        <TextBox label="Name" value={name} onChange={setName} placeholder="First name" />
        {!isFirst && <Choice legend="Role" isNamed options={ROLE_CHOICES} chosen={role} onChoose={setRole} />}
        <p className="text-soft">{ROLE_WORDS[role].does}</p>
        <Secret label="PIN" value={pin} onChange={setPin} hint={PIN_HINT} />
        {role === 'lead' && (
          <Secret
            label="Passphrase"
            value={passphrase}
            onChange={setPassphrase}
            hint="12 letters or more, to come in from a browser that is not the shop’s. Without one there is no way in from there."
          />
        )}
        {problem !== '' && <Notice tone="stop">{problem}</Notice>}
        <Button type="submit" tone="go" className="min-h-14" disabled={name.trim() === '' || pin === ''}>
          {isFirst ? 'Lead this shop' : 'Add'}
        </Button>
      </form>
    </section>
  );
}

function Tablets({ timeZone }: { timeZone: string }) {
  const tablets = useQuery({ queryKey: TABLETS, queryFn: () => ask<readonly Tablet[]>('/api/tablets') });
  const [given, setGiven] = useState<EnrolmentCode>();
  const { problem, attempt } = useProblem();
  const refresh = (): Promise<void> => queryClient.invalidateQueries({ queryKey: TABLETS });
  const make = useMutation({
    mutationFn: () => ask<EnrolmentCode>('/api/tablets/codes', {}),
    onSuccess: setGiven,
  });
  const letGo = (id: string): void => {
    const { went, failed } = attempt();
    revoke(`/api/tablets/${id}`).then(() => {
      went();
      void refresh();
    }, failed);
  };
  return (
    <section aria-labelledby="tablets-title">
      <h2 id="tablets-title" className="text-lg font-bold">
        Browsers of the shop
      </h2>
      <p className="text-soft">
        Each is let in once, by a code that is good for one browser and ten minutes.
      </p>
      <ul>
        {(tablets.data ?? []).map(({ id, name, at, by }) => (
          <li key={id} className="flex items-center gap-3 border-b border-line py-2">
            <div className="min-w-0 flex-1">
              <p className="truncate font-medium">{name}</p>
              <p className="text-sm text-soft">
                since {dayText(at, shopNow(), timeZone)}, let in by {by}
              </p>
            </div>
            <Button aria-label={`Let ${name} go`} onClick={() => letGo(id)}>
              Let go
            </Button>
          </li>
        ))}
      </ul>
      {problem !== '' && <Notice tone="stop">{problem}</Notice>}
      <Button className="mt-3 min-h-14" disabled={make.isPending} onClick={() => make.mutate()}>
        Let a browser in
      </Button>
      {given && (
        <Dialog
          title="Let a browser in"
          said={`Hold its camera to the picture, or open this shop there and type the code. Good for ${given.forMin} min, once.`}
          onClose={() => {
            setGiven(undefined);
            void refresh();
          }}
        >
          <div className="mt-4 grid justify-items-center gap-3">
            <img
              src={`data:image/svg+xml;utf8,${encodeURIComponent(given.picture)}`}
              alt="The code, for a camera"
              className="size-56 rounded-lg bg-white p-2"
            />
            <p className="reading text-2xl tracking-widest select-all">{given.code}</p>
            <p className="reading text-sm break-all text-soft">{given.url}</p>
          </div>
        </Dialog>
      )}
    </section>
  );
}

function Locking({ session }: { session: SessionAnswer }) {
  const [minutes, setMinutes] = useState(String(session.locksAfterMin));
  const [locksOnLeaving, setOnLeaving] = useState(session.locksOnLeaving);
  const { problem, attempt } = useProblem();
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    const { went, failed } = attempt();
    ask('/api/access', { locksAfterMin: Number(minutes), locksOnLeaving }).then(() => {
      went();
      refreshSession();
      say('In force on every browser.');
    }, failed);
  };
  return (
    <section aria-labelledby="locking-title">
      <h2 id="locking-title" className="text-lg font-bold">
        Locking
      </h2>
      <form onSubmit={submit} className="flex flex-wrap items-end gap-3">
        <label className="font-medium">
          Nobody is at the bench any more after, min
          <input
            inputMode="numeric"
            value={minutes}
            onChange={(event) => setMinutes(event.target.value)}
            className={box({ className: 'reading' })}
          />
        </label>
        <Tick
          className="w-full"
          label="And as soon as a battery’s run sheet is left"
          isOn={locksOnLeaving}
          onChange={setOnLeaving}
        />
        <Button
          type="submit"
          disabled={minutes === String(session.locksAfterMin) && locksOnLeaving === session.locksOnLeaving}
        >
          Set
        </Button>
      </form>
      {problem !== '' && <Notice tone="stop">{problem}</Notice>}
    </section>
  );
}
