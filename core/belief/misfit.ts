/**
 * How surprising each reading is to whoever knows the others: what no candidate explains is read again, or the battery is something
 * the model does not know. A value is held against what the candidates, weighed without its reading, would show with the
 * instrument's error and the model's own: the leave-one-out predictive distribution.
 * @see Gelfand, Dey & Chang 1992, Model determination using predictive distributions
 */
import type { Reading } from '../observation/readings.ts';
import { chiSquareAbove } from '../chance/distributions.ts';
import { logLikelihood, tailBelow, termsOf } from '../observation/likelihood.ts';
import { seenBetween } from '../observation/seen.ts';
import type { Shown } from '../observation/shown.ts';
import type { Sample } from './sample.ts';
import type { Setting } from '../candidate/traits.ts';
import { normalised } from './weights.ts';
import type { Work } from './work.ts';

export interface Misfit {
  readonly reading: Reading;
  /** Chance of a reading so far off, either way, were the battery what the others say. */
  readonly chance: number;
  /** Where no one of them stands out: all together fit nothing known, and this one least. */
  readonly isTogether?: true;
}

/** So seldom one of the readings of a battery the model knows is this far off: one battery in fifty. */
const ALARM = 0.02;
/** And all of them together. */
const ALARM_TOGETHER = 0.02;
/** No chance is taken for less than this: its logarithm must be a number. */
const LEAST_CHANCE = 1e-300;
/** Candidates that stand for all where all readings are asked together. */
const ASKED = 120;

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

/** How likely each value of a reading is to lie below what was read, and up to it, were the battery this candidate. */
function belowOf(
  reading: Reading,
  shown: Shown,
  setting: Setting,
): (readonly [below: number, upTo: number])[] {
  const seen = seenBetween(reading, shown);
  if (seen) return [seen];
  return termsOf(reading, shown, setting).map(({ residual, scale }) => {
    const below = tailBelow(residual / scale);
    return [below, below];
  });
}

/** Chance of a value so far from the middle, either way; of what is only seen, with as much as was seen. */
const eitherWay = (below: number, upTo: number): number => Math.min(1, 2 * Math.min(upTo, 1 - below));

/** Of the values of a reading the one that is furthest off, paid for by how many there are. */
function* chanceOf(sample: Sample, reading: Reading, setting: Setting): Work<number> {
  const { candidates } = sample;
  const logs = new Float64Array(candidates.length);
  const values: (readonly [below: Float64Array, upTo: Float64Array])[] = [];
  for (let index = 0; index < candidates.length; index++) {
    const shown = candidates[index]?.shown;
    if (!shown) continue;
    logs[index] = logLikelihood(reading, shown, setting);
    belowOf(reading, shown, setting).forEach(([below, upTo], place) => {
      const columns = (values[place] ??= [
        new Float64Array(candidates.length),
        new Float64Array(candidates.length),
      ]);
      columns[0][index] = below;
      columns[1][index] = upTo;
    });
    yield;
  }
  if (values.length === 0) return 1;
  const weights = weightsWithout(sample, logs);
  const mean = (column: Float64Array): number =>
    column.reduce((sum, value, index) => sum + value * (weights[index] as number), 0);
  const chances = values.map(([below, upTo]) => eitherWay(mean(below), mean(upTo)));
  return Math.min(1, chances.length * Math.min(...chances));
}

/**
 * Chance of all readings being so far off together, were the battery what is believed: of each candidate the values' chances combined, and
 * the mean of that over what is believed.
 * @see Fisher 1932 (combined chances); Gelman, Meng & Stern 1996 (posterior predictive)
 */
function* togetherOf(sample: Sample, readings: readonly Reading[], setting: Setting): Work<number> {
  let sum = 0;
  for (const { shown } of sample.spread(ASKED)) {
    const chances = readings.flatMap((reading) =>
      belowOf(reading, shown, setting).map(([below, upTo]) => eitherWay(below, upTo)),
    );
    const off = chances.reduce((total, chance) => total - 2 * Math.log(Math.max(LEAST_CHANCE, chance)), 0);
    sum += chances.length === 0 ? 1 : chiSquareAbove(off, 2 * chances.length);
    yield;
  }
  return sum / ASKED;
}

/**
 * Readings that do not fit with the others, the least likely first, paid for by how many were made; or, where none of them stands out and
 * all together fit nothing, the one that fits least.
 */
export function* misfitsOf(
  sample: Sample,
  readings: readonly Reading[],
  setting: Setting,
): Work<readonly Misfit[]> {
  const all: Misfit[] = [];
  for (const reading of readings)
    all.push({ reading, chance: readings.length * (yield* chanceOf(sample, reading, setting)) });
  all.sort((a, b) => a.chance - b.chance);
  const found = all.filter(({ chance }) => chance < ALARM);
  const [least] = all;
  if (found.length > 0 || !least) return found;
  const chance = yield* togetherOf(sample, readings, setting);
  return chance < ALARM_TOGETHER ? [{ reading: least.reading, chance, isTogether: true }] : [];
}

/** Half of what is believed with a reading that does not fit, and half without it: intervals that own to the doubt. */
export function doubting(sample: Sample, { reading }: Misfit, setting: Setting): Sample {
  const logs = Float64Array.from(sample.candidates, ({ shown }) => logLikelihood(reading, shown, setting));
  const without = weightsWithout(sample, logs);
  const shares = sample.weights().map((weight, index) => (weight + (without[index] as number)) / 2);
  return sample.weighedAs(shares.map(Math.log));
}
