/** How warm it is where batteries stand: each place by its name, all that stand there with it. */
import { useState } from 'react';
import { PLACES, type Place } from '@cork-ember/core/shelf/places.ts';
import { storeNamed, type Store } from '@cork-ember/core/shelf/stores.ts';
import { USUAL_WARMTH, type Warmth } from '@cork-ember/core/shelf/warmth.ts';
import { warmthText } from '@cork-ember/core/shelf/warmthText.ts';
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import { useShelf } from '../api/shelf.ts';
import { Button } from '../ui/Button.tsx';
import { Title } from '../ui/Title.tsx';
import { Waiting } from '../ui/Waiting.tsx';
import { StoreDialog } from './StoreDialog.tsx';

interface Known {
  readonly name: string;
  readonly count: number;
  readonly warmth: Warmth | undefined;
  readonly isTold: boolean;
}

/** Every place with a name that something stands at, and those that are told of. */
function placesOf(shelved: readonly Shelved[], stores: readonly Store[]): readonly Known[] {
  const byName = new Map<string, { place?: Place; count: number }>();
  for (const { name } of stores) byName.set(name, { count: 0 });
  for (const { place } of shelved) {
    if (!place || place.name === '' || !PLACES[place.kind].isKept) continue;
    const name = storeNamed(stores, place.name)?.name ?? place.name;
    byName.set(name, { place, count: (byName.get(name)?.count ?? 0) + 1 });
  }
  return [...byName]
    .map(([name, { place, count }]) => {
      const store = storeNamed(stores, name);
      return { name, count, warmth: store?.warmth ?? place?.warmth, isTold: store !== undefined };
    })
    .sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }));
}

function Stores({ shelved, shop }: { shelved: readonly Shelved[]; shop: Shop }) {
  const [open, setOpen] = useState<Known>();
  const known = placesOf(shelved, shop.stores);
  return (
    <div className="mx-auto max-w-3xl p-5">
      <Title>How warm it is</Title>
      <p className="text-soft">
        Ten degrees more take a battery’s charge twice as fast. What is told of a place counts for all that
        stand there, and for the days they stood there before.
      </p>
      {known.length === 0 && <p className="mt-6 text-soft">Nothing stands at a place with a name yet.</p>}
      <ul className="mt-4">
        {known.map((one) => (
          <li
            key={one.name}
            className="flex min-h-16 flex-wrap items-center gap-x-4 border-b border-line py-2"
          >
            <b className="min-w-40 flex-1">{one.name}</b>
            <span className="min-w-48 flex-1">
              {warmthText(one.warmth ?? USUAL_WARMTH)}
              {one.warmth ? '' : ', taken for a workshop'}
            </span>
            <span className="w-28 text-soft">
              {one.count} {one.count === 1 ? 'battery' : 'batteries'}
            </span>
            <Button
              aria-label={`${one.isTold ? 'Change' : 'Tell'} how warm it is: ${one.name}`}
              onClick={() => setOpen(one)}
            >
              {one.isTold ? 'Change' : 'Tell'}
            </Button>
          </li>
        ))}
      </ul>
      {open && (
        <StoreDialog
          key={open.name}
          name={open.name}
          warmth={open.warmth ?? USUAL_WARMTH}
          shop={shop}
          onClose={() => setOpen(undefined)}
        />
      )}
    </div>
  );
}

export function StoresPage() {
  const { shelved, shop, asked } = useShelf();
  if (!shelved || !shop) return <Waiting on={asked} />;
  return <Stores shelved={shelved} shop={shop} />;
}
