/**
 * A second cell, written without looking at the first: two porous electrodes, each with its own active mass, and the acid diffusing
 * between them. The belief is held against batteries of it, which none of its candidates is.
 * @see Gu, Nguyen & White 1987, A mathematical model of a lead-acid cell, J. Electrochem. Soc. 134 (balance of acid, kinetics)
 * @see Bode 1977, Lead-Acid Batteries (equilibrium voltage by molality)
 * @see Schiffer et al. 2007, Model prediction for ranking lead-acid batteries, J. Power Sources 168 (gassing)
 */
import { solveRising } from '../electrolyte/curve.ts';

/** C/mol; J/(mol K); K. */
const FARADAY = 96_485;
const GAS = 8.314;
const ZERO_C = 273.15;

/** Share of the current that protons carry (Gu et al.). */
const TRANSFERENCE = 0.72;
/** Acid each electrode uses for a mole of electrons while it discharges, mol (Gu et al., eqs. 6 and 7). */
const USES = { positive: (3 - 2 * TRANSFERENCE) / 2, negative: (2 * TRANSFERENCE - 1) / 2 } as const;
/** Of acid in free acid at 25 °C, m²/s, and how it falls with the cold, K (Gu et al.). */
const DIFFUSION = 3.02e-9;
const DIFFUSION_K = 2174;
/** Of pores: diffusion and conduction fall with their share to this power. @see Bruggeman 1935 */
const TORTUOUS = 1.5;

/** Slices of each electrode and of what lies between. */
const SLICES = 6;

export interface PorousDesign {
  /** At the twenty-hour rate, Ah. */
  readonly capacityAh: number;
  /** Acid, mL an Ah: half as much again where it is flooded. */
  readonly acidMlPerAh: number;
  /** Acid of a full one, mol/L. */
  readonly fullMolPerL: number;
  /** Of the metal, Ω. */
  readonly metalOhm: number;
  /** What each electrode could convert of the rating, were there acid enough. */
  readonly positive: number;
  readonly negative: number;
}

/** Plates of a starter battery: area an Ah and sides, m² and m (a common plate of 14 by 12 cm, six of them for 70 Ah). */
const AREA_M2_PER_AH = 0.0029;
const THICK_M = { positive: 0.85e-3, negative: 0.75e-3 } as const;
const PORES = { positive: 0.55, between: 0.9, negative: 0.6 } as const;
/** Exchange current of each electrode, A an Ah (Gu et al., by their plates' inner surface). */
const EXCHANGE_A = { positive: 0.12, negative: 0.25 } as const;
/** An electrode slows down as this power of what is left to convert (a shrinking core's surface). */
const SURFACE = 2 / 3;
/** Gassing, A an Ah at 2.23 V and 20 °C, by volts, and by kelvins (Schiffer et al.). */
const GASSING = { a: 0.2e-3, perV: 11, perK: 0.06, volts: 2.23, tempC: 20 } as const;
const LEAST_LEFT = 1e-4;
const LEAST_MOL = 0.02;
/** Longer at once, an explicit step of the thinnest slice would swing. @see Courant, Friedrichs & Lewy 1928 */
const MOST_S = 2;

/**
 * Equilibrium voltage at 25 °C.
 * @param molPerL of sulfuric acid, 0.05–6
 * @returns V
 */
export function equilibriumV(molPerL: number): number {
  const log = Math.log10(molalityOf(molPerL));
  return 1.9228 + 0.147519 * log + 0.063552 * log ** 2 + 0.073772 * log ** 3 + 0.033612 * log ** 4;
}

/** mol/kg of water, by mol/L at 25 °C (Gu et al., their eq. 20). */
export function molalityOf(molPerL: number): number {
  const c = molPerL / 1000;
  return 1.00322 * 1000 * c + 35.5 * 1000 * c ** 2 + 2170 * 1000 * c ** 3 + 206_000 * 1000 * c ** 4;
}

/** Of the acid, S/m (Tiedemann & Newman, in Gu et al.). */
export function conductivity(molPerL: number, tempC: number): number {
  const c = molPerL / 1000;
  const kelvin = tempC + ZERO_C;
  const power = 1.1104 + (199.475 - 16_097.781 * c) * c + (3916.95 - 99_406 * c - 721_960 / kelvin) / kelvin;
  return 100 * c * Math.exp(power);
}

interface Slice {
  readonly thickM: number;
  readonly pores: number;
}

export class PorousCell {
  readonly design: PorousDesign;
  tempC: number;
  /** Acid of each slice, from the positive to the negative, mol/L. */
  readonly molPerL: Float64Array;
  /** Converted of each electrode, Ah. */
  private readonly used = { positive: 0, negative: 0 };
  private readonly slices: readonly Slice[];
  private readonly areaM2: number;

  /** @param charge 0–1, mixed and at rest */
  constructor(design: PorousDesign, charge: number, tempC: number) {
    this.design = design;
    this.tempC = tempC;
    const { capacityAh, acidMlPerAh, fullMolPerL } = design;
    this.areaM2 = AREA_M2_PER_AH * capacityAh;
    const inPlates = THICK_M.positive * PORES.positive + THICK_M.negative * PORES.negative;
    const betweenM = ((acidMlPerAh * 1e-6) / AREA_M2_PER_AH - inPlates) / PORES.between;
    const slicesOf = (thickM: number, pores: number): Slice[] =>
      Array.from({ length: SLICES }, () => ({ thickM: thickM / SLICES, pores }));
    this.slices = [
      ...slicesOf(THICK_M.positive, PORES.positive),
      ...slicesOf(betweenM, PORES.between),
      ...slicesOf(THICK_M.negative, PORES.negative),
    ];
    const usedAh = (1 - charge) * capacityAh;
    this.used.positive = this.used.negative = usedAh;
    const litres = (acidMlPerAh * capacityAh) / 1000;
    const mol = fullMolPerL - (usedAh * 3600) / FARADAY / litres;
    this.molPerL = new Float64Array(this.slices.length).fill(Math.max(LEAST_MOL, mol));
  }

