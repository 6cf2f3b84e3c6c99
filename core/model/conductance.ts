/** The published conductivity of acid, read from a fine table: the solver asks for it at every stage. */
import { conductivityAt } from '../electrolyte/conductivity.ts';
import { freezingPointC } from '../electrolyte/freezing.ts';

const STRONGEST = 0.6;
const STEPS = 240;
const at18 = Float64Array.from({ length: STEPS + 2 }, (_, i) => conductivityAt((i / STEPS) * STRONGEST, 18));
const risePerK = Float64Array.from(
  { length: STEPS + 2 },
  (_, i) => conductivityAt((i / STEPS) * STRONGEST, 19) / Math.max(1e-9, at18[i] as number) - 1,
);
/** Conduction left in the coldest acid, and of ice lenses per kelvin below freezing (trial). */
const COLDEST = 0.12;
const ICE_PER_K = 0.6;
const ICE_LIMIT = 8;
/** Acid of nothing but water still conducts a little, S/cm. */
const LEAST = 1e-3;

/**
 * For the solver: an array takes numbers in and out without anything being allocated.
 * @param at holds mass fraction and temperature in °C at 0 and 1, and takes the conductivity in S/cm, frozen
 * acid included, at 2
 */
export function lookUpConductance(at: Float64Array): void {
  const massFraction = at[0] as number;
  const tempC = at[1] as number;
  const place = Math.min(STEPS, Math.max(0, (massFraction / STRONGEST) * STEPS));
  const i = Math.floor(place);
  const part = place - i;
  const base = (at18[i] as number) * (1 - part) + (at18[i + 1] as number) * part;
  const rise = (risePerK[i] as number) * (1 - part) + (risePerK[i + 1] as number) * part;
  const liquid = Math.max(LEAST, base * Math.max(COLDEST, 1 + rise * (tempC - 18)));
  at[2] = liquid;
  if (tempC >= 0) return;
  const below = freezingPointC(massFraction) - tempC;
  if (below > 0) at[2] = liquid * Math.exp(-Math.min(ICE_LIMIT, below * ICE_PER_K));
}

/** Numbers in and out, so that none is allocated. */
const asked = new Float64Array(3);

/** S/cm of acid of this strength and temperature, frozen acid included. */
export function acidConductance(massFraction: number, tempC: number): number {
  asked[0] = massFraction;
  asked[1] = tempC;
  lookUpConductance(asked);
  return asked[2] as number;
}
