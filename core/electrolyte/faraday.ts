/**
 * What one ampere-hour does in one cell, from Faraday's law and the molar masses.
 * Discharge: Pb + PbO2 + 2 H2SO4 → 2 PbSO4 + 2 H2O, two electrons. Overcharge: H2O → H2 + ½ O2, two electrons.
 * @see CODATA 2018 Faraday constant 96485.33 C/mol; IUPAC standard atomic weights 2021
 */
const MOL_ELECTRONS_PER_AH = 3600 / 96_485.33;

/** H2SO4 consumed on discharge, g per Ah and cell. */
export const ACID_G_PER_AH = MOL_ELECTRONS_PER_AH * 98.08;
/** H2O made on discharge, g per Ah and cell. */
export const WATER_MADE_G_PER_AH = MOL_ELECTRONS_PER_AH * 18.015;
/** H2O split on overcharge, g per Ah and cell. */
export const WATER_SPLIT_G_PER_AH = (MOL_ELECTRONS_PER_AH * 18.015) / 2;
/** Hydrogen given off on overcharge, g per Ah and cell. */
export const HYDROGEN_G_PER_AH = (MOL_ELECTRONS_PER_AH * 2.016) / 2;
/** Hydrogen at 25 °C and 101.325 kPa, L per Ah and cell. */
export const HYDROGEN_L_PER_AH = (MOL_ELECTRONS_PER_AH / 2) * 24.465;
