/** Entries that are not recorded yet: whose, what they say, and where one was refused, the way to enter it again. */
import { Link } from 'react-router';
import type { Outline } from '@cork-ember/core/runsheet/log/outline.ts';
import { useOpenJobs } from '../api/jobs.ts';
import { describeShelf } from '@cork-ember/core/shelf/describe.ts';
import { again, drop } from '../store/outbox.ts';
import { isOfBatch, isOfJob, isOfShelf, type Parcel } from '../store/parcel.ts';
import { parcelWords } from '../runsheet/parcelWords.ts';
import { Button } from '../ui/Button.tsx';

interface Words {
  readonly to: string;
  /** What it is of. */
  readonly of: string;
  readonly says: string;
}

function wordsOf(parcel: Parcel, its: Outline | undefined): Words {
  if (isOfShelf(parcel))
    return {
      to: `/batteries/${parcel.tag}`,
      of: parcel.tag,
      says: describeShelf(parcel.shelfEntry),
    };
  if (isOfBatch(parcel))
    return {
      to: '/shelf/charge',
      of: parcel.orders.map(({ battery }) => battery.tag).join(', '),
      says: 'To the bench, to be charged',
    };
  return {
    to: `/jobs/${parcel.job}`,
    of: its?.state.opened.battery.tag ?? 'A battery that has left the bench',
    says: parcelWords(parcel, its?.state),
  };
}

interface ParcelRowProps {
  readonly parcel: Parcel;
  readonly its: Outline | undefined;
  /** Before it leads away. */
  readonly onGo: () => void;
}

function ParcelRow({ parcel, its, onGo }: ParcelRowProps) {
  const { requestKey, refused, by } = parcel;
  const { to, of, says } = wordsOf(parcel, its);
  return (
    <li className="border-t border-line py-2 first:border-t-0">
      <p>
        <Link to={to} onClick={onGo} className="font-semibold underline underline-offset-4">
          {of}
        </Link>
        <span className="text-soft"> · {by}</span>
      </p>
      <p className="break-words">{says}</p>
      {refused !== undefined && (
        <>
          <p className="text-clay">{refused}</p>
          <div className="mt-1 flex flex-wrap gap-2">
            {(its || !isOfJob(parcel)) && (
              <Button onClick={() => void again(requestKey, its?.seq ?? 0)}>Enter it again</Button>
            )}
            <Button onClick={() => void drop(requestKey)}>Let go of it</Button>
          </div>
        </>
      )}
    </li>
  );
}

export interface ParcelListProps {
  readonly parcels: readonly Parcel[];
  /** Before it leads away. */
  readonly onGo: () => void;
}

export function ParcelList({ parcels, onGo }: ParcelListProps) {
  const { jobs } = useOpenJobs();
  return (
    <ul className="mt-1">
      {parcels.map((parcel) => (
        <ParcelRow
          key={parcel.requestKey}
          parcel={parcel}
          its={jobs.find(({ state }) => state.job === parcel.job)}
          onGo={onGo}
        />
      ))}
    </ul>
  );
}
