/** Where a battery could stand: the shelf, which takes any number, and every bay nobody stands in. */
import { SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import { useOpenJobs } from '../api/jobs.ts';
import { useShop } from '../api/queries.ts';

export function useFreePlaces(): readonly number[] {
  const { data: shop } = useShop();
  const { jobs } = useOpenJobs();
  const taken = new Set(jobs.map(({ state }) => state.bay));
  return [SHELF, ...(shop?.bays ?? []).map(({ number }) => number).filter((number) => !taken.has(number))];
}
