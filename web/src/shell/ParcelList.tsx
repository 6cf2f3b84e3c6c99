/** Entries that are not recorded yet: whose, what they say, and where one was refused, the way to enter it again. */
import { Link } from 'react-router';
import type { Outline } from '@cork-ember/core/runsheet/log/outline.ts';
import { useOpenJobs } from '../api/jobs.ts';
import { describeShelf } from '@cork-ember/core/shelf/describe.ts';
import { again, drop } from '../store/outbox.ts';
import { isOfShelf, type Parcel } from '../store/parcel.ts';
import { parcelWords } from '../runsheet/parcelWords.ts';
import { Button } from '../ui/Button.tsx';

interface ParcelRowProps {
  readonly parcel: Parcel;
  readonly its: Outline | undefined;
  /** Before it leads away. */
  readonly onGo: () => void;
}

function ParcelRow({ parcel, its, onGo }: ParcelRowProps) {
  const { requestKey, job, refused, by } = parcel;
  return (
    <li className="border-t border-line py-2 first:border-t-0">
      <p>
        <Link
          to={isOfShelf(parcel) ? `/batteries/${parcel.tag}` : `/jobs/${job}`}
          onClick={onGo}
          className="font-semibold underline underline-offset-4"
        >
          {isOfShelf(parcel)
            ? parcel.tag
            : (its?.state.opened.battery.tag ?? 'A battery that has left the bench')}
        </Link>
        <span className="text-soft"> · {by}</span>
      </p>
      <p className="break-words">
        {isOfShelf(parcel) ? describeShelf(parcel.shelfEntry) : parcelWords(parcel, its?.state)}
      </p>
      {refused !== undefined && (
        <>
          <p className="text-clay">{refused}</p>
          <div className="mt-1 flex flex-wrap gap-2">
            {(its || isOfShelf(parcel)) && (
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
