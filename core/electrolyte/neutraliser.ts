/** How much it really takes to neutralise acid. */

export type Neutraliser = 'baking-soda' | 'washing-soda' | 'slaked-lime';

/**
 * Grams per gram of H2SO4, from the reaction: 2 NaHCO3, 1 Na2CO3 or 1 Ca(OH)2 per molecule of acid.
 * @see IUPAC standard atomic weights 2021 (84.007, 105.99 and 74.09 g/mol against 98.08)
 */
export const GRAMS_PER_GRAM: Record<Neutraliser, number> = {
  'baking-soda': (2 * 84.007) / 98.08,
  'washing-soda': 105.99 / 98.08,
  'slaked-lime': 74.09 / 98.08,
};

/** Gas at 25 °C and 101.325 kPa, L/mol. */
const LITRES_PER_MOL = 24.465;
const CO2_PER_ACID: Record<Neutraliser, number> = { 'baking-soda': 2, 'washing-soda': 1, 'slaked-lime': 0 };

/** What is weighed out over the bare reaction: a tenth more, so that it ends above pH 6 (practice). */
export const NEUTRALISER_SPARE = 1.1;

/** What is fetched for a spill or a drained battery: the reaction's amount, and the spare. */
export function toNeutralise(acidG: number, by: Neutraliser): { grams: number; carbonDioxideL: number } {
  const { grams, carbonDioxideL } = neutralise(acidG, by);
  return { grams: grams * NEUTRALISER_SPARE, carbonDioxideL };
}

/**
 * By the bare reaction.
 * @param acidG pure H2SO4, g
 * @returns grams of neutraliser and the litres of carbon dioxide it foams off at 25 °C
 */
export function neutralise(acidG: number, by: Neutraliser): { grams: number; carbonDioxideL: number } {
  return {
    grams: acidG * GRAMS_PER_GRAM[by],
    carbonDioxideL: (acidG / 98.08) * CO2_PER_ACID[by] * LITRES_PER_MOL,
  };
}
