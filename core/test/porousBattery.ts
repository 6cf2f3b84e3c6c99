/**
 * A battery of the second cell, ill as a candidate is but by another physics: what a shop would read of it before and after a slow
 * charge, and what is really in it. Cells that are alike are solved once. One that stands reversed it cannot be.
 */
import { onSix } from '../battery/types.ts';
import type { Passage } from '../candidate/passage.ts';
import { faultsOf } from '../candidate/piece.ts';
import { roomOf, type Setting, type Traits } from '../candidate/traits.ts';
import { densityAt } from '../electrolyte/density.ts';
import { solveRising } from '../electrolyte/curve.ts';
import type { Fault } from '../model/faults.ts';
import { soundBattery, soundCell, twentyHourAh, type Rating } from '../model/parameters.ts';
import { CONDUCTANCE_V, dipsAlong, levelWith } from '../observation/modelView.ts';
import { ACCEPTANCE_MOST, besideEachOther, type Reading } from '../observation/readings.ts';
import { molalityOf, PorousCell, type PorousDesign, type PorousIllness } from './porousCell.ts';

const HOUR_S = 3600;
const END_CELL_V = 1.75;
const HELD_CELL_V = 2.4;
const MOST_RESERVE_S = 40 * HOUR_S;
/** Handbook 3.2 and 4: a load of three times the capacity; what stands away in a month. */
const LOAD_PER_AH = 3;
const LOAD_S = 15;
const LOST_A_DAY = { agm: 0.025 / 30, flooded: 0.05 / 30, gel: 0.025 / 30 } as const;
const CONTAMINATED_LOSES = 12;
const CONTAMINATED_GASSES = 3;
const OPEN_OHM = 1e5;
/** Cold cranking. @see SAE J537: 7.2 V of six cells after 30 s at −18 °C */
const CRANKED_C = -18;
const CRANKED_S = 30;
const CRANKED_V = 1.2;
/** A film that is complete, Ω of a cell of an Ah. */
const FILM_OHM_AH = 40;
const DEAD_OHM = 0.2;

/** What is in it, as shares of the rating. */
export interface PorousFigures {
  readonly charge: number;
  readonly capacity: number;
  readonly cranking: number;
}

interface Group {
  readonly cell: PorousCell;
  readonly count: number;
}

class Row {
  readonly groups: readonly Group[];
  tempC: number;

  constructor(groups: readonly Group[], tempC: number) {
    this.groups = groups;
    this.tempC = tempC;
  }

  private sum(of: (cell: PorousCell) => number): number {
    return this.groups.reduce((sum, { cell, count }) => sum + count * of(cell), 0);
  }

  volts(amps: number): number {
    return this.sum((cell) => cell.volts(amps));
  }

  ohm(): number {
    return this.sum((cell) => cell.ohm());
  }

  heatW(amps: number, isVented: boolean): number {
    return this.sum((cell) => cell.heatW(amps, isVented));
  }

  /** The current it takes at a voltage, no more than so much, A. */
  ampsAt(volts: number, mostA: number): number {
    if (this.volts(mostA) <= volts) return mostA;
    return solveRising(volts, 0, mostA, (amps) => this.volts(amps), mostA * 1e-4);
  }

  step(amps: number, seconds: number): void {
    for (const { cell } of this.groups) cell.step(amps, seconds);
  }

  stand(seconds: number): void {
    for (const { cell } of this.groups) cell.stand(seconds);
  }

  warmTo(tempC: number): void {
    this.tempC = tempC;
    for (const { cell } of this.groups) cell.tempC = tempC;
  }

  with(change: (cell: PorousCell) => PorousCell): Row {
    return new Row(
      this.groups.map(({ cell, count }) => ({ cell: change(cell), count })),
      this.tempC,
    );
  }

  copy(): Row {
    return this.with((cell) => cell.copy());
  }

  /** Seconds it gives a current until its end voltage. */
  givesS(amps: number, endV: number, stepS: number): number {
    let [seconds, before] = [0, this.volts(-amps)];
    while (before > endV && seconds < MOST_RESERVE_S) {
      this.step(-amps, stepS);
      const now = this.volts(-amps);
      if (now <= endV) return seconds + (stepS * (before - endV)) / (before - now);
      seconds += stepS;
      before = now;
    }
    return seconds;
  }
}

/** Made so that a sound one keeps what its label says: capacity in twenty hours, resistance, and cold cranking. Worked out once a label. */
const designs = new WeakMap<Rating, PorousDesign>();

