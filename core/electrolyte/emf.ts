/** Strength of acid in molality, and the voltage a cell rests at in it. */

/** Molar mass of H2SO4, g/mol. @see IUPAC standard atomic weights 2021 */
export const ACID_G_PER_MOL = 98.08;
/** The polynomial turns back up below this molality, where a straight line in lg m goes on. */
const POLYNOMIAL_FROM = 0.1;
/** dE/d(lg m) of the polynomial at its lower end. */
const DILUTE_SLOPE = 0.147519 - 2 * 0.063552 + 3 * 0.073772 - 4 * 0.033612;
const DILUTE_EMF = 1.9228 - 0.147519 + 0.063552 - 0.073772 + 0.033612;
const LG_E = Math.LOG10E;
/** Weaker acid than this counts as this: the logarithm has no end. */
const WEAKEST = 1e-4;

/**
 * @param massFraction H2SO4 by mass, 0 to below 1
 * @returns mol per kg of water
 */
export function molality(massFraction: number): number {
  return (massFraction * 1000) / (ACID_G_PER_MOL * (1 - massFraction));
}

/** Mass fraction of acid of a known molality. */
export function massFractionOf(molalityMolPerKg: number): number {
  const grams = molalityMolPerKg * ACID_G_PER_MOL;
  return grams / (1000 + grams);
}

/**
 * Electromotive force of one lead-acid cell at 25 °C.
 * @param molalityMolPerKg of H2SO4
 * @returns V
 * @see Bode 1977, Lead-Acid Batteries; valid from 0.1 mol/kg, continued below with its own slope
 */
export function cellEmf(molalityMolPerKg: number): number {
  const lg = Math.log10(Math.max(molalityMolPerKg, WEAKEST));
  if (molalityMolPerKg < POLYNOMIAL_FROM) return DILUTE_EMF + DILUTE_SLOPE * (lg + 1);
  return 1.9228 + lg * (0.147519 + lg * (0.063552 + lg * (0.073772 + lg * 0.033612)));
}

/** dE/dm of {@link cellEmf}, V per mol/kg. */
export function cellEmfSlope(molalityMolPerKg: number): number {
  const m = Math.max(molalityMolPerKg, WEAKEST);
  const lg = Math.log10(m);
  const slope =
    m < POLYNOMIAL_FROM
      ? DILUTE_SLOPE
      : 0.147519 + lg * (2 * 0.063552 + lg * (3 * 0.073772 + lg * 4 * 0.033612));
  return (slope * LG_E) / m;
}

/** Places in the array {@link lookUpEmf} works on. */
export const LOOKED_UP = { molality: 0, emf: 1, slope: 2 } as const;

/**
 * Both at once, for the solver: one logarithm serves two, and an array takes numbers in and out without
 * anything being allocated.
 * @param at holds the molality, and takes the electromotive force, V, and its slope, V per mol/kg
 */
export function lookUpEmf(at: Float64Array): void {
  const asked = at[0] as number;
  const m = Math.max(WEAKEST, asked);
  const lg = Math.log10(m);
  if (m < POLYNOMIAL_FROM) {
    at[1] = DILUTE_EMF + DILUTE_SLOPE * (lg + 1);
    at[2] = (DILUTE_SLOPE * LG_E) / m;
    return;
  }
  at[1] = 1.9228 + lg * (0.147519 + lg * (0.063552 + lg * (0.073772 + lg * 0.033612)));
  at[2] = ((0.147519 + lg * (0.127104 + lg * (0.221316 + lg * 0.134448))) * LG_E) / m;
}

/**
 * How much a cell's voltage rises with temperature.
 * @returns V/K, for one cell
 * @see Harned & Hamer 1935, J. Am. Chem. Soc. 57, 33: −0.27 mV/K at 0.1 mol/kg, +0.06 at 1, +0.15 to +0.18
 * from 3 to 6; drawn with a curve in 1/√m through the first two
 */
export function emfTemperatureSlope(molalityMolPerKg: number): number {
  const m = molalityMolPerKg > 0.02 ? molalityMolPerKg : 0.02;
  return 0.2126e-3 - 0.1526e-3 / Math.sqrt(m);
}
