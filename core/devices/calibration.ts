/**
 * What a device shows against what is true, taken at two points by a better instrument; between and beyond them it is taken for straight.
 * @see JCGM 200:2012 (VIM), 2.39 calibration, 4.30 calibration diagram; two points by least squares are exact
 */
import type { Driver } from './driver.ts';
import type { Asked, Pushed, Told } from './profile.ts';

export interface CalibrationPoint {
  readonly shown: number;
  /** By the better instrument. */
  readonly is: number;
}

export type CalibrationLine = readonly [CalibrationPoint, CalibrationPoint];

export interface Calibration {
  /** Shop time, ms. */
  readonly at: number;
  /** Due again after so long. */
  readonly everyMonths: number;
  readonly lines: Partial<Record<Pushed, CalibrationLine>>;
}

/** More than this share off is no calibration: the device is broken, or the points are of another one. */
export const MOST_SLOPE_OFF = 0.1;
/** The points lie so far apart at least, in the unit of what is read: closer ones tell of noise. */
export const LEAST_APART: Readonly<Record<Pushed, number>> = { volts: 1, amps: 0.5, tempC: 5 };

/** Of what is asked and told: which line it goes by. */
const LINE_OF: Partial<Record<Asked | Told, Pushed>> = {
  volts: 'volts',
  setVolts: 'volts',
  mostVolts: 'volts',
  leastVolts: 'volts',
  amps: 'amps',
  setAmps: 'amps',
  mostAmps: 'amps',
  tempC: 'tempC',
};

const slopeOf = ([a, b]: CalibrationLine): number => (b.is - a.is) / (b.shown - a.shown);

/** What is, by what is shown. */
export const corrected = (line: CalibrationLine, shown: number): number =>
  line[0].is + slopeOf(line) * (shown - line[0].shown);

/** What it has to be told so that it is so. */
export const uncorrected = (line: CalibrationLine, is: number): number =>
  line[0].shown + (is - line[0].is) / slopeOf(line);

/** Why two points are none to calibrate by; undefined where they are. */
export function lineProblem(what: Pushed, line: CalibrationLine): string | undefined {
  const [a, b] = line;
  if (!(Math.abs(b.shown - a.shown) >= LEAST_APART[what]))
    return `Calibration: two points at least ${LEAST_APART[what]} apart.`;
  return Math.abs(slopeOf(line) - 1) > MOST_SLOPE_OFF
    ? 'Calibration: the device is off by more than a tenth: it is broken, or the points are of another one.'
    : undefined;
}

const MONTH_MS = 30.44 * 86_400_000;

/** When it is due again, shop time, ms. */
export const calibrationDueAt = ({ at, everyMonths }: Calibration): number => at + everyMonths * MONTH_MS;

/** The same device, its figures put right on their way in and out. */
export function calibrated(driver: Driver, calibration: Calibration | undefined): Driver {
  if (!calibration) return driver;
  const lineFor = (what: Asked | Told): CalibrationLine | undefined => {
    const name = LINE_OF[what];
    return name && calibration.lines[name];
  };
  return {
    profile: driver.profile,
    identify: () => driver.identify(),
    ask: async (what) => {
      const shown = await driver.ask(what);
      const line = lineFor(what);
      return line ? corrected(line, shown) : shown;
    },
    tell: (what, value) => {
      const line = lineFor(what);
      return driver.tell(what, line && value !== undefined ? uncorrected(line, value) : value);
    },
  };
}