function designOf(rating: Rating): PorousDesign {
  const known = designs.get(rating);
  if (known) return known;
  const ratedAh = twentyHourAh(rating);
  const sound = soundCell(rating);
  let design: PorousDesign = {
    capacityAh: ratedAh,
    acidMlPerAh: rating.construction === 'flooded' ? 14 : 10.5,
    // In a mat or a gel nearly all of it is between the plates.
    aside: rating.construction === 'flooded' ? 0.55 : 0.15,
    // 1.280 and 1.300 g/cm³, as such labels say.
    fullMolPerL: rating.construction === 'flooded' ? 4.83 : 5.2,
    metalOhm: 0,
    positive: 1.1,
    negative: 1.45,
  };
  for (let round = 0; round < 2; round++) {
    const amps = ratedAh / 20;
    const one = new Row([{ cell: new PorousCell(design, 1, 25), count: 1 }], 25);
    const gave = (one.givesS(amps, END_CELL_V, 60) * amps) / HOUR_S;
    design = { ...design, capacityAh: (design.capacityAh * ratedAh) / gave };
  }
  const target = sound.metalOhm + sound.acidOhm;
  const acid = new PorousCell(design, 1, 25).ohm();
  design = { ...design, metalOhm: Math.max(0.1 * target, target - acid) };
  const cranksV = (kinetics: number): number => {
    const cell = new PorousCell({ ...design, kinetics }, 1, CRANKED_C);
    cell.step(-sound.crankingA, CRANKED_S);
    return cell.volts(-sound.crankingA);
  };
  design = { ...design, kinetics: solveRising(CRANKED_V, 0.2, 50, cranksV, 1e-2) };
  designs.set(rating, design);
  return design;
}

/** What a fault does to a cell, where it is one of the cell's. */
function illWith(ill: PorousIllness, fault: Fault, rating: Rating): PorousIllness {
  switch (fault.kind) {
    case 'worn':
    case 'weak':
      return { ...ill, left: (ill.left ?? 1) * fault.share };
    case 'dry':
      return { ...ill, dry: fault.share };
    case 'short':
      return { ...ill, leakOhm: fault.ohms };
    case 'open':
      return { ...ill, jointOhm: OPEN_OHM };
    case 'joint':
      return { ...ill, jointOhm: fault.ohms };
    case 'contaminated':
      return {
        ...ill,
        lostADay: CONTAMINATED_LOSES * LOST_A_DAY[rating.construction],
        gas: CONTAMINATED_GASSES,
      };
    case 'low':
      return { ...ill, hard: (ill.hard ?? 0) + fault.lacks * fault.hardShare };
    case 'layered':
    case 'reversed':
      return ill;
  }
}

function rowOf(traits: Traits, { rating, tempC }: Setting): Row {
  const sound = designOf(rating);
  const { capacityFactor: f, crankingFactor: g, charge, hardShare, film } = traits;
  const design: PorousDesign = {
    ...sound,
    capacityAh: sound.capacityAh * f,
    fullMolPerL: sound.fullMolPerL * traits.acidFactor ** 0.5,
    metalOhm: sound.metalOhm / g,
  };
  const faults = faultsOf(traits);
  const groups = new Map<string, { cell: PorousCell; count: number }>();
  for (let cell = 1; cell <= rating.cells; cell++) {
    const own = faults.filter(
      (fault) => !('cell' in fault) || fault.cell === undefined || fault.cell === cell,
    );
    const start: PorousIllness = {
      hard: (1 - charge) * hardShare * Math.min(1, traits.left),
      filmOhm: (film * FILM_OHM_AH) / design.capacityAh,
      lostADay: LOST_A_DAY[rating.construction],
    };
    const ill = own.reduce((sofar, fault) => illWith(sofar, fault, rating), start);
    const low = own.reduce((sum, fault) => (fault.kind === 'low' ? sum + fault.lacks : sum), 0);
    const isDead = (ill.leakOhm ?? 1) < DEAD_OHM;
    const most = design.positive * (ill.left ?? 1);
    const stands = 1 - Math.min(most, isDead ? most : (1 - charge + low) * Math.min(1, most));
    const key = JSON.stringify([ill, stands]);
    const known = groups.get(key);
    if (known) known.count += 1;
    else groups.set(key, { cell: new PorousCell(design, stands, tempC, ill), count: 1 });
  }
  return new Row([...groups.values()], tempC);
}

/** What a shop would read of one, and what is in it. */
export class PorousBattery {
  private readonly setting: Setting;
  private readonly traits: Traits;
  private readonly found: Row;
  private charged: { readonly row: Row; readonly readings: readonly Reading[] } | undefined;

  /** @param traits of no battery that stands reversed */
  constructor(traits: Traits, setting: Setting) {
    this.setting = setting;
    this.traits = traits;
    this.found = rowOf(traits, setting);
    this.found.stand(2 * HOUR_S);
  }

  private testerA(row: Row): number {
    return onSix(CONDUCTANCE_V, this.setting.rating) / row.ohm();
  }

  /** Rested voltage and load test. */
  early(): Reading[] {
    const { capacityAh } = this.setting.rating;
    const amps = LOAD_PER_AH * capacityAh;
    const row = this.found.copy();
    const shown: number[] = [];
    for (let second = 0; second < LOAD_S; second++) {
      row.step(-amps, 1);
      shown.push(Math.max(0, row.volts(-amps)));
    }
    for (let at = 0; at < 12; at++) row.step(0, 5);
    return [
      { kind: 'ocv', volts: this.found.volts(0), isRested: true },
      {
        kind: 'load',
        amps,
        seconds: LOAD_S,
        volts: Math.min(...shown),
        firstV: shown[0] ?? 0,
        backV: row.volts(0),
      },
    ];
  }

