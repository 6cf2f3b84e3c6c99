/** The way to what was agreed of a job. */
import { CalendarClock } from 'lucide-react';
import { useState } from 'react';
import type { Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { Dialog } from '../ui/Dialog.tsx';
import { later } from '../ui/later.tsx';
import type { ArrangeFormProps } from './ArrangeForm.tsx';

const ArrangeForm = later<ArrangeFormProps>(async () => (await import('./ArrangeForm.tsx')).ArrangeForm);

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
