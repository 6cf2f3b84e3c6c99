/** What an ended job leaves in the ledger: what was measured of a battery, by which ways, and what it took. */
import { STEP } from '../runsheet/definition/stepIds.ts';
import { spentOn } from '../adapters/jobSpent.ts';
import type { Spent } from '../advice/worth.ts';
import type { Construction } from '../battery/construction.ts';
import { gainsOf, type Gain } from '../runsheet/outcome/gain.ts';
import type { Grade } from '../grading/grade.ts';
import { gradedFrom } from '../runsheet/verdict/proof.ts';
import { contextOf } from '../runsheet/state/context.ts';
import { latest, type JobState } from '../runsheet/state/jobState.ts';
import { procedureOf } from '../runsheet/state/sheet.ts';
import type { Outcome } from '../runsheet/definition/step.ts';
import { numberOf } from '../units/values.ts';

export interface Finding {
  readonly job: string;
  readonly tag: string;
  readonly typeId: string;
  readonly construction: Construction;
  /** "2024-03" */
  readonly dateCode: string;
  readonly endedAt: number;
  readonly outcome: Outcome;
  /** Of a recovery that was proved. */
  readonly grade?: Grade;
  /** Ways taken before the proof, the first first; empty for a commissioning. */
  readonly routes: readonly RouteName[];
  /** At rest, V; what the tester showed, A; by it, mΩ; share of the rating. What was not measured is not there. */
  readonly ocvV?: number;
  readonly crankingA?: number;
  readonly milliohm?: number;
  readonly capacityShare?: number;
  readonly spent: Spent;
}

export interface RouteName {
  readonly id: string;
  readonly title: string;
}

/** Ends of a way, not ways. */
const NO_WAYS: readonly string[] = ['prove', 'retire'];

function routesOf(state: JobState): RouteName[] {
  const { routes = [] } = procedureOf(state);
  const taken = [...new Set((state.routes ?? []).map(({ route }) => route))];
  return taken
    .filter((id) => !NO_WAYS.includes(id))
    .map((id) => ({ id, title: routes.find((route) => route.id === id)?.title ?? id }));
}

/** The grade a recovery was signed with; one that goes to the recycler is R. */
function gradeOf(state: JobState): Grade | undefined {
  if (state.outcome === 'retired') return 'R';
  const proved = latest(state, STEP.proveOcv);
  return state.outcome === 'recovered' && proved
    ? gradedFrom(contextOf(state, proved.round)).grade
    : undefined;
}

/**
 * What a job found.
 * @returns undefined while it is under way
 */
export function findingOf(state: JobState): Finding | undefined {
  const { outcome, endedAt, opened } = state;
  if (!outcome || endedAt === undefined) return undefined;
  const gains = gainsOf(state);
  const after = (what: Gain['what']): number | undefined => gains.find((gain) => gain.what === what)?.after;
  const ocvV = after('Rested voltage') ?? numberOf(latest(state, STEP.testOcv)?.values?.['ocvV']);
  const crankingA = after('Cranking') ?? numberOf(latest(state, STEP.testLoad)?.values?.['testerA']);
  const milliohm = after('Resistance');
  const capacity = after('Capacity');
  const grade = gradeOf(state);
  return {
    job: state.job,
    tag: opened.battery.tag,
    typeId: opened.type.id,
    construction: opened.type.construction,
    dateCode: opened.battery.dateCode,
    endedAt,
    outcome,
    ...(grade === undefined ? {} : { grade }),
    routes: routesOf(state),
    ...(ocvV === undefined ? {} : { ocvV }),
    ...(crankingA === undefined ? {} : { crankingA }),
    ...(milliohm === undefined ? {} : { milliohm }),
    ...(capacity === undefined ? {} : { capacityShare: capacity / 100 }),
    spent: spentOn(state, endedAt),
  };
}
