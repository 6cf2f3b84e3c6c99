/** How likely a reading is, were the battery a candidate: what it would show, the instrument's error and the model's own. */
import { studentBelow } from '../chance/distributions.ts';
import { logTail, TAIL } from '../chance/tail.ts';
import { hydrometerTo25 } from '../electrolyte/density.ts';
import { ERRORS, probeC } from './modelView.ts';
import { waterLostG } from '../model/show.ts';
import { dischargeAt } from './quickTests.ts';
import { ACCEPTANCE_MOST, type FloatedCell, type Reading } from './readings.ts';
import { seenLog } from './seen.ts';
import { testerAt25 } from '../battery/testerWarmth.ts';
import type { Shown } from './shown.ts';
import type { Setting } from '../candidate/traits.ts';

/**
 * How far the model may be off beside the instrument: V, share, g/cm³. One standard deviation, from
 * `docs/model.md` and widened for what the model does not know.
 */
const MODEL = {
  restedV: 0.05,
  surfaceV: 0.2,
  loadV: 0.12,
  /** How far it sags between the first second and the last, and what it springs back to. */
  sagV: 0.08,
  sagShare: 0.15,
  backV: 0.06,
  conductanceShare: 0.1,
  /** A cell against the mean of those read with it, K: how heat spreads between cells is assumed. */
  cellK: 1.5,
  /** Of all cells together, and of one beside the others (practice: good strings stand within 0.004 of their mean). */
  density: 0.01,
  cellDensity: 0.004,
  /** Of each half-step along the cells, all together and one beside the others. */
  dipV: 0.03,
  cellDipV: 0.02,
  dipShare: 0.25,
  acceptanceShare: 0.3,
  acceptanceA: 0.05,
  reserveShare: 0.006,
  /** What Peukert's exponent differs by within a class: 1.15 to 1.30 of flooded ones, 1.10 to 1.15 of others, and what tables of the class leave open (handbook 1 and 7). */
  exponent: { flooded: 0.043, agm: 0.025, gel: 0.025 },
  reserveMin: 0.5,
  /** While it is drawn down, per cell, at first and between looks; and in time, as a share. */
  drainCellV: 0.012,
  fallCellV: 0.003,
  drainShare: 0.025,
  holdV: 0.012,
  /** Between pieces of a type, a hundredth of their mass: some 45 g an Ah and cell (assumed). */
  massGPerAh: 0.45,
  /** On charge: per cell, share, share of capacity, and K; a bay is draughtier or warmer than the model's. */
  lookCellV: 0.03,
  lookShare: 0.35,
  lookAPerAh: 0.004,
  lookK: 2.5,
} as const;

/** Chance of a standardised error below this, under the same tail. */
export const tailBelow = (z: number): number => studentBelow(z, TAIL);

/**
 * Steps between dips, in pairs: where within a cell its loss sits is not known, and it may show before or after. All together they are the
 * battery's own voltage, each beside their mean is the cells' difference.
 */
function dipTerms(read: readonly number[], shown: readonly number[]): Term[] {
  const steps = read.length - 2;
  if (read.length !== shown.length || steps < 1) return [];
  const pairs = (values: readonly number[]): number[] =>
    Array.from(
      { length: steps },
      (_, step) => ((values[step + 1] ?? 0) + (values[step + 2] ?? values[step + 1] ?? 0)) / 2,
    );
  const [is, expected] = [pairs(read), pairs(shown)];
  const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / steps;
  const [isMean, expectedMean] = [mean(is), mean(expected)];
  return [
    term('mean', isMean - expectedMean, MODEL.dipV),
    ...is.slice(0, -1).map((value, step) => {
      const differs = (expected[step] ?? 0) - expectedMean;
      const scale = Math.hypot(DIP_SCALE, MODEL.dipShare * differs);
      return term(`step ${step + 1}`, value - isMean - differs, scale);
    }),
  ];
}

