/** The job's pictures, small; a tap opens one in full. */
import { useState, type FormEvent } from 'react';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { ask } from '../api/client.ts';
import { useMay } from '../api/session.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { Notice } from '../ui/Notice.tsx';
import { TextBox } from '../ui/TextBox.tsx';
import { useProblem } from '../ui/useProblem.ts';

type Photo = JobState['photos'][number];

export function Photos({ state }: { state: JobState }) {
  const [open, setOpen] = useState<Photo>();
  const [gone, setGone] = useState<ReadonlySet<string>>(new Set());
  if (state.photos.length === 0) return null;
  const isGone = (photo: string): void => setGone((before) => new Set([...before, photo]));
  return (
    <ul aria-label="Photos" className="mt-2 flex flex-wrap gap-2">
      {state.photos.map((one) => (
        <li key={one.photo}>
          {gone.has(one.photo) ? (
            <p className="grid size-16 place-items-center rounded-md border border-line text-center text-xs text-soft">
              not here any more
            </p>
          ) : (
            <button type="button" onClick={() => setOpen(one)} className="rounded-md">
              <img
                src={pathOf(state.job, one.photo)}
                alt={`${one.text}, by ${one.by}`}
                loading="lazy"
                onError={() => isGone(one.photo)}
                className="size-16 rounded-md border border-line object-cover"
              />
            </button>
          )}
        </li>
      ))}
      {open && (
        <OnePhoto
          job={state.job}
          photo={open}
          onGone={() => {
            isGone(open.photo);
            setOpen(undefined);
          }}
          onClose={() => setOpen(undefined)}
        />
      )}
    </ul>
  );
}

const pathOf = (job: string, photo: string): string => `/api/jobs/${job}/photos/${photo}`;

interface OnePhotoProps {
  readonly job: string;
  readonly photo: Photo;
  readonly onGone: () => void;
  readonly onClose: () => void;
}

function OnePhoto({ job, photo: { photo, text, by }, onGone, onClose }: OnePhotoProps) {
  const mayDelete = useMay('forget');
  const [isDeleting, setDeleting] = useState(false);
  const [why, setWhy] = useState('');
  const { problem, attempt } = useProblem();
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    const { went, failed } = attempt();
    ask(`${pathOf(job, photo)}/gone`, { why }).then(() => {
      went();
      onGone();
    }, failed);
  };
  return (
    <Dialog title={text} said={`Taken by ${by}.`} onClose={onClose}>
      <a href={pathOf(job, photo)} target="_blank" rel="noreferrer" title="In full">
        <img
          src={pathOf(job, photo)}
          alt={`${text}, by ${by}, in full`}
          className="mt-3 max-h-[55dvh] w-full rounded-lg object-contain"
        />
      </a>
      <div className="mt-4 flex flex-wrap gap-3">
        <Button onClick={onClose}>Close</Button>
        {mayDelete && !isDeleting && (
          <Button tone="quiet" onClick={() => setDeleting(true)}>
            Delete this picture
          </Button>
        )}
      </div>
      {isDeleting && (
        <form onSubmit={submit} className="mt-4 space-y-3">
          <TextBox
            label="Why it goes"
            most={400}
            value={why}
            onChange={setWhy}
            placeholder="shows a customer’s papers"
          />
          <p className="text-soft">Who deleted it, and why, stays under Setup, Who did what.</p>
          {problem !== '' && <Notice tone="stop">{problem}</Notice>}
          <Button type="submit" tone="danger" disabled={why.trim() === ''}>
            Delete for good
          </Button>
        </form>
      )}
    </Dialog>
  );
}
