/** What can still be changed once papers are out: an entry struck out, the ending taken back. Both want a reason. */
import { RotateCcw } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { useId, useState, type FormEvent, type ReactNode } from 'react';
import type { Entry } from '@cork-ember/core/runsheet/events.ts';
import { endingOf, type Job } from '@cork-ember/core/runsheet/fold.ts';
import type { HistoryEntry } from '@cork-ember/core/runsheet/history.ts';
import { placeText, SHELF } from '@cork-ember/core/runsheet/place.ts';
import { sentenceOf } from '../api/client.ts';
import { useOpenJobs, useShop } from '../api/queries.ts';
import { useRecord } from '../api/record.ts';
import { Button } from '../ui/Button.tsx';
import { DialogPane } from '../ui/DialogPane.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Options } from '../ui/Options.tsx';

/** Shorter is no reason. */
const LEAST_WHY = 8;

/** Said wherever a paper will come out again. */
export function PapersOut() {
  return (
    <Notice tone="caution">
      Its papers are out. They come out again as the next issue, which shows what stood before and why it was
      changed; the earlier issue is no longer valid.
    </Notice>
  );
}

function WhyForm({
  job,
  verb,
  entryFor,
  onDone,
  children,
}: {
  readonly job: Job;
  readonly verb: string;
  readonly entryFor: (why: string) => Entry;
  readonly onDone: () => void;
  readonly children?: ReactNode;
}) {
  const record = useRecord(job);
  const id = useId();
  const [why, setWhy] = useState('');
  const [problem, setProblem] = useState('');
  const save = (event: FormEvent): void => {
    event.preventDefault();
    const reason = why.trim();
    if (reason.length < LEAST_WHY)
      return setProblem(`Say in a few words why, at least ${LEAST_WHY} letters; it stands on the paper.`);
    record(entryFor(reason)).then(onDone, (error: unknown) => setProblem(sentenceOf(error)));
  };
  return (
    <form onSubmit={save} noValidate className="mt-4 space-y-4">
      {children}
      <div>
        <label htmlFor={id} className="font-medium">
          Why
        </label>
        <input
          id={id}
          value={why}
          maxLength={300}
          autoComplete="off"
          onChange={({ target }) => setWhy(target.value)}
          className="mt-1 block min-h-12 w-full rounded-lg border-2 border-cork bg-card px-3"
        />
      </div>
      <PapersOut />
      {problem !== '' && <Notice tone="stop">{problem}</Notice>}
      <div className="flex flex-wrap gap-3">
        <Button type="submit" tone="danger" className="min-h-14 flex-1">
          {verb}
        </Button>
        <Dialog.Close asChild>
          <Button className="min-h-14">Leave it</Button>
        </Dialog.Close>
      </div>
    </form>
  );
}

/** Takes an entry of an ended job out of what counts. */
export function StrikeOut({
  job,
  entry,
  onClose,
}: {
  readonly job: Job;
  readonly entry: HistoryEntry;
  readonly onClose: () => void;
}) {
  return (
    <Dialog.Root open onOpenChange={(isOpen) => !isOpen && onClose()}>
      <DialogPane title={`Strike out ${entry.place}`} said={entry.words}>
        <WhyForm
          job={job}
          verb="Strike it out"
          onDone={onClose}
          entryFor={(why) => ({
            kind: 'amended',
            payload: { changes: [{ replaces: entry.event.key }], why },
          })}
        />
      </DialogPane>
    </Dialog.Root>
  );
}

/** Bays that are free, its own first where it is one of them, and the shelf. */
function useFreePlaces({ state }: Job): readonly number[] {
  const { data: shop } = useShop();
  const { jobs } = useOpenJobs();
  const taken = new Set(jobs.map((one) => one.state.bay));
  const free = (shop?.bays ?? []).map(({ number }) => number).filter((number) => !taken.has(number));
  return [...free.filter((bay) => bay === state.bay), ...free.filter((bay) => bay !== state.bay), SHELF];
}

/** Takes the ending of a job back: it goes on where it stood before. */
export function Reopen({ job }: { readonly job: Job }) {
  const [isOpen, setOpen] = useState(false);
  const places = useFreePlaces(job);
  const [chosen, setChosen] = useState<number>();
  const bay = chosen ?? places[0] ?? SHELF;
  const ending = endingOf(job);
  if (!ending) return null;
  return (
    <Dialog.Root open={isOpen} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <Button className="min-h-14">
          <RotateCcw aria-hidden className="size-5" /> Take the ending back
        </Button>
      </Dialog.Trigger>
      <DialogPane
        title="Take the ending back"
        said="The job goes on at the step it ended with. What was sealed stays readable."
      >
        <WhyForm
          job={job}
          verb="Open it again"
          onDone={() => setOpen(false)}
          entryFor={(why) => ({ kind: 'reopened', payload: { ending: ending.key, bay, why } })}
        >
          <p className="font-medium">It stands</p>
          <Options
            legend="It stands"
            isPill
            options={places.map((place) => ({
              id: String(place),
              label: place === SHELF ? 'On the shelf' : placeText(place),
            }))}
            chosen={String(bay)}
            onChoose={(place) => setChosen(Number(place))}
          />
        </WhyForm>
      </DialogPane>
    </Dialog.Root>
  );
}
