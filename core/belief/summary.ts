/** What weighted candidates say of a battery as it stands after its last reading. */
import { CAUSE_IDS, type CauseId } from '../candidate/causes.ts';
import {
  asReal,
  FIGURES,
  figuresOf,
  intervalOf,
  type Figure,
  type Figures,
  type Summary,
} from './figures.ts';
import { lifeOf } from './life.ts';
import { togetherOf } from './onTop.ts';
import { isFar } from '../observation/passages.ts';
import type { Reading } from '../observation/readings.ts';
import type { Candidate, Sample } from './sample.ts';
import type { Shown } from '../observation/shown.ts';
import type { Setting } from '../candidate/traits.ts';

/** Places spread evenly whatever their number. @see Niederreiter 1992 (Kronecker sequence of the golden ratio) */
const GOLDEN = (Math.sqrt(5) - 1) / 2;

/** Figures of a candidate where it stands: they do not change with what is read. */
const known = new WeakMap<Shown, Figures>();

function figuresAt({ traits, shown }: Candidate, setting: Setting, last: Reading | undefined): Figures {
  const latest = shown.at(last ?? {});
  const figures = known.get(latest) ?? figuresOf(traits, setting, latest);
  known.set(latest, figures);
  return last?.kind === 'look'
    ? { ...figures, charge: latest.onCharge(last.minute, 'chargeShare') }
    : figures;
}

/**
 * A figure of every candidate, as a real battery may have it, in the order of the weights.
 * @param last reading taken in; a charge that is still on lies ahead of it
 */
export function valuesOf(
  { candidates }: Sample,
  name: Figure,
  setting: Setting,
  last: Reading | undefined,
): number[] {
  const isCharged = last !== undefined && isFar(last, setting);
  return candidates.map((candidate, index) => {
    const figures = figuresAt(candidate, setting, last);
    const place = (0.5 + index * GOLDEN) % 1;
    return name === 'lifeYears'
      ? lifeOf(candidate.traits, figures.capacity, setting, place)
      : asReal(name, figures[name], isCharged ? 'charged' : 'found', place);
  });
}

export type Causes = Readonly<Record<CauseId, number>>;

/** How likely each cause is. */
export function causesOf(sample: Sample): Causes {
  const mass = sample.byCause();
  return Object.fromEntries(CAUSE_IDS.map((cause) => [cause, mass.get(cause) ?? 0])) as Record<
    CauseId,
    number
  >;
}

/** Causes and figures, each with what it rests on. */
export function summaryOf(sample: Sample, setting: Setting, last: Reading | undefined): Summary {
  const weights = sample.weights();
  const causes = causesOf(sample);
  const intervals = FIGURES.map((name) => [name, intervalOf(valuesOf(sample, name, setting, last), weights)]);
  return {
    causes,
    ranked: CAUSE_IDS.map((cause) => ({ cause, probability: causes[cause] })).sort(
      (a, b) => b.probability - a.probability,
    ),
    together: togetherOf(sample),
    figures: Object.fromEntries(intervals) as Summary['figures'],
  };
}