const restedScale = (isRested: boolean): number =>
  Math.hypot(ERRORS.meterV.absolute, isRested ? MODEL.restedV : MODEL.surfaceV);
const LOAD_SCALE = Math.hypot(ERRORS.loadV.absolute, MODEL.loadV);
const DENSITY_SCALE = Math.hypot(ERRORS.hydrometer.absolute, MODEL.cellDensity);
const CONDUCTANCE_SHARE = Math.hypot(ERRORS.conductanceA.share, MODEL.conductanceShare);
/** A tester's figure is trusted no closer than this, A and Ω. */
const LEAST_TESTER_A = 5;
const LEAST_OHM = 1e-4;
const CELL_SCALE_K = Math.hypot(ERRORS.thermometerC.absolute, MODEL.cellK);
const DIP_SCALE = Math.hypot(ERRORS.dipV.absolute, MODEL.cellDipV);
/** A starter's current is a guess: about three times the capacity for a few seconds (practice), give or take, V. */
const CRANK_PER_AH = 3;
const CRANK_S = 3;
const CRANK_SCALE = 0.7;
const massScale = ({ rating: { cells, capacityAh } }: Setting): number =>
  Math.hypot(ERRORS.scaleG.absolute, MODEL.massGPerAh * capacityAh * cells);
const LEAST_RESERVE_MIN = Math.hypot(ERRORS.analyserMin.absolute, MODEL.reserveMin);
/** The rate capacity is stated at, h. */
const RATED_H = 20;
const HOLD_SCALE = Math.hypot(Math.SQRT2 * ERRORS.meterV.absolute, MODEL.holdV);
const LOOK_SCALE_V = (cells: number): number => MODEL.lookCellV * cells;

/**
 * The most the logarithm of a reading's likelihood can be, whatever the battery: what lets a hopeless candidate
 * go unsimulated.
 */
export function mostLogLikelihood(reading: Reading, setting: Setting): number {
  const { cells, capacityAh } = setting.rating;
  switch (reading.kind) {
    case 'ocv':
      return -Math.log(restedScale(reading.isRested));
    case 'load':
      return (
        -Math.log(LOAD_SCALE) -
        (reading.firstV === undefined ? 0 : Math.log(MODEL.sagV)) -
        (reading.backV === undefined ? 0 : Math.log(MODEL.backV))
      );
    case 'tester':
      return -Math.log(LEAST_TESTER_A);
    case 'resistance':
      return -Math.log(LEAST_OHM);
    case 'warmth':
      return -Math.log(MODEL.lookK) - (reading.cells.length - 1) * Math.log(CELL_SCALE_K);
    case 'density':
      return reading.isMixed === false ? 0 : -Math.log(DENSITY_SCALE);
    case 'dips':
      return -Math.log(MODEL.dipV) - (cells - 2) * Math.log(DIP_SCALE);
    case 'acceptance':
      return -Math.log(MODEL.acceptanceA);
    case 'look':
      return -Math.log(LOOK_SCALE_V(cells)) - Math.log(MODEL.lookAPerAh * capacityAh) - Math.log(MODEL.lookK);
    case 'crank':
      return -Math.log(CRANK_SCALE);
    case 'mass':
      return -Math.log(massScale(setting));
    case 'reserve':
      return -Math.log(LEAST_RESERVE_MIN);
    case 'drain':
      return -Math.log((reading.before ? MODEL.fallCellV : MODEL.drainCellV) * cells);
    case 'hold':
      return -Math.log(HOLD_SCALE);
    case 'level':
    case 'bubbles':
    case 'charger':
      return 0;
  }
}

/** A value of a reading against what a candidate would show; `scale` in the value's unit. */
export interface Term {
  /** Its name within the reading. */
  readonly name: string;
  readonly residual: number;
  readonly scale: number;
}

const term = (name: string, residual: number, scale: number): Term => ({ name, residual, scale });

