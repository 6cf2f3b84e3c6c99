/** What came in under somebody's name while they were not at the browser: theirs, or not. */
import { useState } from 'react';
import type { Claim, Person } from '@cork-ember/core/access/people.ts';
import { settleClaims, useClaims } from '../api/session.ts';
import { Button } from '../ui/Button.tsx';
import { later } from '../ui/later.tsx';
import type { ClaimsDialogProps } from './ClaimsDialog.tsx';
import { Strip } from './Strip.tsx';

const ClaimsDialog = later<ClaimsDialogProps>(async () => (await import('./ClaimsDialog.tsx')).ClaimsDialog);

interface ClaimsProps {
  readonly person: Person;
  readonly timeZone: string;
}

export function Claims({ person, timeZone }: ClaimsProps) {
  const all = useClaims();
  const [isOpen, setOpen] = useState(false);
  const mine = all.filter(({ by }) => by === person.name);
  // One who works here no more says nothing of theirs: a lead does.
  const meant: readonly Claim[] = person.role === 'lead' ? all : mine;
  if (meant.length === 0) return null;
  const what = meant.length === 1 ? 'One entry' : `${meant.length} entries`;
  const whose = mine.length === meant.length ? 'your name' : 'a name nobody proved';
  return (
    <Strip asks="Entries to be confirmed">
      <span className="flex-1">
        {what} came in under {whose} while somebody else was at the bench.
      </span>
      <Button onClick={() => setOpen(true)}>Look at {meant.length === 1 ? 'it' : 'them'}</Button>
      {isOpen && (
        <ClaimsDialog
          claims={meant}
          person={person}
          timeZone={timeZone}
          onSettle={settleClaims}
          onClose={() => setOpen(false)}
        />
      )}
    </Strip>
  );
}
