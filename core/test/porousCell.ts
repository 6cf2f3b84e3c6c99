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
/**
 * Of pores: conduction falls with their share to this power, and diffusion, which has no short way through a plate, to that one (trial: half to
 * two thirds of the capacity in an hour). @see Bruggeman 1935 (1.5 among spheres)
 */
const CONDUCTS = 1.5;
const DIFFUSES = 3.25;

/** Sulfate is larger than what it grows from: pores of a plate that is all converted are narrower by this share (Bode: molar volumes). */
const CLOGS = 0.5;

/** In how long the acid beside the plates comes between them, s (trial: three quarters in three hours). */
const ASIDE_S = 6 * 3600;

/** Slices of each electrode and of what lies between. */
const SLICES = 4;

export interface PorousDesign {
  /** At the twenty-hour rate, Ah. */
  readonly capacityAh: number;
  /** Acid, mL an Ah: half as much again where it is flooded. */
  readonly acidMlPerAh: number;
  /** Share of it that lies above and beside the plates. */
  readonly aside: number;
  /** Acid of a full one, mol/L. */
  readonly fullMolPerL: number;
  /** Of the metal, Ω. */
  readonly metalOhm: number;
  /** What each electrode could convert of the rating, were there acid enough. */
  readonly positive: number;
  readonly negative: number;
  /** How many times as fast its reactions are as those of common plates; 1 where it is left out. */
  readonly kinetics?: number;
}

/** What is the matter with one, besides what it lacks; left out, nothing. */
export interface PorousIllness {
  /** Share of both masses that is still there. */
  readonly left?: number;
  /** Sulfate grown hard, share of the rating. */
  readonly hard?: number;
  /** Between grains and grid of plates that stood flat, Ω until it is burnt off. */
  readonly filmOhm?: number;
  /** Share of the water gone. */
  readonly dry?: number;
  /** Across the plates, and in series with them, Ω. */
  readonly leakOhm?: number;
  readonly jointOhm?: number;
  /** Share of the charge lost in a day. */
  readonly lostADay?: number;
  /** How many times as much gas it makes. */
  readonly gas?: number;
}

/** Plates of a starter battery: area an Ah and sides, m² and half as thick, m (thin plates of 14 by 12 cm, eight of them for 65 Ah). */
const AREA_M2_PER_AH = 0.0042;
const THICK_M = { positive: 0.6e-3, negative: 0.52e-3 } as const;
const PORES = { positive: 0.55, between: 0.9, negative: 0.6 } as const;
/** Exchange current of each electrode, A an Ah (Gu et al., by their plates' inner surface). */
const EXCHANGE_A = { positive: 0.6, negative: 1.2 } as const;
/** And how it falls with the cold, J/mol. @see Catherino 2006, J. Power Sources 158 (15 to 30 kJ/mol) */
const ACTIVATION = 25_000;
/** An electrode slows down as this power of what is left to convert (a shrinking core's surface). */
const SURFACE = 2 / 3;
/** Gassing, A an Ah at 2.23 V and 20 °C, by volts, and by kelvins (Schiffer et al.). */
const GASSING = { a: 0.2e-3, perV: 11, perK: 0.06, volts: 2.23, tempC: 20 } as const;
/** Hard sulfate is a core that shrinks: of the largest this much goes in an hour on charge (trial). */
const HARD_AN_H = 0.006;
/** A film is burnt off by this share of the rating passed through it. */
const FILM_SHARE = 0.01;
/**
 * Of an electrode's mass a current reaches less the faster it drains, as sulfate closes the ways in before the inside is used: by this power of
 * the current over that of twenty hours (trial: the published tables of `dischargeRates.ts`). @see Pavlov 2011, Lead-Acid Batteries, ch. 3
 */
