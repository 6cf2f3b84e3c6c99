/** A maintained battery looked after: what its maintainer holds it at, and its water. */
import { useState } from 'react';
import { CONSTRUCTION } from '@cork-ember/core/battery/construction.ts';
import { floatLimits, suits } from '@cork-ember/core/shelf/maintained.ts';
import type { ShelfEntry } from '@cork-ember/core/shelf/entries.ts';
import type { Shelved } from '@cork-ember/core/shelf/overview.ts';
import { useMinute } from '../api/clock.ts';
import { useShop } from '../api/queries.ts';
import { Button } from '../ui/Button.tsx';
import { NumberField } from '../ui/NumberField.tsx';

interface TendProps {
  readonly one: Shelved;
  readonly onTend: (entry: ShelfEntry) => Promise<boolean>;
}

export function Tend({ one, onTend }: TendProps) {
  const now = useMinute();
  const [floatV, setFloat] = useState<number>();
  const [waterMl, setWater] = useState<number>();
  const { low, high } = floatLimits(one, now);
  const charger = useShop().data?.chargers.find(({ id }) => id === one.place?.charger);
  const by = charger && suits(charger, one, now);
  const isOff = floatV !== undefined && (floatV < low || floatV > high);
  const tend = async (): Promise<void> => {
    const payload = {
      ...(floatV === undefined ? {} : { floatV }),
      ...(waterMl === undefined ? {} : { waterMl }),
    };
    if (!(await onTend({ kind: 'tended', payload }))) return;
    setFloat(undefined);
    setWater(undefined);
  };
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        void tend();
      }}
    >
      <p>
        Held at {low.toFixed(2)} to {high.toFixed(2)} V where it stands. No leak, no bulge, not warm.
      </p>
      {charger && by && (
        <p>
          On {charger.name}
          {by.held ? `: ${by.held.low.toFixed(2)} to ${by.held.high.toFixed(2)} V by its leaflet` : ''}.
          {by.isPulsed ? ' Its pulses make a meter restless: read the mean.' : ''}
        </p>
      )}
      {by?.against !== undefined && <p className="font-semibold text-clay">{by.against}</p>}
      <div className="grid grid-cols-2 gap-3">
        <NumberField label="Float voltage" unit="V" value={floatV} onChange={setFloat} />
        {!CONSTRUCTION[one.construction].isValveRegulated && (
          <NumberField label="Water put in" unit="mL" value={waterMl} onChange={setWater} />
        )}
      </div>
      {isOff && (
        <p className="font-semibold text-clay">
          {floatV < low
            ? 'Too low: it does not hold it full. Another maintainer, or another setting.'
            : 'Too high: it dries it out. Off with it; another maintainer, or another setting.'}
        </p>
      )}
      <Button type="submit" tone="go" className="min-h-16 w-full text-lg">
        Maintainer looked at
      </Button>
    </form>
  );
}
