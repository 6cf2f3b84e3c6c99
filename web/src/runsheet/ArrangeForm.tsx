/** What was agreed of a job, set anew with a reason: its promise, whose it is; or the job withdrawn, opened by mistake. */
import { useId, useState, type FormEvent } from 'react';
import type { Entry } from '@cork-ember/core/runsheet/entries/events.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { localText, momentOf } from '@cork-ember/core/clock/localTime.ts';
import { sentenceOf } from '../api/client.ts';
import { useRecord } from '../api/record.ts';
import { Button } from '../ui/Button.tsx';
import { MomentField } from '../ui/MomentField.tsx';
import { Notice } from '../ui/Notice.tsx';
import { TextBox } from '../ui/TextBox.tsx';
import { Field } from '../ui/Field.tsx';

/** Shorter is no reason. */
const LEAST_WHY = 8;

export interface ArrangeFormProps {
  readonly job: Job;
  readonly now: number;
  readonly onDone: () => void;
}

export function ArrangeForm({ job, now, onDone }: ArrangeFormProps) {
  const { battery, promisedAt, hours } = job.state.opened;
  const record = useRecord(job);
  const id = useId();
  const [owner, setOwner] = useState(battery.owner);
  const [promised, setPromised] = useState(localText(promisedAt, hours.timeZone));
  const [why, setWhy] = useState('');
  const [problem, setProblem] = useState('');
  const put = (entry: Entry): void => {
    if (why.trim().length < LEAST_WHY)
      return setProblem(`Say in a few words why, at least ${LEAST_WHY} letters; it stands on the record.`);
    record(entry).then(onDone, (error: unknown) => setProblem(sentenceOf(error)));
  };
  const save = (event: FormEvent): void => {
    event.preventDefault();
    const at = momentOf(promised, hours.timeZone);
    const isLater = !Number.isNaN(at) && Math.abs(at - promisedAt) >= 60_000;
    const isOther = owner.trim() !== battery.owner;
    if (!isLater && !isOther) return setProblem('Nothing is changed: give another promise or another owner.');
    put({
      kind: 'arranged',
      payload: {
        ...(isLater ? { promisedAt: at } : {}),
        ...(isOther ? { owner: owner.trim() } : {}),
        why: why.trim(),
      },
    });
  };
  return (
    <form onSubmit={save} noValidate className="mt-4 space-y-4">
      <Field id={`${id}-promised`} label="Promised">
        <MomentField id={`${id}-promised`} value={promised} now={now} hours={hours} onChange={setPromised} />
      </Field>
      <TextBox label="For" value={owner} onChange={setOwner} most={80} />
      <TextBox label="Why" value={why} onChange={setWhy} most={300} />
      {problem !== '' && <Notice tone="stop">{problem}</Notice>}
      <div className="flex flex-wrap gap-3">
        <Button type="submit" tone="go" className="min-h-14 flex-1">
          Save
        </Button>
        <Button
          tone="danger"
          className="min-h-14"
          onClick={() => put({ kind: 'withdrawn', payload: { reason: why.trim() } })}
        >
          Withdraw the job
        </Button>
      </div>
      <p className="text-sm text-soft">
        Withdrawn, it ends here and its bay is free; the record stays. For one that was opened by mistake.
      </p>
    </form>
  );
}