  /** Charge that is not used, 0–1: of the electrode that has less. */
  get charge(): number {
    return 1 - Math.max(this.used.positive, this.used.negative) / this.design.capacityAh;
  }

  private meanOf(electrode: 'positive' | 'negative'): number {
    const from = electrode === 'positive' ? 0 : 2 * SLICES;
    return this.molPerL.subarray(from, from + SLICES).reduce((sum, mol) => sum + mol, 0) / SLICES;
  }

  /** What it would stand at with the acid where it is, V. */
  restV(): number {
    return (equilibriumV(this.meanOf('positive')) + equilibriumV(this.meanOf('negative'))) / 2;
  }

  /** Of acid and metal, Ω. */
  ohm(): number {
    const acid = this.slices.reduce((sum, { thickM, pores }, at) => {
      // On average a current crosses half of an electrode.
      const crossed = at < SLICES || at >= 2 * SLICES ? 0.5 : 1;
      const mol = this.molPerL[at] as number;
      return sum + (crossed * thickM) / (conductivity(mol, this.tempC) * pores ** TORTUOUS * this.areaM2);
    }, 0);
    return acid + this.design.metalOhm;
  }

  /** What an electrode asks for to give or take a current, V; the reaction's own. @param amps above 0 while it charges */
  private overV(electrode: 'positive' | 'negative', amps: number): number {
    const { capacityAh } = this.design;
    const most = this.design[electrode] * capacityAh;
    const used = Math.min(most, Math.max(0, this.used[electrode]));
    const left = amps > 0 ? used / most : 1 - used / most;
    const acid = this.meanOf(electrode) / this.design.fullMolPerL;
    const exchange =
      EXCHANGE_A[electrode] *
      capacityAh *
      Math.max(LEAST_LEFT, left) ** SURFACE *
      Math.max(LEAST_LEFT, acid) ** 0.3;
    return ((2 * GAS * (this.tempC + ZERO_C)) / FARADAY) * Math.asinh(amps / (2 * exchange));
  }

  /** What goes into gas at a voltage, A. */
  gassingA(volts: number): number {
    const { a, perV, perK, volts: at, tempC } = GASSING;
    return a * this.design.capacityAh * Math.exp(perV * (volts - at) + perK * (this.tempC - tempC));
  }

  /** Between its posts while the plates themselves take a current, V. @param amps above 0 while it charges */
  private voltsAt(amps: number): number {
    return this.restV() + amps * this.ohm() + this.overV('positive', amps) + this.overV('negative', amps);
  }

  /**
   * Between its posts under a current, V; what gas takes of it is found.
   * @param amps above 0 while it charges
   */
  volts(amps: number): number {
    return this.voltsAt(this.intoPlates(amps));
  }

  /** Of a current what its plates take, A. */
  private intoPlates(amps: number): number {
    if (amps <= 0) return amps;
    return solveRising(amps, 0, amps, (into) => into + this.gassingA(this.voltsAt(into)), amps * 1e-6);
  }

  /** The current it takes at a voltage, gas and all, A. @param mostA no more than this */
  ampsAt(volts: number, mostA: number): number {
    const gasA = this.gassingA(volts);
    if (gasA >= mostA || this.voltsAt(mostA - gasA) <= volts) return mostA;
    return gasA + solveRising(volts, 0, mostA, (into) => this.voltsAt(into), mostA * 1e-6);
  }

  /** @param amps above 0 while it charges, the same for so many seconds; what its plates take of it is found once */
  step(amps: number, seconds: number): void {
    const into = amps > 0 ? this.intoPlates(amps) : amps - this.gassingA(this.restV());
    const pieces = Math.ceil(seconds / MOST_S);
    for (let piece = 0; piece < pieces; piece++) this.shortStep(into, seconds / pieces);
  }

  private shortStep(into: number, seconds: number): void {
    const made = { positive: 0, negative: 0 };
    for (const electrode of ['positive', 'negative'] as const) {
      // What finds nothing left to charge makes gas.
      const ah = Math.min(this.used[electrode], (into * seconds) / 3600);
      this.used[electrode] -= ah;
      made[electrode] = (USES[electrode] * ah * 3600) / FARADAY / SLICES;
    }
    const { slices, molPerL, areaM2 } = this;
    const kelvin = this.tempC + ZERO_C;
    const diffusion = DIFFUSION * Math.exp(DIFFUSION_K * (1 / 298.15 - 1 / kelvin));
    const flows = slices.slice(1).map((right, at) => {
      const left = slices[at] as Slice;
      const resists = (slice: Slice): number => slice.thickM / 2 / (diffusion * slice.pores ** TORTUOUS);
      const fall = (molPerL[at] as number) - (molPerL[at + 1] as number);
      return ((fall * 1000) / (resists(left) + resists(right))) * areaM2 * seconds;
    });
    slices.forEach(({ thickM, pores }, at) => {
      const litres = thickM * pores * areaM2 * 1000;
      const source = at < SLICES ? made.positive : at >= 2 * SLICES ? made.negative : 0;
      const net = (flows[at - 1] ?? 0) - (flows[at] ?? 0) + source;
      molPerL[at] = Math.max(LEAST_MOL, (molPerL[at] as number) + net / litres);
    });
  }
}
