/** Which units this browser shows otherwise than the shop's region does; kept for the next visit. */
import { useState } from 'react';
import { isOtherwiseHere } from '../region/shopRegion.ts';

const KEY = 'cork-ember-units';

export interface Units {
  isSwitched(unit: string): boolean;
  /** Switches a unit over, and gives the units as they are then. */
  switched(unit: string): Units;
}

function kept(): readonly string[] {
  return (localStorage.getItem(KEY) ?? '').split('|').filter(Boolean);
}

export function useUnits(): Units {
  const [list, setList] = useState(kept);
  const unitsOf = (switchedOver: readonly string[]): Units => ({
    isSwitched: (unit) => switchedOver.includes(unit) !== isOtherwiseHere(unit),
    switched: (unit) => {
      const next = switchedOver.includes(unit)
        ? switchedOver.filter((other) => other !== unit)
        : [...switchedOver, unit];
      localStorage.setItem(KEY, next.join('|'));
      setList(next);
      return unitsOf(next);
    },
  });
  return unitsOf(list);
}