const REACHES = 0.15;
const SLOW_H = 20;
/** What was drawn fast closes those ways until its acid and its ions have spread through the plate, s (trial: the same tables, and a load test of one that stands half empty). */
const SPREADS_S = 8 * 3600;
/** And less the colder it is, a kelvin from 25 °C. @see IEC 60896-11 and -21 (0.006 at slow rates) */
const REACHES_PER_K = 0.006;
/** An electrode that has this little left to convert has lost most of its voltage; with a few times as much it stands where its acid says. */
const CLIFF = 0.004;
const DAY_S = 86_400;
const LEAST_LEFT = 1e-9;
const LEAST_MOL = 0.02;
/** Longer at once, an explicit step of the thinnest slice would swing. @see Courant, Friedrichs & Lewy 1928 */
const MOST_S = 1.6;

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

/** Share of the ways in that is open at a current, and of the mass at a warmth. */
interface Reach {
  readonly ways: number;
  readonly mass: number;
}
const ALL: Reach = { ways: 1, mass: 1 };

interface Slice {
  readonly thickM: number;
  readonly pores: number;
}

export class PorousCell {
  readonly design: PorousDesign;
  tempC: number;
  /** Acid of each slice, from the positive to the negative, mol/L. */
  readonly molPerL: Float64Array;
  /** Converted of each electrode, and of that grown hard, Ah. */
  private readonly used = { positive: 0, negative: 0 };
  /** What of that was drawn lately, and lies in the ways to the rest. */
  private readonly fresh = { positive: 0, negative: 0 };
  private hardAh: number;
  private filmOhm: number;
  private readonly slices: readonly Slice[];
  private readonly flows: Float64Array;
  /** Of the acid aside, mol/L, and how much of it there is, L. */
  private asideMolPerL: number;
  private readonly asideL: number;
  private readonly areaM2: number;
  private readonly ill: PorousIllness;

  /** @param charge 0–1, mixed and at rest */
  constructor(design: PorousDesign, charge: number, tempC: number, ill: PorousIllness = {}) {
    this.design = design;
    this.tempC = tempC;
    this.ill = ill;
    const { hard = 0, filmOhm = 0, dry = 0 } = ill;
    this.hardAh = hard * design.capacityAh;
    this.filmOhm = filmOhm;
    const { capacityAh, acidMlPerAh, aside, fullMolPerL } = design;
    this.areaM2 = AREA_M2_PER_AH * capacityAh;
    const inPlates = THICK_M.positive * PORES.positive + THICK_M.negative * PORES.negative;
    const betweenM = (((1 - aside) * acidMlPerAh * 1e-6) / AREA_M2_PER_AH - inPlates) / PORES.between;
    // Water that is gone leaves room between the plates, and what is left there conducts less.
    const volumeM = (inPlates + betweenM * PORES.between) * (1 - dry);
    const between = Math.max(0.05, (volumeM - inPlates) / betweenM);
    const slicesOf = (thickM: number, pores: number): Slice[] =>
      Array.from({ length: SLICES }, () => ({ thickM: thickM / SLICES, pores }));
    this.slices = [
      ...slicesOf(THICK_M.positive, PORES.positive),
      ...slicesOf(betweenM, between),
      ...slicesOf(THICK_M.negative, PORES.negative),
    ];
    const usedAh = (1 - charge) * capacityAh;
    this.used.positive = this.used.negative = usedAh;
    const litres = (acidMlPerAh * capacityAh) / 1000;
    const mol = (fullMolPerL - (usedAh * 3600) / FARADAY / litres) / (1 - dry);
    this.molPerL = new Float64Array(this.slices.length).fill(Math.max(LEAST_MOL, mol));
    this.asideMolPerL = Math.max(LEAST_MOL, mol);
    this.asideL = aside * litres * (1 - dry);
    this.flows = new Float64Array(this.slices.length + 1);
  }

  /** The same once more, to do something else to. */
  copy(): PorousCell {
    const again = new PorousCell(this.design, 1, this.tempC, this.ill);
    again.molPerL.set(this.molPerL);
    again.asideMolPerL = this.asideMolPerL;
    Object.assign(again.used, this.used);
    Object.assign(again.fresh, this.fresh);
    again.hardAh = this.hardAh;
    again.filmOhm = this.filmOhm;
    return again;
  }

