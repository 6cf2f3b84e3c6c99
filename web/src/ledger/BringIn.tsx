/** A job that another shop gave out with its battery: checked entry by entry and seal by seal, and taken in as it was recorded. */
import { PackageOpen } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { JobAnswer } from '@cork-ember/core/contract/answers.ts';
import { askWithFile } from '../api/client.ts';
import { LISTS, queryClient } from '../api/queries.ts';
import { useMay } from '../api/session.ts';
import { FileButton } from '../ui/FileButton.tsx';
import { Notice } from '../ui/Notice.tsx';
import { useProblem } from '../ui/useProblem.ts';

/** The battery a job is of. */
function tagOf({ events }: JobAnswer): string {
  const [opened] = events;
  return opened?.kind === 'opened' ? opened.payload.battery.tag : '';
}

export function BringIn() {
  const mayBring = useMay('changeShop');
  const [tag, setTag] = useState('');
  const { problem, attempt } = useProblem();
  const bring = (file: File | undefined): void => {
    if (!file) return;
    const { went, failed } = attempt();
    setTag('');
    askWithFile<JobAnswer>(
      '/api/jobs/import',
      new File([file], file.name, { type: 'application/json' }),
    ).then((answer) => {
      went();
      setTag(tagOf(answer));
      for (const queryKey of LISTS) void queryClient.invalidateQueries({ queryKey });
    }, failed);
  };
  return (
    <>
      <FileButton
        name="Job of another shop"
        accept=".json,application/json"
        isDisabled={!mayBring}
        onFiles={([file]) => bring(file)}
        className="min-h-14"
      >
        <PackageOpen aria-hidden className="size-5" /> Bring in a battery’s job
      </FileButton>
      {problem !== '' && <Notice tone="stop">{problem}</Notice>}
      {tag !== '' && (
        <p role="status" className="self-center">
          Taken in as it was recorded:{' '}
          <Link to={`/batteries/${tag}`} className="font-semibold underline underline-offset-4">
            {tag}
          </Link>
        </p>
      )}
    </>
  );
}
