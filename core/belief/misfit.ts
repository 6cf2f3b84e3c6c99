/**
 * How surprising each reading is to whoever knows the others: what no candidate explains is read again, or the battery is something
 * the model does not know. A value is held against what the candidates, weighed without its reading, would show with the
 * instrument's error and the model's own: the leave-one-out predictive distribution.
 * @see Gelfand, Dey & Chang 1992, Model determination using predictive distributions
 */
import type { Reading } from '../observation/readings.ts';
import { logLikelihood, tailBelow, termsOf } from '../observation/likelihood.ts';
import type { Sample } from './sample.ts';
import type { Setting } from '../candidate/traits.ts';
import { normalised } from './weights.ts';
import type { Work } from './work.ts';

export interface Misfit {
  readonly reading: Reading;
  /** Chance of a reading so far off, either way, were the battery what the others say. */
  readonly chance: number;
}

/** So seldom one of the readings of a battery the model knows is this far off: one battery in fifty. */
const ALARM = 0.02;

/**
 * Weights without one of the readings. What that reading alone made likely would weigh without bound: it is truncated.
 * @see Ionides 2008, Truncated importance sampling
 */
function weightsWithout(sample: Sample, logs: Float64Array): Float64Array {
  const weights = sample.weights();
  const least = logs.reduce((low, log) => Math.min(low, log), Number.POSITIVE_INFINITY);
  const ratios = logs.map((log) => Math.exp(least - log));
  const mean = ratios.reduce((sum, ratio, index) => sum + ratio * (weights[index] as number), 0);
  const most = mean * Math.sqrt(sample.effective());
  return normalised(
    ratios.map((ratio, index) => Math.log((weights[index] as number) * Math.min(ratio, most))),
  );
}

/** Of the values of a reading the one that is furthest off, paid for by how many there are. */
function* chanceOf(sample: Sample, reading: Reading, setting: Setting): Work<number> {
  const { candidates } = sample;
  const logs = new Float64Array(candidates.length);
  const below: Float64Array[] = [];
  for (let index = 0; index < candidates.length; index++) {
    const shown = candidates[index]?.shown;
    if (!shown) continue;
    logs[index] = logLikelihood(reading, shown, setting);
    termsOf(reading, shown, setting).forEach(({ residual, scale }, place) => {
      const values = (below[place] ??= new Float64Array(candidates.length));
      values[index] = tailBelow(residual / scale);
    });
    yield;
  }
  if (below.length === 0) return 1;
  const weights = weightsWithout(sample, logs);
  const chances = below.map((values) => {
    const share = values.reduce((sum, value, index) => sum + value * (weights[index] as number), 0);
    return 2 * Math.min(share, 1 - share);
  });
  return Math.min(1, chances.length * Math.min(...chances));
}

/** Readings that do not fit with the others, the least likely first; paid for by how many were made. */
export function* misfitsOf(
  sample: Sample,
  readings: readonly Reading[],
  setting: Setting,
): Work<readonly Misfit[]> {
  const found: Misfit[] = [];
  for (const reading of readings) {
    const chance = readings.length * (yield* chanceOf(sample, reading, setting));
    if (chance < ALARM) found.push({ reading, chance });
  }
  return found.sort((a, b) => a.chance - b.chance);
}

/** Half of what is believed with a reading that does not fit, and half without it: intervals that own to the doubt. */
export function doubting(sample: Sample, { reading }: Misfit, setting: Setting): Sample {
  const logs = Float64Array.from(sample.candidates, ({ shown }) => logLikelihood(reading, shown, setting));
  const without = weightsWithout(sample, logs);
  const shares = sample.weights().map((weight, index) => (weight + (without[index] as number)) / 2);
  return sample.weighedAs(shares.map(Math.log));
}
