/** Draws current from a battery of the model: a load tester's seconds or an analyser's hours. */
import { StepControl, type StepOptions } from './adaptive.ts';
import type { CellString } from './cellString.ts';
import { stepperOf } from './stepper.ts';

/** Voltage at the posts now, V. */
export function postVolts(cells: CellString): number {
  let sum = cells.parameters.leadsOhm * cells.currentA;
  for (let g = 0; g < cells.groups; g++)
    sum += (cells.counts[g] as number) * (cells.shown.cellV[g] as number);
  return sum;
}

export interface Drawn {
  readonly seconds: number;
  readonly ah: number;
  /** At the end, and the lowest on the way, V. */
  readonly endV: number;
  readonly lowestV: number;
  readonly stoppedAtV: boolean;
}

/** The end voltage is met this close, V. */
const MET_V = 1e-3;

interface DrawOptions extends StepOptions {
  /** What it showed at each step, V. */
  readonly told?: (seconds: number, volts: number) => void;
}

/**
 * Draws a constant current.
 * @param amps drawn, above 0; 0 lets the battery stand
 * @param untilV stops here
 * @param mostS stops here at the latest
 */
export function draw(
  cells: CellString,
  amps: number,
  untilV: number,
  mostS: number,
  { told, ...steps }: DrawOptions = {},
): Drawn {
  const stepper = stepperOf(cells);
  const control = new StepControl(cells, steps);
  const source = { hold: 'current', amps: -amps } as const;
  let atS = 0;
  let lowestV = Number.POSITIVE_INFINITY;
  // A broken connection carries no such current: the load pulls the posts to nothing at once.
  if (!stepper.step(source, 1e-3)) return { seconds: 0, ah: 0, endV: 0, lowestV: 0, stoppedAtV: true };
  control.begin(0);
  let beforeV = postVolts(cells);
  while (atS < mostS - 1e-9 && beforeV > untilV) {
    const seconds = Math.min(control.nextS, mostS - atS);
    if (!stepper.step(source, seconds)) {
      control.shorten(seconds);
      continue;
    }
    const volts = postVolts(cells);
    if (volts < untilV - MET_V && seconds > 0.01) {
      stepper.undo();
      const part = (beforeV - untilV) / (beforeV - volts);
      control.nextS = Math.max(0.01, seconds * Math.min(0.95, Math.max(0.05, part)));
      continue;
    }
    if (!control.accepts(atS + seconds, seconds)) {
      stepper.undo();
      continue;
    }
    atS += seconds;
    lowestV = Math.min(lowestV, volts);
    beforeV = volts;
    told?.(atS, volts);
  }
  return {
    seconds: atS,
    ah: (amps * atS) / 3600,
    endV: beforeV,
    lowestV: Math.min(lowestV, beforeV),
    stoppedAtV: beforeV <= untilV + MET_V,
  };
}

/** Standing, what moves moves ever slower: steps may grow this long, s. */
const LONGEST_REST_S = 8 * 3600;

/** Lets a battery stand, disconnected. */
export function rest(cells: CellString, seconds: number, steps: StepOptions = {}): Drawn {
  return draw(cells, 0, Number.NEGATIVE_INFINITY, seconds, { longestS: LONGEST_REST_S, ...steps });
}
