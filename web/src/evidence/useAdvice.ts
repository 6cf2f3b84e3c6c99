/** Ways back held against each other on the belief: run in two workers, priced and explained at once. */
import { useQuery } from '@tanstack/react-query';
import { proxy, wrap, type Remote } from 'comlink';
import { useMemo, useState } from 'react';
import { compare, type Comparison } from '@cork-ember/core/advice/compare.ts';
import { stepsOf } from '@cork-ember/core/adapters/routeMinutes.ts';
import { foundOf, valuedOf, waysOf } from '@cork-ember/core/adapters/waysForJob.ts';
import type { Course, Ways } from '@cork-ember/core/advice/courses.ts';
import { bestCheck, JUDGES, type Advised, type NextBest } from '@cork-ember/core/advice/nextCheck.ts';
import type { Outcome } from '@cork-ember/core/advice/outcome.ts';
import { recommend, type Recommendation } from '@cork-ember/core/advice/recommend.ts';
import type { Costs } from '@cork-ember/core/advice/worth.ts';
import type { Setting, Traits } from '@cork-ember/core/belief/traits.ts';
import { SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import { procedureOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { useOpenJobs, useShop } from '../api/queries.ts';
import type { Forecaster } from '../workers/advice.worker.ts';
import { believer, type BeliefOf } from '../belief/useBelief.ts';

const WORKERS = 2;

let pool: readonly Remote<Forecaster>[] = [];
let asked = 0;

function forecasters(): readonly Remote<Forecaster>[] {
  if (pool.length === 0)
    pool = Array.from({ length: WORKERS }, () =>
      wrap<Forecaster>(
        new Worker(new URL('../workers/advice.worker.ts', import.meta.url), { type: 'module' }),
      ),
    );
  return pool;
}

/** @returns outcomes by course, by candidate */
async function forecast(
  courses: readonly Course[],
  candidates: readonly Traits[],
  setting: Setting,
  onProgress: (share: number) => void,
): Promise<Outcome[][]> {
  const id = ++asked;
  let done = 0;
  const told = proxy(() => {
    done += 1;
    if (id === asked) onProgress(done / candidates.length);
  });
  const workers = forecasters();
  const shares = await Promise.all(
    workers.map((worker, at) =>
      worker.outcomes(
        courses,
        candidates.filter((_, index) => index % workers.length === at),
        setting,
        id,
        told,
      ),
    ),
  );
  const byCandidate = candidates.map(
    (_, index) => shares[index % workers.length]?.[Math.floor(index / workers.length)],
  );
  if (byCandidate.some((one) => one === undefined)) throw new Error('A newer question came meanwhile.');
  return courses.map((_, course) => byCandidate.flatMap((one) => one?.[course] ?? []));
}

export interface Advice {
  /** On charge now: nothing is compared until it is off. */
  readonly isOn: boolean;
  readonly ways: Ways;
  readonly comparison: Comparison | undefined;
  /** What the comparison is priced with. */
  readonly recommendation: Recommendation | undefined;
  readonly checks: readonly Advised[] | undefined;
  /** The check to make next; undefined once what is done is settled. */
  readonly best: NextBest | undefined;
  /** 0–1 while courses are run. */
  readonly progress: number | undefined;
  readonly error: unknown;
}

/** Batteries on the bench that are brought back beside this one: a round of looks is shared by them. */
function useTogether(state: JobState): number {
  const { jobs } = useOpenJobs();
  const beside = jobs.filter(
    ({ state: other }) =>
      other.job !== state.job && other.outcome === undefined && other.bay !== SHELF && isRecovery(other),
  );
  return 1 + beside.length;
}

const isRecovery = (state: JobState): boolean => procedureOf(state).routes !== undefined;

export function useAdvice(state: JobState, { question, course, believed }: BeliefOf): Advice {
  const { data: shop } = useShop();
  const [progress, setProgress] = useState<number>();
  const { setting } = question;
  const ways = waysOf(state, shop?.chargers);
  const key = ['advice', state.job, question, ways.courses];
  const run = useQuery({
    queryKey: key,
    queryFn: async () => {
      setProgress(0);
      try {
        const candidates = await believer().spread(question, JUDGES);
        return { candidates, outcomes: await forecast(ways.courses, candidates, setting, setProgress) };
      } finally {
        setProgress(undefined);
      }
    },
    // While it is on charge its looks decide; ways on from there are compared once it is off.
    enabled: believed?.isAtRest === true && state.outcome === undefined && !course.isOn,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const costs = useMemo(
    // Gloves and soda were spent as it was taken in: whatever is done now, they are not spent again.
    (): Costs | undefined => shop && { ...shop.costs, consumables: 0, pricePerKwh: shop.room.pricePerKwh },
    [shop],
  );
  const battery = valuedOf(state);
  const together = useTogether(state);
  const steps = stepsOf(procedureOf(state).routes ?? [], state.opened);
  const comparison =
    run.data && costs
      ? compare(ways.courses, run.data.outcomes, setting, costs, steps, { battery, together })
      : undefined;
  const checks = useQuery({
    queryKey: [...key, 'checks', costs],
    queryFn: () =>
      believer().checks(question, run.data?.candidates ?? [], ways.courses, comparison?.worths ?? []),
    enabled: comparison !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  return {
    isOn: course.isOn,
    ways,
    comparison,
    recommendation:
      comparison && costs ? recommend(comparison.scored, battery, costs, foundOf(state)) : undefined,
    checks: checks.data,
    best: checks.data && costs ? bestCheck(checks.data, costs.handsPerHour) : undefined,
    // What the workers still tell once all is run comes too late to be shown.
    progress: run.isFetching ? progress : undefined,
    error: run.error ?? checks.error,
  };
}
