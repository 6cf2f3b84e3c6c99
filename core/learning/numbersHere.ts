/**
 * Figures that lie about a handbook's by a factor: minutes of hands, and what the tester shows. Their logarithms are taken to be
 * normal about the shop's own, and that about the handbook's.
 * @see Gelman et al. 2013, Bayesian Data Analysis, 2.5 (normal data, known variance)
 */
import { group, sum } from 'd3-array';
import type { Lesson } from './lesson.ts';

/** One figure as the handbook has it, as it was found, and as it is reckoned with from now on. */
export interface NumberHere {
  readonly count: number;
  /** What was found over what the handbook says: middle of those here, and once it is shrunk to the handbook. */
  readonly found: number;
  readonly factor: number;
}

/** Spread of one finding and of shops, each as a standard deviation of the logarithm: together how many findings outweigh the handbook. */
interface Spreads {
  readonly one: number;
  readonly shops: number;
}

/** A step takes half or twice as long from time to time; shops differ by a third (reasoned). */
const MINUTES: Spreads = { one: 0.6, shops: 0.3 };
/** What a tester shows lies about what it should by 15 % (handbook 2.6), and a piece is off by some 8 (its makers' classes). */
const TESTER: Spreads = { one: 0.15, shops: 0.08 };

/** @param logs of each finding, the logarithm of what was found over the handbook's */
function numberHere(logs: readonly number[], { one, shops }: Spreads): NumberHere {
  const worth = one ** 2 / shops ** 2;
  const mean = sum(logs) / Math.max(1, logs.length);
  return {
    count: logs.length,
    found: Math.exp(mean),
    factor: Math.exp(sum(logs) / (worth + logs.length)),
  };
}

/** A tester's figure here over what it should be. */
export const testerHere = (lessons: readonly Lesson[]): NumberHere =>
  numberHere(
    lessons.flatMap(({ tester }) => tester),
    TESTER,
  );

/** By step, what it takes here over what the handbook gives it. */
export type MinutesHere = Readonly<Record<string, NumberHere>>;

export function minutesHere(lessons: readonly Lesson[]): MinutesHere {
  const all = lessons.flatMap(({ minutes }) => minutes);
  return Object.fromEntries(
    [...group(all, ({ step }) => step)].map(([step, timed]) => [
      step,
      numberHere(
        timed.map(({ minutes, usualMin }) => Math.log(minutes / usualMin)),
        MINUTES,
      ),
    ]),
  );
}
