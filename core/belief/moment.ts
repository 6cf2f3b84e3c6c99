/**
 * The answer of the moment: what would be believed after other readings, by weighing the candidates alone, while
 * nothing is drawn anew. What surprises counts only as far as enough of them bear it.
 */
import { logLikelihood } from '../observation/likelihood.ts';
import { isFar } from '../observation/passages.ts';
import { isDear, type Reading } from '../observation/readings.ts';
import type { Sample } from './sample.ts';
import type { Setting } from '../candidate/traits.ts';

/** Candidates the weight is to rest on, at least. */
const LEAST = 12;
/** So many stand for all where a reading costs each a test of its own, and where it costs each a charge or a discharge. */
const TESTED = 300;
const CHARGED = 60;

export interface Change {
  /** Taken back, or left out for others that tell more. */
  readonly gone: readonly Reading[];
  readonly come: readonly Reading[];
}

/** What has to be taken back and taken in to get from some readings to others. */
export function changeBetween(from: readonly Reading[], to: readonly Reading[]): Change {
  const missing = (all: readonly Reading[], others: readonly Reading[]): Reading[] => {
    const left = others.map((reading) => JSON.stringify(reading));
    return all.filter((reading) => {
      const place = left.indexOf(JSON.stringify(reading));
      if (place >= 0) left.splice(place, 1);
      return place < 0;
    });
  };
  return { gone: missing(from, to), come: missing(to, from) };
}

/** How many candidates at most are asked about a reading. */
function askedOf(reading: Reading, setting: Setting): number {
  if (isFar(reading, setting) || reading.kind === 'reserve' || reading.kind === 'drain') return CHARGED;
  return isDear(reading) ? TESTED : Number.POSITIVE_INFINITY;
}

/** Candidates weighed by a change of readings, those first that cost next to nothing; fewer stand for all by and by. */
export function weighedBy(sample: Sample, { gone, come }: Change, setting: Setting): Sample {
  return [Number.POSITIVE_INFINITY, TESTED, CHARGED].reduce((before, most) => {
    const asked = (readings: readonly Reading[]): Reading[] =>
      readings.filter((reading) => askedOf(reading, setting) === most);
    const [back, more] = [asked(gone), asked(come)];
    if (back.length + more.length === 0) return before;
    const few = before.candidates.length > most ? before.thinned(most) : before;
    return weighed(few, back, more, setting);
  }, sample);
}

function weighed(
  sample: Sample,
  gone: readonly Reading[],
  come: readonly Reading[],
  setting: Setting,
): Sample {
  const logs = Float64Array.from(sample.candidates, ({ shown }) => {
    const log = (sum: number, reading: Reading): number => sum + logLikelihood(reading, shown, setting);
    return come.reduce(log, 0) - gone.reduce(log, 0);
  });
  return sample.heavierBy(logs, sample.bearable(logs, 1, LEAST));
}
