/**
 * Constants of the cell model, each with where it comes from. "Trial" marks a value fitted to the published
 * behaviour listed in docs/model.md, not measured for itself.
 */

/** Faraday over 2RT at 25 °C, 1/V: half the voltage that drives charge transfer goes each way. */
export const HALF_F_PER_RT = 96_485.33 / (2 * 8.314462 * 298.15);
export const GAS_CONSTANT = 8.314462;
export const REFERENCE_K = 298.15;

/** EMF falls away below this share of charge (trial: 10.5 V is met within 1 % of empty at C/20). */
export const EMPTY_WIDTH = 0.004;
/** Keeps the share of charge above nothing while the equations are solved. */
export const EMPTY_SMOOTHING = 2e-4;

/** Exchange current against cranking amps, at full charge (trial). */
export const EXCHANGE_PER_CRANKING = 0.24;
/** Limiting discharge current against cranking amps, per mol/kg (trial). */
export const DISCHARGE_LIMIT_PER_CRANKING = 1.5;
/** Activation energies, J/mol. @see Catherino 2006, J. Power Sources 158: lead-acid kinetics 15–30 kJ/mol */
export const EXCHANGE_ACTIVATION = 30_000;
export const TRANSPORT_ACTIVATION = 16_000;
/** Dissolving of lead sulfate, J/mol. @see solubility of PbSO4 in acid, Vinal 1955 */
export const SULFATE_ACTIVATION = 25_000;

/** Charge taken up by soft and by hard sulfate, 1/h of its amount (trial). */
export const SOFT_RATE_PER_H = 0.7;
export const HARD_RATE_PER_H = 0.008;
/** Hard sulfate goes this much faster for each 0.1 V of overpotential (trial). */
export const HARD_RATE_PER_TENTH_V = 0.5;

/** Soft sulfate turned hard in a day flat at 25 °C, doubling per 10 K (trial; handbook 3 and 4). */
export const HARDENING_PER_DAY = 0.01;

/** @see Schiffer et al. 2007, J. Power Sources 168, 66: normalised gassing, c_u 11 /V, c_T 0.06 /K, 2.23 V */
export const GASSING_PER_V = 11;
export const GASSING_PER_K = 0.06;
export const GASSING_REFERENCE_V = 2.23;
/**
 * Gassing belongs to overcharge; at rest it is counted in the published self-discharge. The step between
 * the two lies at this overpotential and is this wide, V (choice, see docs/model.md).
 */
export const GASSING_ONSET_V = 0.05;
export const GASSING_ONSET_WIDTH_V = 0.012;
/** Voltage of a cell driven backwards through its own gassing, V. @see Berndt 1997: −1.5 to −2 V reversed */
export const REVERSAL_V = -1.7;

/** Enthalpy of water splitting as a voltage, V. @see Berndt 1997, thermoneutral voltage */
export const WATER_ENTHALPY_V = 1.481;

/** Surface charge: capacity in A·s per V and Ah, and its time constant, s (trial: 13.1 V falls within an hour). */
export const SURFACE_AS_PER_V_AH = 6;
export const SURFACE_TAU_S = 180;

/** Diffusion modes: slow, middle and fast, s (trial: Peukert's law from 20 h to ¼ h). */
export const DIFFUSION_TAU_S = [18_000, 1_440, 30] as const;
/** The slow and middle modes slow down in the cold, J/mol (fitted to −0.8 % of capacity per kelvin). */
export const DIFFUSION_ACTIVATION = 42_000;

/** Film on plates that stood flat: charge that burns it off, as a share of capacity (trial). */
export const FILM_CHARGE_SHARE = 0.01;

/** Acid that sinks per acid set free on charge, and how layers fade, in s (trial: 1.17 above 1.35 at worst). */
export const SINKING_SHARE = 0.35;
export const LAYER_FADE_S = 12 * 86_400;
/** Gassing of C/100 mixes layers with this time constant, s (trial: two to four hours of gassing mix). */
export const MIXING_TAU_S = 6_000;
/** Share of the layering the terminals feel: the plates stand in both layers. */
export const LAYER_AT_PLATES = 0.15;

/** Soak-in of a dry plate, s (handbook 2.3: tens of minutes), and one cell's excess warmth fading, s. */
export const SOAK_TAU_S = 1_500;
export const EXCESS_FADE_S = 2_400;

/** Dry mats let oxygen cross: gassing current and recombination rise with the water missing (trial). */
export const DRY_GASSING = 60;
export const DRY_RECOMBINATION = 8;

/** A reversed cell pushes back with this voltage, V, until the charge behind it is used up. */
export const REVERSED_V = 2.1;
/** Share of capacity over which that voltage fades, and share of reversed current that plates (trial). */
export const REVERSED_WIDTH = 0.002;
export const REVERSED_PLATING = 0.3;