  /** The same as it would stand charged as far as it goes: what is hard stays, and a film is burnt off. */
  charged(): PorousCell {
    const share = 1 - this.hardAh / this.design.capacityAh;
    const again = new PorousCell(this.design, share, this.tempC, { ...this.ill, filmOhm: 0 });
    again.hardAh = this.hardAh;
    return again;
  }

  /** Charge that is left of what it could hold, 0–1: of the electrode that has less. */
  get charge(): number {
    const { capacityAh, positive } = this.design;
    const holds = capacityAh * Math.min(1, positive * (this.ill.left ?? 1));
    return 1 - Math.max(this.used.positive, this.used.negative) / holds;
  }

  private meanOf(electrode: 'positive' | 'negative'): number {
    const from = electrode === 'positive' ? 0 : 2 * SLICES;
    let sum = 0;
    for (let at = from; at < from + SLICES; at++) sum += this.molPerL[at] as number;
    return sum / SLICES;
  }

  /** What a current finds of the mass; all of it where none is drained. @param amps below 0 while it discharges */
  private reached(amps: number): Reach {
    const rate = Math.max(0, -amps * SLOW_H) / this.design.capacityAh;
    const cold = REACHES_PER_K * (this.tempC - 25) * Math.min(1, rate);
    return { ways: Math.max(1, rate) ** -REACHES, mass: 1 + cold };
  }

  /** Share of an electrode that could still be discharged. */
  private leftOf(electrode: 'positive' | 'negative', { ways, mass }: Reach = ALL): number {
    const fresh = this.fresh[electrode];
    const spread = this.used[electrode] - fresh;
    return Math.max(0, 1 - (spread + fresh / ways) / (this.mostOf(electrode) * mass));
  }

  private mostOf(electrode: 'positive' | 'negative'): number {
    return this.design[electrode] * this.design.capacityAh * (this.ill.left ?? 1);
  }

  /** Of all its acid, mol/L: what a float in it stands by, once it is mixed. */
  bulkMolPerL(): number {
    let [mol, litres] = [this.asideMolPerL * this.asideL, this.asideL];
    for (let at = 0; at < this.slices.length; at++) {
      mol += (this.molPerL[at] as number) * this.litresOf(at);
      litres += this.litresOf(at);
    }
    return mol / litres;
  }

  /** What it would stand at with the acid where it is, V. */
  restV(reached = ALL): number {
    const least = Math.min(this.leftOf('positive', reached), this.leftOf('negative', reached));
    const stands = (equilibriumV(this.meanOf('positive')) + equilibriumV(this.meanOf('negative'))) / 2;
    return stands * -Math.expm1(-least / CLIFF);
  }

  /** Of acid and metal, Ω. */
  ohm(): number {
    const acid = this.slices.reduce((sum, { thickM, pores }, at) => {
      // On average a current crosses half of an electrode.
      const crossed = at < SLICES || at >= 2 * SLICES ? 0.5 : 1;
      const mol = this.molPerL[at] as number;
      return sum + (crossed * thickM) / (conductivity(mol, this.tempC) * pores ** CONDUCTS * this.areaM2);
    }, 0);
    const { left = 1, jointOhm = 0 } = this.ill;
    return (acid + this.design.metalOhm) / left ** 0.6 + jointOhm + this.filmOhm;
  }

  /** What an electrode asks for to give or take a current, V; the reaction's own. @param amps above 0 while it charges */
  private overV(electrode: 'positive' | 'negative', amps: number): number {
    const { capacityAh } = this.design;
    const left =
      amps > 0
        ? Math.max(0, this.used[electrode] - this.hardAh) / this.mostOf(electrode)
        : this.leftOf(electrode, this.reached(amps));
    const acid = this.meanOf(electrode) / this.design.fullMolPerL;
    const exchange =
      EXCHANGE_A[electrode] *
      Math.exp((ACTIVATION / GAS) * (1 / 298.15 - 1 / (this.tempC + ZERO_C))) *
      (this.design.kinetics ?? 1) *
      capacityAh *
      (this.ill.left ?? 1) *
      Math.max(LEAST_LEFT, left) ** SURFACE *
      Math.max(LEAST_LEFT, acid) ** 0.3;
    return ((2 * GAS * (this.tempC + ZERO_C)) / FARADAY) * Math.asinh(amps / (2 * exchange));
  }

