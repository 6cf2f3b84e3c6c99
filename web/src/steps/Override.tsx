import { useState, type FormEvent } from 'react';
import { useMay } from '../api/session.ts';
import { Button } from '../ui/Button.tsx';
import type { StepActions } from './StepCard.tsx';
import { focusQuietly } from '../ui/focusQuietly.ts';
import { box } from '../ui/box.ts';

/** Passing over what the run sheet asks: only with a reason, which stays on the record. */
export function Override({
  label,
  stepKey,
  actions,
  kind = 'overridden',
}: {
  label: string;
  stepKey: string;
  actions: StepActions;
  /** A step is passed over, or the whole route is left. */
  kind?: 'overridden' | 'routeLeft';
}) {
  const [isOpen, setIsOpen] = useState(false);
  const [reason, setReason] = useState('');
  const may = useMay(kind === 'overridden' ? 'overrideRule' : 'record');
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    await actions.record({ kind, payload: { step: stepKey, reason } });
  };
  if (!isOpen)
    return (
      <div className="border-t border-line px-5 py-2">
        <Button tone="quiet" onClick={() => setIsOpen(true)}>
          {label} …
        </Button>
      </div>
    );
  return (
    <form onSubmit={(event) => void submit(event)} className="space-y-3 border-t border-line px-5 py-4">
      <label className="block font-medium" htmlFor={`${kind}-reason`}>
        Why? It stands on the record and on the certificate.
      </label>
      <textarea
        id={`${kind}-reason`}
        ref={focusQuietly}
        rows={2}
        maxLength={300}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        className={box({ className: 'py-3' })}
      />
      {!may && <p className="text-soft">A lead does this: come to the bench with a lead’s PIN first.</p>}
      <div className="flex gap-3">
        <Button tone="danger" type="submit">
          Record and go on
        </Button>
        <Button onClick={() => setIsOpen(false)}>Wait</Button>
      </div>
    </form>
  );
}
