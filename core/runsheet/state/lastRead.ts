/** What was read of a battery last: offered where the same is asked again. */
import type { StepValues } from '../../units/values.ts';
import type { JobState } from './jobState.ts';

/** @returns the numbers of all measured steps so far, the latest of each name */
export function lastNumbers({ steps }: Pick<JobState, 'steps'>): Readonly<Record<string, number>> {
  const last: Record<string, number> = {};
  for (const { values = {} } of steps)
    for (const [name, value] of Object.entries(values satisfies StepValues))
      if (typeof value === 'number') last[name] = value;
  return last;
}
