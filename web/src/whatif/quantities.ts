/** What is drawn of each plan, how it is scaled and how it is written. */
import { here, isOtherwiseHere } from '../region/shopRegion.ts';
import type { Drawn, Outcome } from '@cork-ember/core/whatif/answer.ts';

export interface Quantity {
  readonly id: Drawn;
  readonly name: string;
  readonly unit: string;
  readonly decimals: number;
  /** From how it is reckoned to its unit. */
  readonly scale: number;
}

/** A reckoned value as the shop shows it, and the unit it is shown in. */
export const shownHere = ({ unit, scale }: Quantity, value: number): number => here(value * scale, unit);
export const decimalsHere = ({ unit, decimals }: Quantity): number =>
  decimals + (isOtherwiseHere(unit) && unit !== '°C' ? 1 : 0);

export const QUANTITIES: readonly Quantity[] = [
  { id: 'volts', name: 'Voltage', unit: 'V', decimals: 2, scale: 1 },
  { id: 'amps', name: 'Current', unit: 'A', decimals: 2, scale: 1 },
  { id: 'hottestC', name: 'Hottest cell', unit: '°C', decimals: 1, scale: 1 },
  { id: 'chargeShare', name: 'Charge, weakest cell', unit: '%', decimals: 0, scale: 100 },
  { id: 'density', name: 'Acid density at 25 °C', unit: 'kg/L', decimals: 3, scale: 1 },
  { id: 'gasL', name: 'Hydrogen given off', unit: 'L', decimals: 1, scale: 1 },
  { id: 'waterLostG', name: 'Water lost', unit: 'mL', decimals: 1, scale: 1 },
];

/** A quantity of an outcome at a moment, straight between its points. */
export function valueAt(outcome: Outcome, id: Drawn, atS: number): number | undefined {
  const { seconds, columns } = outcome;
  const last = seconds.length - 1;
  if (last < 0 || atS > (seconds[last] ?? 0) + 1) return undefined;
  let row = 0;
  while (row < last && (seconds[row + 1] ?? 0) <= atS) row += 1;
  const from = seconds[row] ?? 0;
  const to = seconds[row + 1] ?? from;
  const a = columns[id][row] ?? 0;
  const b = columns[id][row + 1] ?? a;
  return to === from ? a : a + ((b - a) * (atS - from)) / (to - from);
}
