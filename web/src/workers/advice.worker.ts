/** Runs courses forward on candidate batteries, off the main thread; two of these share the work. */
import { expose } from 'comlink';
import type { Course } from '@cork-ember/core/advice/courses.ts';
import { outcomeOf, type Outcome } from '@cork-ember/core/advice/outcome.ts';
import type { Setting, Traits } from '@cork-ember/core/candidate/traits.ts';
import { turn } from './turn.ts';

let latest = 0;

const forecaster = {
  /**
   * @param id rises with every question; an older one is given up
   * @param told called with each candidate done
   * @returns outcomes by candidate, by course; undefined when a newer question came meanwhile
   */
  async outcomes(
    courses: readonly Course[],
    candidates: readonly Traits[],
    setting: Setting,
    id: number,
    told: () => void,
  ): Promise<Outcome[][] | undefined> {
    latest = Math.max(latest, id);
    const all: Outcome[][] = [];
    for (const candidate of candidates) {
      all.push(courses.map((course) => outcomeOf(course, candidate, setting)));
      told();
      await turn();
      if (latest !== id) return undefined;
    }
    return all;
  },
};

export type Forecaster = typeof forecaster;

expose(forecaster);
