/** A new PIN of one's own, against the one of now. */
import { useState, type FormEvent } from 'react';
import { PIN_HINT } from '@cork-ember/core/access/pins.ts';
import { changePin } from '../api/session.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { say } from '../ui/say.ts';
import { Secret } from '../ui/Secret.tsx';
import { useProblem } from '../ui/useProblem.ts';

interface OwnPinProps {
  readonly onDone: () => void;
  readonly onBack: () => void;
}

export function OwnPin({ onDone, onBack }: OwnPinProps) {
  const [old, setOld] = useState('');
  const [pin, setPin] = useState('');
  const { problem, attempt } = useProblem();
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    const { went, failed } = attempt();
    changePin(old, pin).then(() => {
      went();
      say('The new PIN is in force; other browsers ask for it.');
      onDone();
    }, failed);
  };
  return (
    <form onSubmit={submit} className="space-y-3">
      <Secret label="My PIN of now" isNew={false} value={old} onChange={setOld} />
      <Secret label="My new PIN" value={pin} onChange={setPin} hint={PIN_HINT} />
      {problem !== '' && <Notice tone="stop">{problem}</Notice>}
      <Button type="submit" tone="go" className="min-h-14 w-full" disabled={old === '' || pin === ''}>
        Change it
      </Button>
      <Button tone="quiet" className="w-full" onClick={onBack}>
        Back
      </Button>
    </form>
  );
}