  /** What goes into gas at a voltage, A. */
  gassingA(volts: number): number {
    const { a, perV, perK, volts: at, tempC } = GASSING;
    return (
      (this.ill.gas ?? 1) *
      a *
      this.design.capacityAh *
      Math.exp(perV * (volts - at) + perK * (this.tempC - tempC))
    );
  }

  /** Between its posts while the plates themselves take a current, V. @param amps above 0 while it charges */
  private voltsAt(amps: number): number {
    const stands = this.restV(this.reached(amps));
    return stands + amps * this.ohm() + this.overV('positive', amps) + this.overV('negative', amps);
  }

  /**
   * Between its posts under a current, V; what gas takes of it is found.
   * @param amps above 0 while it charges
   */
  volts(amps: number): number {
    return this.voltsAt(this.intoPlates(amps));
  }

  /** Of a current what its plates take, A: the rest makes gas, or goes through a leak. */
  private intoPlates(amps: number): number {
    const { leakOhm = Number.POSITIVE_INFINITY } = this.ill;
    if (amps <= 0 && leakOhm === Number.POSITIVE_INFINITY) return amps;
    const all = (into: number): number => {
      const volts = this.voltsAt(into);
      return into + (amps > 0 ? this.gassingA(volts) : 0) + volts / leakOhm;
    };
    const least = Math.min(0, amps) - 3 / leakOhm;
    return solveRising(amps, least, Math.max(0, amps) + 3 / leakOhm, all, 1e-6 * (Math.abs(amps) + 0.01));
  }

  /** The current it takes at a voltage, gas and all, A. @param mostA no more than this */
  ampsAt(volts: number, mostA: number): number {
    if (this.volts(mostA) <= volts) return mostA;
    return solveRising(volts, 0, mostA, (amps) => this.volts(amps), mostA * 1e-5);
  }

  /** What warms it, W. @param isVented whether the gas carries its energy away @see Berndt 1997 (thermoneutral voltage) */
  heatW(amps: number, isVented: boolean): number {
    const into = this.intoPlates(amps);
    const volts = this.voltsAt(into);
    const gas = amps > 0 && isVented ? 1.48 * this.gassingA(volts) : 0;
    return amps * volts - into * this.restV() - gas;
  }

  /** @param amps above 0 while it charges, the same for so many seconds; what its plates take of it is found once */
  step(amps: number, seconds: number): void {
    const into = amps === 0 ? this.lostA() : this.intoPlates(amps);
    this.filmOhm *= Math.exp((-Math.abs(amps) * seconds) / 3600 / (FILM_SHARE * this.design.capacityAh));
    if (into > 0) this.hardAh = Math.max(0, this.hardAh - this.shrinks(seconds));
    const pieces = Math.ceil(seconds / MOST_S);
    for (let piece = 0; piece < pieces; piece++) {
      this.convert(into, seconds / pieces);
      this.diffuse(seconds / pieces);
    }
  }

  /** @see Sherwood 1975 (a core that shrinks from its surface) */
  private shrinks(seconds: number): number {
    const most = this.design.capacityAh;
    return (HARD_AN_H * most * (this.hardAh / most) ** SURFACE * seconds) / 3600;
  }

  /** Left alone: its acid mixes within hours, and then it only loses charge. */
  stand(seconds: number): void {
    const MIXED_S = 8 * 3600;
    const STEP_S = 60;
    for (let at = 0; at < Math.min(seconds, MIXED_S); at += STEP_S) this.step(0, STEP_S);
    const left = Math.max(0, seconds - MIXED_S);
    const EACH_S = DAY_S / 4;
    for (let at = 0; at < left; at += EACH_S) {
      this.convert(this.lostA(), Math.min(EACH_S, left - at));
      this.asideMolPerL = this.bulkMolPerL();
      this.molPerL.fill(this.asideMolPerL);
    }
  }