/** Of a held voltage the current tells, of a held current the voltage. */
function lookTerms(
  { minute, volts, amps, tempC }: Extract<Reading, { kind: 'look' }>,
  shown: Shown,
  { rating: { cells, capacityAh } }: Setting,
): Term[] {
  const expectedA = shown.onCharge(minute, 'amps');
  const scaleA = Math.max(MODEL.lookAPerAh * capacityAh, expectedA * MODEL.lookShare);
  return [
    term('volts', volts - shown.onCharge(minute, 'volts'), LOOK_SCALE_V(cells)),
    term('amps', amps - expectedA, scaleA),
    term('tempC', tempC - shown.onCharge(minute, 'tempC'), MODEL.lookK),
  ];
}

/** The sag is held against the sag: what resistance is off by, first and last share. */
function loadTerms(
  { amps, seconds, volts, firstV, backV, within = 0 }: Extract<Reading, { kind: 'load' }>,
  shown: Shown,
): Term[] {
  const expected = shown.load(amps, seconds);
  const sag = expected.firstV - expected.lowestV;
  return [
    term('volts', volts - expected.lowestV, Math.hypot(LOAD_SCALE, within / Math.sqrt(3))),
    ...(firstV === undefined
      ? []
      : [term('firstV', firstV - volts - sag, Math.max(MODEL.sagV, MODEL.sagShare * sag))]),
    ...(backV === undefined ? [] : [term('backV', backV - expected.backV, MODEL.backV)]),
  ];
}

/** Both at 25 °C, where the warmth of the acid was taken: it need not be the room's. */
function densityOff({ cell, density, tempC }: FloatedCell, shown: Shown): number {
  const expected = shown.density(cell);
  return tempC === undefined
    ? density - expected
    : hydrometerTo25(density, tempC) - hydrometerTo25(expected, probeC(shown.cells, cell));
}

/**
 * Cells of one look share what the hydrometer and the model are off by; what tells one from another is far better known. Each is held
 * against what those before it leave to be expected.
 * @see Gelman et al. 2013, Bayesian Data Analysis, 5.4 (normal with a common mean)
 */
function densityTerm(reading: Extract<Reading, { kind: 'density' }>, shown: Shown): Term {
  const { within = 0, beside = [] } = reading;
  // Anywhere in an interval is as likely as in its middle: its own spread is a half over root three.
  const own = Math.hypot(ERRORS.hydrometer.absolute, MODEL.cellDensity, within / Math.sqrt(3));
  const common = MODEL.density ** 2;
  const known = beside.length * common + own ** 2;
  const expected = (beside.reduce((sum, one) => sum + densityOff(one, shown), 0) * common) / known;
  return term(
    'density',
    densityOff(reading, shown) - expected,
    Math.hypot(own, own * Math.sqrt(common / known)),
  );
}

/** How warm they are together, which the room decides as well; and each but the last against their mean. */
function warmthTerms({ cells }: Extract<Reading, { kind: 'warmth' }>, shown: Shown): Term[] {
  const expected = cells.map(({ cell }) => shown.warmthC(cell));
  const mean = (values: readonly number[]): number =>
    values.reduce((sum, value) => sum + value, 0) / values.length;
  const [meanC, expectedMeanC] = [mean(cells.map(({ tempC }) => tempC)), mean(expected)];
  return [
    term('mean', meanC - expectedMeanC, MODEL.lookK),
    ...cells
      .slice(0, -1)
      .map(({ cell, tempC }, index) =>
        term(`cell ${cell}`, tempC - meanC - ((expected[index] as number) - expectedMeanC), CELL_SCALE_K),
      ),
  ];
}

function drainTerm(
  { amps, minute, volts, before }: Extract<Reading, { kind: 'drain' }>,
  shown: Shown,
  cells: number,
): Term {
  const discharge = shown.discharge(amps);
  const [expected, slope] = dischargeAt(discharge, minute);
  const late = slope * minute * MODEL.drainShare;
  if (!before) return term('volts', volts - expected, Math.hypot(MODEL.drainCellV * cells, late));
  const [expectedBefore] = dischargeAt(discharge, before.minute);
  const fall = before.volts - volts;
  return term('volts', fall - (expectedBefore - expected), Math.hypot(MODEL.fallCellV * cells, late));
}