  /** Every other check of one that stands there. */
  standing(): Reading[] {
    const { rating } = this.setting;
    const volts = HELD_CELL_V * rating.cells;
    const row = this.found.copy();
    for (let at = 0; at < 24; at++) row.step(row.ampsAt(volts, rating.capacityAh * ACCEPTANCE_MOST), 5);
    const accepted: Reading = {
      kind: 'acceptance',
      volts,
      amps: row.ampsAt(volts, rating.capacityAh * ACCEPTANCE_MOST),
    };
    const tester: Reading = { kind: 'tester', amps: this.testerA(this.found) };
    return rating.construction === 'flooded' ? [tester, accepted, ...this.opened()] : [tester, accepted];
  }

  private cells(): PorousCell[] {
    return this.found.groups.flatMap(({ cell, count }) => Array.from({ length: count }, () => cell));
  }

  private opened(): Reading[] {
    const { layering, dryShare } = this.traits;
    const cells = this.cells();
    const densities = cells.map((cell, index): Reading => {
      const molality = molalityOf(cell.bulkMolPerL());
      const share = (molality * 0.09808) / (1 + molality * 0.09808);
      const top = (share * (1 - layering)) / (1 - share * layering);
      return { kind: 'density', cell: index + 1, density: densityAt(top, this.found.tempC) };
    });
    const levels = cells.map((_, index): Reading => ({
      kind: 'level',
      cell: index + 1,
      level: levelWith(dryShare),
    }));
    // Each plate stands against lead in its own acid; what a cell lacks its halves lack alike.
    const volts = dipsAlong(cells.map((cell) => cell.volts(0)));
    return [...besideEachOther(densities), ...levels, { kind: 'dips', volts }];
  }

  /** A slow charge with its looks, a rest and a hold. */
  private goThrough(): { readonly row: Row; readonly readings: readonly Reading[] } {
    if (this.charged) return this.charged;
    const { setting } = this;
    const [charge, rest, hold] = setting.passages ?? [];
    if (!charge || !rest || !hold) throw new RangeError('A charge, a rest and a hold are needed.');
    const row = this.found.copy();
    const readings = chargedBy(row, charge, setting);
    row.stand(rest.minutes * 60);
    row.warmTo(roomOf(setting));
    const before = row.volts(0);
    readings.push({ kind: 'ocv', stage: 2, volts: before, isRested: true });
    readings.push({ kind: 'tester', stage: 2, amps: this.testerA(row) });
    row.stand(hold.minutes * 60);
    readings.push({ kind: 'hold', stage: 3, volts: before - row.volts(0) });
    this.charged = { row, readings };
    return this.charged;
  }

  /** @param testA what its capacity is counted at, A */
  afterCharge(testA: number): readonly Reading[] {
    const { row, readings } = this.goThrough();
    const seconds = row.copy().givesS(testA, END_CELL_V * this.setting.rating.cells, 20);
    return [...readings, { kind: 'reserve', stage: 3, amps: testA, minutes: seconds / 60 }];
  }

  /** @param at as it was found, or after the charge */
  figures(at: 'standing' | 'full'): PorousFigures {
    const row = at === 'standing' ? this.found : this.goThrough().row;
    const { rating } = this.setting;
    const ratedAh = twentyHourAh(rating);
    const full = row.with((cell) => cell.charged());
    full.warmTo(25);
    const sound = new PorousCell(designOf(rating), 1, 25).ohm() * rating.cells;
    const cranking = sound / full.ohm();
    const seconds = full.givesS(ratedAh / 20, END_CELL_V * rating.cells, 60);
    return {
      charge: Math.max(0, Math.min(...row.groups.map(({ cell }) => cell.charge))),
      capacity: (seconds * ratedAh) / 20 / HOUR_S / ratedAh,
      cranking,
    };
  }
}

/** Its looks on the way. */
function chargedBy(row: Row, { amps, volts, minutes }: Passage, setting: Setting): Reading[] {
  const { heatCapacityJPerK, heatLossWPerK } = soundBattery(setting.rating);
  const LOOKS_MIN = [60, 480, 1200];
  const readings: Reading[] = [];
  for (let minute = 0; minute < minutes;) {
    const taken = row.ampsAt(volts, amps);
    // Where the voltage is held the current falls, and is asked for more often.
    const step = taken < amps ? 0.5 : 2;
    row.step(taken, step * 60);
    const heat = row.heatW(taken, setting.rating.construction === 'flooded');
    const lost = heatLossWPerK * (row.tempC - roomOf(setting));
    row.warmTo(row.tempC + ((heat - lost) * step * 60) / heatCapacityJPerK);
    const passed = LOOKS_MIN.filter((look) => look > minute && look <= minute + step);
    minute += step;
    const now = row.ampsAt(volts, amps);
    for (const look of passed)
      readings.push({ kind: 'look', minute: look, volts: row.volts(now), amps: now, tempC: row.tempC });
  }
  return readings;
}
