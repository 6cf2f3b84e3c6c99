/** A donor battery clamped across a flat one: the current that leaps over, before a charger says a word. */
import type { CellString } from '../model/cellString.ts';
import { postVolts } from '../model/discharge.ts';
import { get } from '../model/state.ts';
import { Stepper } from '../model/stepper.ts';

/** Copper of the common lead sizes, Ω per metre there and back at 20 °C. @see IEC 60228, class 5 */
const OHM_PER_M: Record<number, number> = { 4: 0.0099, 6: 0.0066, 10: 0.00382, 16: 0.00242, 25: 0.00156 };
/** Clamps and crimps, all four, Ω (practice). */
const CLAMPS_OHM = 0.004;

export type LeadSize = 4 | 6 | 10 | 16 | 25;

/** Resistance of a pair of leads with clamps, Ω. */
export function leadsOhm(lengthM: number, mm2: LeadSize): number {
  return (OHM_PER_M[mm2] ?? 0) * lengthM + CLAMPS_OHM;
}

/**
 * The current of the first moment.
 * @returns A, into the flat one; a shorted battery can draw hundreds, a sulfated one almost none, one that stands as
 * high as the donor nothing
 * @see handbook 7: (V donor − V flat) / (R donor + R flat + R leads)
 */
export function inrushA(
  donorV: number,
  flatV: number,
  donorOhm: number,
  flatOhm: number,
  betweenOhm: number,
): number {
  return Math.max(0, donorV - flatV) / (donorOhm + flatOhm + betweenOhm);
}

/** Ohmic resistance between a battery's posts, Ω, once it has been stepped. */
export function postsOhm(cells: CellString): number {
  let sum = cells.parameters.leadsOhm;
  for (let g = 0; g < cells.groups; g++) sum += get(cells.counts, g) * get(cells.shown.resistance, g);
  return sum;
}

export interface DonorLook {
  readonly atS: number;
  readonly flatV: number;
  readonly donorV: number;
  readonly intoFlatA: number;
  readonly flatC: number;
}

/**
 * Donor and flat battery side by side, a charger of `chargerA` on the donor.
 * @param flat with the leads between them in its `leadsOhm`
 * @param lookEveryS a look is kept this often
 */
export function donorWake(
  donor: CellString,
  flat: CellString,
  chargerA: number,
  seconds: number,
  lookEveryS = 60,
): DonorLook[] {
  const stepper = new Stepper(donor, flat);
  const looks: DonorLook[] = [];
  let stepS = 1;
  for (let atS = 0; atS < seconds - 1e-9;) {
    const wanted = Math.min(stepS, seconds - atS, lookEveryS);
    if (!stepper.step({ hold: 'current', amps: chargerA }, wanted)) {
      stepS = wanted / 4;
      if (stepS < 1e-6) throw new Error('The two batteries found no common voltage.');
      continue;
    }
    atS += wanted;
    stepS = Math.min(lookEveryS, wanted * 1.5);
    if (looks.length === 0 || atS - (looks.at(-1)?.atS ?? 0) >= lookEveryS - 1e-6)
      looks.push({
        atS,
        flatV: postVolts(flat) - flat.parameters.leadsOhm * flat.currentA,
        donorV: postVolts(donor),
        intoFlatA: flat.currentA,
        flatC: Math.max(...Array.from({ length: flat.groups }, (_, g) => flat.tempOf(g))),
      });
  }
  return looks;
}
