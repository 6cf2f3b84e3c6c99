/** What was entered and is not recorded yet, of every battery: how much waits, and what was refused, with a way to enter it again. */
import { CloudUpload, TriangleAlert } from 'lucide-react';
import { Popover } from 'radix-ui';
import { Link } from 'react-router';
import { toast } from 'sonner';
import type { Outline } from '@cork-ember/core/runsheet/log/outline.ts';
import { sentenceOf } from '../api/client.ts';
import { drop, useParcels, type Parcel } from '../api/outbox.ts';
import { useOpenJobs } from '../api/queries.ts';
import { recordOn } from '../api/record.ts';
import { parcelWords } from '../runsheet/parcelWords.ts';
import { Button } from '../ui/Button.tsx';

function useWaiting(): { readonly waiting: readonly Parcel[]; readonly refused: readonly Parcel[] } {
  const parcels = useParcels();
  return {
    waiting: parcels.filter(({ refused, isKept = false }) => refused === undefined && isKept),
    refused: parcels.filter(({ refused }) => refused !== undefined),
  };
}

/** As it was said, by whoever said it, on the battery as it stands now. */
async function enterAgain({ requestKey, by, entry }: Parcel, job: Outline): Promise<void> {
  try {
    await recordOn(job, by, entry);
    drop(requestKey);
  } catch (error) {
    toast.error(sentenceOf(error));
  }
}

function Row({ parcel, its }: { parcel: Parcel; its: Outline | undefined }) {
  const { requestKey, job, refused, by } = parcel;
  return (
    <li className="border-t border-line py-2 first:border-t-0">
      <p>
        <Popover.Close asChild>
          <Link to={`/jobs/${job}`} className="font-semibold underline underline-offset-4">
            {its?.state.opened.battery.tag ?? 'A battery that has left the bench'}
          </Link>
        </Popover.Close>
        <span className="text-soft"> · {by}</span>
      </p>
      <p className="break-words">{parcelWords(parcel, its?.state)}</p>
      {refused !== undefined && (
        <>
          <p className="text-clay">{refused}</p>
          <div className="mt-1 flex flex-wrap gap-2">
            {its && <Button onClick={() => void enterAgain(parcel, its)}>Enter it again</Button>}
            <Button onClick={() => drop(requestKey)}>Let go of it</Button>
          </div>
        </>
      )}
    </li>
  );
}

export function OnTheWay() {
  const { waiting, refused } = useWaiting();
  const { jobs } = useOpenJobs();
  if (waiting.length + refused.length === 0) return null;
  const Icon = refused.length > 0 ? TriangleAlert : CloudUpload;
  const counts = [
    ...(waiting.length > 0 ? [`${waiting.length} waiting`] : []),
    ...(refused.length > 0 ? [`${refused.length} refused`] : []),
  ];
  return (
    <Popover.Root>
      <Popover.Trigger className="flex min-w-21 shrink-0 flex-col items-center justify-center gap-1 border-l border-white/25 px-2 text-sm text-white hover:bg-black/25">
        <Icon aria-hidden className="size-6" />
        <span>{counts.join(', ')}</span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={8}
          className="z-30 max-h-[70vh] w-96 max-w-[94vw] overflow-auto rounded-lg border border-line bg-card p-4 shadow-lg"
        >
          <h2 className="font-semibold">Not recorded yet</h2>
          <ul className="mt-1">
            {[...refused, ...waiting].map((parcel) => (
              <Row
                key={parcel.requestKey}
                parcel={parcel}
                its={jobs.find(({ state }) => state.job === parcel.job)}
              />
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
