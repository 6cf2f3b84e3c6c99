/**
 * What a maintainer is to hold a battery at: a voltage, by its kind, lower where it is warm (handbook 4: 13.2–13.5 V flooded,
 * 13.5–13.8 V AGM and gel on six cells at 25 °C, −3 mV a cell and kelvin).
 */
import { CONSTRUCTION } from '../battery/construction.ts';
import { onSix } from '../battery/types.ts';
import { compensatedV } from '../charge/compensation.ts';
import type { Shelved } from './overview.ts';
import { USUAL_WARMTH, warmthAt } from './warmth.ts';

export interface FloatLimits {
  /** V */
  readonly low: number;
  readonly high: number;
}

/** @param now which month it is where it stands, ms */
export function floatLimits(
  { construction, cells, place }: Pick<Shelved, 'construction' | 'cells' | 'place'>,
  now: number,
): FloatLimits {
  const tempC = warmthAt(place?.warmth ?? USUAL_WARMTH, now);
  const { floatFromV, floatToV } = CONSTRUCTION[construction];
  const held = (volts: number): number => compensatedV(onSix(volts, { cells }), cells, tempC, true);
  return { low: held(floatFromV), high: held(floatToV) };
}
