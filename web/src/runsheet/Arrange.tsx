/** What was agreed of a job, set anew with a reason: its promise, whose it is; or the job withdrawn, opened by mistake. */
import { CalendarClock } from 'lucide-react';
import { useId, useState, type FormEvent } from 'react';
import type { Entry } from '@cork-ember/core/runsheet/entries/events.ts';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { localText, momentOf } from '@cork-ember/core/clock/localTime.ts';
import { sentenceOf } from '../api/client.ts';
import { useRecord } from '../api/record.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { MomentField } from '../ui/MomentField.tsx';
import { Notice } from '../ui/Notice.tsx';

const BOX = 'mt-1 block min-h-12 w-full rounded-lg border-2 border-cork bg-card px-3';
/** Shorter is no reason. */
const LEAST_WHY = 8;

function ArrangeForm({ job, now, onDone }: { job: Job; now: number; onDone: () => void }) {
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
      <div>
        <label htmlFor={`${id}-promised`} className="font-medium">
          Promised
        </label>
        <MomentField id={`${id}-promised`} value={promised} now={now} hours={hours} onChange={setPromised} />
      </div>
      <div>
        <label htmlFor={`${id}-owner`} className="font-medium">
          For
        </label>
        <input
          id={`${id}-owner`}
          value={owner}
          maxLength={80}
          autoComplete="off"
          onChange={({ target }) => setOwner(target.value)}
          className={BOX}
        />
      </div>
      <div>
        <label htmlFor={`${id}-why`} className="font-medium">
          Why
        </label>
        <input
          id={`${id}-why`}
          value={why}
          maxLength={300}
          autoComplete="off"
          onChange={({ target }) => setWhy(target.value)}
          className={BOX}
        />
      </div>
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

export function Arrange({ job, now }: { job: Job; now: number }) {
  const [isOpen, setIsOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        onClick={() => setIsOpen(true)}
        className="inline-flex min-h-12 items-baseline gap-1 px-2 pt-3 text-verdigris underline underline-offset-4"
      >
        <CalendarClock aria-hidden className="size-5 self-start" />
        Change
      </button>
      <Dialog
        isOpen={isOpen}
        onClose={() => setIsOpen(false)}
        title={`${job.state.opened.battery.tag}: what was agreed`}
        said="The change stands in the record, with who, when and why."
      >
        <ArrangeForm job={job} now={now} onDone={() => setIsOpen(false)} />
      </Dialog>
    </>
  );
}
