/**
 * What a maintainer is to hold a battery at: a voltage, by its kind, lower where it is warm (handbook 4: 13.2–13.5 V flooded,
 * 13.5–13.8 V AGM and gel on six cells at 25 °C, −3 mV a cell and kelvin).
 */
import { CONSTRUCTION } from '../battery/construction.ts';
import { onSix } from '../battery/types.ts';
import type { Shelved } from './overview.ts';
import { USUAL_WARMTH, warmthAt } from './warmth.ts';

const MV_PER_CELL_K = 3;
const REFERENCE_C = 25;

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
  const shift = (-MV_PER_CELL_K / 1000) * cells * (tempC - REFERENCE_C);
  const { floatFromV, floatToV } = CONSTRUCTION[construction];
  return { low: onSix(floatFromV, { cells }) + shift, high: onSix(floatToV, { cells }) + shift };
}
