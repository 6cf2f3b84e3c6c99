/** Ways back held against each other on the belief: run in two workers, priced and explained at once. */
import { skipToken, useQuery, useQueryClient } from '@tanstack/react-query';
import { proxy } from 'comlink';
import { useMemo } from 'react';
import { compare, type Comparison, type Scored } from '@cork-ember/core/advice/compare.ts';
import { stepsOf } from '@cork-ember/core/adapters/routeMinutes.ts';
import { foundOf, valuedOf, waysOf } from '@cork-ember/core/adapters/waysForJob.ts';
import type { Course, Ways } from '@cork-ember/core/advice/courses.ts';
import { bestCheck, JUDGES, type Advised, type NextBest } from '@cork-ember/core/advice/bestCheck.ts';
import type { Outcome } from '@cork-ember/core/advice/outcome.ts';
import { recommend, type Recommendation } from '@cork-ember/core/advice/recommend.ts';
import { sureOf, type Sure } from '@cork-ember/core/advice/sure.ts';
import type { Costs } from '@cork-ember/core/advice/worth.ts';
import type { InForce } from '@cork-ember/core/learning/learned.ts';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import type { Setting, Traits } from '@cork-ember/core/candidate/traits.ts';
import { SHELF } from '@cork-ember/core/runsheet/entries/place.ts';
import { procedureOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import { useOpenJobs } from '../api/jobs.ts';
import { useLearned, useShop } from '../api/queries.ts';
import type { Forecaster } from '../workers/advice.worker.ts';
import { Hired } from '../workers/hired.ts';
import { believer, type BeliefOf } from './useBelief.ts';

const WORKERS = 2;

const forecasters = Array.from(
  { length: WORKERS },
  () =>
    new Hired<Forecaster>(
      () => new Worker(new URL('../workers/advice.worker.ts', import.meta.url), { type: 'module' }),
    ),
);
let asked = 0;

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
  const shares = await Promise.all(
    forecasters.map((forecaster, at) =>
      forecaster.ask((worker) =>
        worker.outcomes(
          courses,
          candidates.filter((_, index) => index % WORKERS === at),
          setting,
          id,
          told,
        ),
      ),
    ),
  );
  const byCandidate = candidates.map((_, index) => shares[index % WORKERS]?.[Math.floor(index / WORKERS)]);
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
  /** The way that is recommended, as it was compared. */
  readonly scored: Scored | undefined;
  /** How far that is to be trusted. */
  readonly sure: Sure | undefined;
  readonly checks: readonly Advised[] | undefined;
  /** The check to make next; undefined once what is done is settled. */
  readonly best: NextBest | undefined;
  /** 0–1 while courses are run. */
  readonly progress: number | undefined;
  readonly error: unknown;
  /** Asks once more what could not be answered. */
  readonly again: () => void;
}

const fromNow = new WeakMap<Shop, Costs>();

/** Gloves and soda were spent as it was taken in: whatever is done now, they are not spent again. The same for all who ask. */
function costsFromNow(shop: Shop): Costs {
  const known = fromNow.get(shop);
  if (known) return known;
  const costs = { ...shop.costs, consumables: 0, pricePerKwh: shop.room.pricePerKwh };
  fromNow.set(shop, costs);
  return costs;
}

interface Compared {
  readonly costs: Costs;
  readonly state: JobState;
  readonly together: number;
  readonly learned: InForce | undefined;
  readonly comparison: Comparison;
}

/** By the outcomes that were compared: who goes from the choice to the whole argument waits for it but once. */
const compared = new WeakMap<readonly Outcome[][], Compared>();

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
  const learned = useLearned().data?.inForce;
  const queries = useQueryClient();
  const { setting } = question;
  const chargers = shop?.chargers;
  const ways = useMemo(() => waysOf(state, chargers), [state, chargers]);
  const key = ['advice', state.job, question, ways.courses];
  // Whoever looks at this battery sees the same progress; it is told, never fetched.
  const { data: progress } = useQuery<number>({ queryKey: [...key, 'progress'], queryFn: skipToken });
  const run = useQuery({
    queryKey: key,
    queryFn: async () => {
      const tell = (share: number): void => void queries.setQueryData([...key, 'progress'], share);
      tell(0);
      const candidates = await believer.ask((worker) => worker.spread(question, JUDGES));
      return { candidates, outcomes: await forecast(ways.courses, candidates, setting, tell) };
    },
    // While it is on charge its looks decide; ways on from there are compared once it is off.
    enabled: believed?.isAtRest === true && state.outcome === undefined && !course.isOn,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const costs = shop && costsFromNow(shop);
  const together = useTogether(state);
  const { data } = run;
  const comparison = useMemo(() => {
    if (!data || !costs) return undefined;
    const known = compared.get(data.outcomes);
    if (
      known?.costs === costs &&
      known.state === state &&
      known.together === together &&
      known.learned === learned
    )
      return known.comparison;
    const steps = stepsOf(procedureOf(state).routes ?? [], state.opened, learned?.minutes);
    const comparison = compare(ways.courses, data.outcomes, setting, costs, steps, {
      battery: valuedOf(state),
      together,
      isUncharged: foundOf(state).isUncharged,
      ...(learned ? { ways: learned.ways[state.opened.type.construction] ?? {} } : {}),
    });
    compared.set(data.outcomes, { costs, state, together, learned, comparison });
    return comparison;
  }, [data, costs, state, ways, setting, together, learned]);
  const recommendation = useMemo(
    () =>
      comparison && costs ? recommend(comparison.scored, valuedOf(state), costs, foundOf(state)) : undefined,
    [comparison, costs, state],
  );
  const sure = useMemo(
    () =>
      comparison && costs && recommendation
        ? sureOf(comparison, recommendation.course, { costs, battery: valuedOf(state) })
        : undefined,
    [comparison, costs, recommendation, state],
  );
  const checks = useQuery({
    queryKey: [...key, 'checks', costs],
    queryFn: () =>
      believer.ask((worker) =>
        worker.checks(question, run.data?.candidates ?? [], ways.courses, comparison?.committed ?? []),
      ),
    enabled: comparison !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  return {
    isOn: course.isOn,
    ways,
    comparison,
    recommendation,
    scored: comparison?.scored.find(({ course: { id } }) => id === recommendation?.course),
    sure,
    checks: checks.data,
    best: checks.data && costs ? bestCheck(checks.data, costs.handsPerHour) : undefined,
    // What the workers still tell once all is run comes too late to be shown.
    progress: run.isFetching ? progress : undefined,
    error: run.error ?? checks.error,
    again: () => void (run.error ? run.refetch() : checks.refetch()),
  };
}