/**
 * Values a reading measures, each against what a candidate would show.
 * @returns none for what is only seen, or means nothing yet
 */
export function termsOf(reading: Reading, found: Shown, setting: Setting): readonly Term[] {
  const shown = found.at(reading);
  const { capacityAh } = setting.rating;
  switch (reading.kind) {
    case 'look':
      return lookTerms(reading, shown, setting);
    case 'load':
      return loadTerms(reading, shown);
    case 'mass':
      return [term('deficitG', reading.deficitG - waterLostG(shown.cells), massScale(setting))];
    case 'crank': {
      const { lowestV } = shown.load(CRANK_PER_AH * capacityAh, CRANK_S);
      return [term('volts', reading.volts - lowestV, CRANK_SCALE)];
    }
    case 'reserve': {
      const expected = shown.reserveMin(reading.amps);
      // What is asked in the end is the capacity of twenty hours; how far a faster discharge tells of it is not known so well.
      const faster = Math.log(Math.max(1, (reading.amps * RATED_H) / setting.rating.capacityAh));
      const share = Math.hypot(
        ERRORS.analyserMin.share,
        MODEL.reserveShare,
        MODEL.exponent[setting.rating.construction] * faster,
      );
      const scale = Math.max(LEAST_RESERVE_MIN, expected * share);
      return [term('minutes', reading.minutes - expected, scale)];
    }
    case 'drain':
      return [drainTerm(reading, shown, setting.rating.cells)];
    case 'hold': {
      const before = found.after(Math.max(0, (reading.stage ?? 0) - 1));
      return [term('volts', reading.volts - (before.ocvV() - shown.ocvV()), HOLD_SCALE)];
    }
    case 'ocv': {
      const offset = reading.isRested ? 0 : 0.1;
      return [term('volts', reading.volts - shown.ocvV() - offset, restedScale(reading.isRested))];
    }
    case 'tester': {
      const expected = shown.referenceA() * (setting.testerFactor ?? 1);
      const seen = testerAt25(reading.amps, shown.caseC());
      if (!seen.isTold) return [];
      const scale = Math.hypot(expected * CONDUCTANCE_SHARE, seen.unsureA);
      return [term('amps', seen.amps - expected, Math.max(LEAST_TESTER_A, scale))];
    }
    case 'resistance': {
      const expected = shown.referenceOhm();
      // It is what a tester's amperes are reckoned from, so the cold does to one what it does to the other.
      const seen = testerAt25(1 / reading.ohm, shown.caseC());
      if (!seen.isTold) return [];
      const scale = expected * Math.hypot(CONDUCTANCE_SHARE, seen.unsureA / seen.amps);
      return [term('ohm', 1 / seen.amps - expected, Math.max(LEAST_OHM, scale))];
    }
    case 'warmth':
      return warmthTerms(reading, shown);
    case 'density':
      return reading.isMixed === false ? [] : [densityTerm(reading, shown)];
    case 'acceptance': {
      const expected = shown.acceptedA(reading.volts, capacityAh * ACCEPTANCE_MOST);
      const scale = Math.max(MODEL.acceptanceA, expected * MODEL.acceptanceShare);
      return [term('amps', reading.amps - expected, scale)];
    }
    case 'dips':
      return dipTerms(reading.volts, shown.dips());
    case 'charger':
    case 'level':
    case 'bubbles':
      return [];
  }
}

/**
 * Logarithm of the likelihood of a reading, were the battery this candidate.
 * @param found the candidate as it was found; what was done since, the setting says
 */
export function logLikelihood(reading: Reading, found: Shown, setting: Setting): number {
  return (
    seenLog(reading, found) ??
    termsOf(reading, found, setting).reduce((sum, { residual, scale }) => sum + logTail(residual, scale), 0)
  );
}
