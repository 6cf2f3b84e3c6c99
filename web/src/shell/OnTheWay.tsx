/** What was entered and is not recorded yet, of every battery: how much waits, and what was refused, with a way to enter it again. */
import { CloudUpload, TriangleAlert } from 'lucide-react';
import { useAway, useParcels } from '../store/outbox.ts';
import type { Parcel } from '../store/parcel.ts';
import { later } from '../ui/later.tsx';
import { Popup } from '../ui/Popup.tsx';
import type { ParcelListProps } from './ParcelList.tsx';

function useWaiting(): { readonly waiting: readonly Parcel[]; readonly refused: readonly Parcel[] } {
  const parcels = useParcels();
  const isAway = useAway();
  const isHeld = parcels.some(({ refused }) => refused !== undefined);
  return {
    // What is answered within a moment is not worth a word.
    waiting: isAway || isHeld ? parcels.filter(({ refused }) => refused === undefined) : [],
    refused: parcels.filter(({ refused }) => refused !== undefined),
  };
}

const ParcelList = later<ParcelListProps>(async () => (await import('./ParcelList.tsx')).ParcelList);

export function OnTheWay() {
  const { waiting, refused } = useWaiting();
  if (waiting.length + refused.length === 0) return null;
  const Icon = refused.length > 0 ? TriangleAlert : CloudUpload;
  const counts = [
    ...(waiting.length > 0 ? [`${waiting.length} waiting`] : []),
    ...(refused.length > 0 ? [`${refused.length} refused`] : []),
  ];
  return (
    <Popup
      name="Not recorded yet"
      align="end"
      className="w-96"
      openerClass="flex min-w-21 shrink-0 flex-col items-center justify-center gap-1 border-l border-white/25 px-2 text-sm text-white hover:bg-black/25"
      opener={
        <>
          <Icon aria-hidden className="size-6" />
          <span>{counts.join(', ')}</span>
        </>
      }
    >
      {(close) => (
        <>
          <h2 className="font-semibold">Not recorded yet</h2>
          <ParcelList parcels={[...refused, ...waiting]} onGo={close} />
        </>
      )}
    </Popup>
  );
}
