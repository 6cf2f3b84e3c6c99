/** The published conductivity of acid, read from a fine table: the solver asks for it at every stage. */
import { conductivityAt } from '../electrolyte/conductivity.ts';
import { freezingPointC } from '../electrolyte/freezing.ts';
import { get } from './state.ts';

const STRONGEST = 0.6;
const STEPS = 240;
const at18 = Float64Array.from({ length: STEPS + 2 }, (_, i) => conductivityAt((i / STEPS) * STRONGEST, 18));
const risePerK = Float64Array.from(
  { length: STEPS + 2 },
  (_, i) => conductivityAt((i / STEPS) * STRONGEST, 19) / Math.max(1e-9, get(at18, i)) - 1,
);
/** Conduction left in the coldest acid, and of ice lenses per kelvin below freezing (trial). */
const COLDEST = 0.12;
const ICE_PER_K = 0.6;
const ICE_LIMIT = 8;
/** Acid of nothing but water still conducts a little, S/cm. */
const LEAST = 1e-3;

/**
 * @param massFraction of H2SO4
 * @returns S/cm, frozen acid included
 */
export function acidConductance(massFraction: number, tempC: number): number {
  const place = Math.min(STEPS, Math.max(0, (massFraction / STRONGEST) * STEPS));
  const i = Math.floor(place);
  const part = place - i;
  const base = get(at18, i) * (1 - part) + get(at18, i + 1) * part;
  const rise = get(risePerK, i) * (1 - part) + get(risePerK, i + 1) * part;
  const liquid = Math.max(LEAST, base * Math.max(COLDEST, 1 + rise * (tempC - 18)));
  if (tempC >= 0) return liquid;
  const below = freezingPointC(massFraction) - tempC;
  return below <= 0 ? liquid : liquid * Math.exp(-Math.min(ICE_LIMIT, below * ICE_PER_K));
}