  /** What its plates lose standing, by themselves, which is gas and all, and through a leak, A; below 0. */
  private lostA(): number {
    const byItself = (this.design.capacityAh * (this.ill.lostADay ?? 0) * this.charge) / 24;
    return this.intoPlates(0) - byItself;
  }

  /** Charges or discharges both electrodes, and gives or takes the acid of their slices. */
  private convert(into: number, seconds: number): void {
    for (const electrode of ['positive', 'negative'] as const) {
      // What finds nothing left to charge makes gas, and what finds nothing left to give turns the cell: a warm one reaches more than its mass at 25 °C.
      const open = into > 0 ? this.used[electrode] - this.hardAh : this.openAh(electrode, this.reached(into));
      const ah = Math.sign(into) * Math.min(Math.max(0, open), (Math.abs(into) * seconds) / 3600);
      this.used[electrode] -= ah;
      // What goes in finds first what was drawn last.
      const fresh = Math.max(0, this.fresh[electrode] - ah) * Math.exp(-seconds / SPREADS_S);
      this.fresh[electrode] = Math.min(fresh, Math.max(0, this.used[electrode]));
      const mol = (USES[electrode] * ah * 3600) / FARADAY / SLICES;
      const from = electrode === 'positive' ? 0 : 2 * SLICES;
      for (let at = from; at < from + SLICES; at++)
        this.molPerL[at] = Math.max(LEAST_MOL, (this.molPerL[at] as number) + mol / this.litresOf(at));
    }
  }

  /** What a current can still draw of an electrode, Ah. */
  private openAh(electrode: 'positive' | 'negative', reach: Reach): number {
    return this.leftOf(electrode, reach) * this.mostOf(electrode) * reach.mass * reach.ways;
  }

  private litresOf(at: number): number {
    const { thickM, pores } = this.slices[at] as Slice;
    return thickM * pores * this.areaM2 * 1000;
  }

  private diffuse(seconds: number): void {
    const { slices, molPerL, areaM2, flows } = this;
    const kelvin = this.tempC + ZERO_C;
    const diffusion = DIFFUSION * Math.exp(DIFFUSION_K * (1 / 298.15 - 1 / kelvin));
    const open = {
      positive: 1 - CLOGS * (1 - this.leftOf('positive')),
      between: 1,
      negative: 1 - CLOGS * (1 - this.leftOf('negative')),
    };
    const resist = (at: number): number => {
      const part = at < SLICES ? 'positive' : at < 2 * SLICES ? 'between' : 'negative';
      const { thickM, pores } = slices[at] as Slice;
      return thickM / 2 / (diffusion * (pores * open[part]) ** DIFFUSES);
    };
    let before = resist(0);
    for (let at = 1; at < slices.length; at++) {
      const here = resist(at);
      const resists = before + here;
      before = here;
      const fall = (molPerL[at - 1] as number) - (molPerL[at] as number);
      flows[at] = ((fall * 1000) / resists) * areaM2 * seconds;
    }
    const mixed = this.asideL * (-Math.expm1(-seconds / ASIDE_S) / SLICES);
    let given = 0;
    for (let at = SLICES; at < 2 * SLICES; at++) {
      const mol = mixed * (this.asideMolPerL - (molPerL[at] as number));
      molPerL[at] = (molPerL[at] as number) + mol / this.litresOf(at);
      given += mol;
    }
    this.asideMolPerL -= given / this.asideL;
    for (let at = 0; at < slices.length; at++) {
      const net = (flows[at] as number) - (flows[at + 1] as number);
      molPerL[at] = Math.max(LEAST_MOL, (molPerL[at] as number) + net / this.litresOf(at));
    }
  }
}
