/** What is foretold of thousands, as one row of numbers each: a worker hands them over without copying a tree of objects. */
import type { DateRange, Prediction, VoltRange } from './prediction.ts';

/** Numbers of one battery. */
export const FIGURES = 21;
const [VOLTS, CHARGE, RECHARGE, HARM, START, RATE, SUSPECT, READINGS] = [0, 3, 4, 8, 12, 16, 19, 20] as const;

/** Writes one battery's row. @param index the how manieth it is */
export function writeFigures(figures: Float64Array, index: number, prediction: Prediction | undefined): void {
  const row = index * FIGURES;
  if (!prediction) {
    figures.fill(Number.NaN, row, row + FIGURES);
    return;
  }
  const range = (at: number, { low, likely, high }: VoltRange): void => {
    figures[row + at] = low;
    figures[row + at + 1] = likely;
    figures[row + at + 2] = high;
  };
  const dates = (at: number, { soonest, early, likely, late }: DateRange): void => {
    figures[row + at] = soonest ?? Number.NaN;
    figures[row + at + 1] = early ?? Number.NaN;
    figures[row + at + 2] = likely ?? Number.NaN;
    figures[row + at + 3] = late ?? Number.NaN;
  };
  range(VOLTS, prediction.volts);
  figures[row + CHARGE] = prediction.charge;
  dates(RECHARGE, prediction.recharge);
  dates(HARM, prediction.harm);
  dates(START, prediction.start);
  range(RATE, prediction.rate);
  figures[row + SUSPECT] = Number(prediction.isSuspect);
  figures[row + READINGS] = prediction.readings;
}

/** Reads it. @returns undefined where nothing was foretold of it */
export function readFigures(figures: Float64Array, index: number): Prediction | undefined {
  const row = index * FIGURES;
  const of = (at: number): number => figures[row + at] as number;
  if (Number.isNaN(of(READINGS))) return undefined;
  const range = (at: number): VoltRange => ({ low: of(at), likely: of(at + 1), high: of(at + 2) });
  const dates = (at: number): DateRange => {
    const known: { -readonly [Key in keyof DateRange]: DateRange[Key] } = {};
    if (!Number.isNaN(of(at))) known.soonest = of(at);
    if (!Number.isNaN(of(at + 1))) known.early = of(at + 1);
    if (!Number.isNaN(of(at + 2))) known.likely = of(at + 2);
    if (!Number.isNaN(of(at + 3))) known.late = of(at + 3);
    return known;
  };
  return {
    volts: range(VOLTS),
    charge: of(CHARGE),
    recharge: dates(RECHARGE),
    harm: dates(HARM),
    start: dates(START),
    rate: range(RATE),
    isSuspect: of(SUSPECT) === 1,
    readings: of(READINGS),
  };
}
