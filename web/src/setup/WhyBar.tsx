/** The foot of a part that was changed: how much, why, and the button that puts it in force. */
import { useEffect, useState, type FormEvent } from 'react';
import { sentenceOf } from '../api/client.ts';
import { Button } from '../ui/Button.tsx';
import { useKeep } from './Held.tsx';
import { box } from '../ui/box.ts';

interface WhyBarProps {
  readonly summary: string;
  readonly problem: unknown;
  readonly isPending: boolean;
  readonly onSave: (why: string) => void;
  readonly onDrop: () => void;
}

export function WhyBar({ summary, problem, isPending, onSave, onDrop }: WhyBarProps) {
  const [why, setWhy] = useState('');
  const keep = useKeep();
  // As long as this stands there, something is changed and not saved.
  useEffect(() => {
    keep(true);
    return () => keep(false);
  }, [keep]);
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    onSave(why);
  };
  return (
    <form
      onSubmit={submit}
      noValidate
      className="sticky bottom-0 mt-5 flex flex-wrap items-end gap-3 rounded-t-xl border-2 border-b-0 border-cork bg-card p-4 shadow-lg"
    >
      <label className="min-w-0 flex-1 basis-56">
        <span className="font-medium">{summary} Why?</span>
        <input
          value={why}
          maxLength={300}
          onChange={(event) => setWhy(event.target.value)}
          className={box()}
        />
        {problem !== null && (
          <span role="alert" className="mt-1 block text-clay">
            {sentenceOf(problem)}
          </span>
        )}
      </label>
      <Button type="submit" tone="go" disabled={isPending}>
        Put in force for new jobs
      </Button>
      <Button onClick={onDrop}>Leave as it was</Button>
    </form>
  );
}
