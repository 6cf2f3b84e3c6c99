/** What can still be changed once papers are out: an entry struck out, the ending taken back. Both want a reason. */
import { RotateCcw } from 'lucide-react';
import { useState, type FormEvent, type ReactNode } from 'react';
import type { Entry } from '@cork-ember/core/runsheet/entries/events.ts';
import { endingOf, type Job } from '@cork-ember/core/runsheet/log/fold.ts';
import type { HistoryEntry } from '@cork-ember/core/runsheet/log/history.ts';
import { placeText, SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import { sentenceOf } from '../api/client.ts';
import { useRecord } from '../api/record.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Choice } from '../ui/Choice.tsx';
import { TextBox } from '../ui/TextBox.tsx';
import { useFreePlaces } from './useFreePlaces.ts';

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
      <TextBox label="Why" value={why} onChange={setWhy} most={300} />
      <PapersOut />
      {problem !== '' && <Notice tone="stop">{problem}</Notice>}
      <div className="flex flex-wrap gap-3">
        <Button type="submit" tone="danger" className="min-h-14 flex-1">
          {verb}
        </Button>
        <Button className="min-h-14" onClick={onDone}>
          Leave it
        </Button>
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
    <Dialog onClose={onClose} title={`Strike out ${entry.place}`} said={entry.words}>
      <WhyForm
        job={job}
        verb="Strike it out"
        onDone={onClose}
        entryFor={(why) => ({
          kind: 'amended',
          payload: { changes: [{ replaces: entry.event.key }], why },
        })}
      />
    </Dialog>
  );
}

/** Takes the ending of a job back: it goes on where it stood before. */
export function Reopen({ job }: { readonly job: Job }) {
  const [isOpen, setOpen] = useState(false);
  const places = useFreePlaces();
  const [chosen, setChosen] = useState<number>();
  // Where it stood, where that is still free; a bay before the shelf.
  const usual = places.includes(job.state.bay)
    ? job.state.bay
    : (places.find((place) => place !== SHELF) ?? SHELF);
  const bay = chosen ?? usual;
  const ending = endingOf(job);
  if (!ending) return null;
  return (
    <>
      <Button className="min-h-14" onClick={() => setOpen(true)}>
        <RotateCcw aria-hidden className="size-5" /> Take the ending back
      </Button>
      <Dialog
        isOpen={isOpen}
        onClose={() => setOpen(false)}
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
          <Choice
            legend="It stands"
            kind="pill"
            options={places.map((place) => ({
              id: String(place),
              label: place === SHELF ? 'On the shelf' : placeText(place),
            }))}
            chosen={String(bay)}
            onChoose={(place) => setChosen(Number(place))}
          />
        </WhyForm>
      </Dialog>
    </>
  );
}
