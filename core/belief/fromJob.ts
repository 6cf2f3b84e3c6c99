/** What a job's run sheet and evidence tell a belief. */
import { constructionOf } from '../battery/types.ts';
import { ratingOf } from '../model/fromType.ts';
import { ageInMonths, latest, type JobState } from '../runsheet/state.ts';
import type { Complaint, History } from './causes.ts';
import type { Reading } from './readings.ts';
import type { Setting } from './traits.ts';

const USUAL_C = 21;
const numberOf = (value: unknown): number | undefined => (typeof value === 'number' ? value : undefined);

/** Rating, history and warmth of the battery of a recovery. */
export function settingOf(state: JobState): Setting {
  const { type, battery } = state.opened;
  const told = latest(state, 'history')?.values ?? {};
  const flatMonths = numberOf(told['flatMonths']);
  const history: History = {
    construction: constructionOf(type.kind),
    ageYears: ageInMonths(battery.dateCode, state.openedAt) / 12,
    complaint: (told['complaint'] as Complaint | undefined) ?? 'unknown',
    ...(flatMonths === undefined ? {} : { flatMonths }),
  };
  return {
    rating: ratingOf(type),
    history,
    tempC: numberOf(latest(state, 'first-ocv')?.values?.['tempC']) ?? USUAL_C,
  };
}

const LEVELS = { covered: 'at-line', 'all-low': 'low', bare: 'plates-bare' } as const;

/** Readings of the triage steps and of the evidence, in the order they were asked for. */
export function readingsOf(state: JobState): Reading[] {
  const { cells } = state.opened.type;
  const readings: Reading[] = [];
  const first = latest(state, 'first-ocv')?.values ?? {};
  const ocvV = numberOf(first['ocvV']);
  if (ocvV !== undefined) readings.push({ kind: 'ocv', volts: ocvV, isRested: first['rested'] !== 'no' });
  const level = LEVELS[String(latest(state, 'levels-before')?.values?.['levels']) as keyof typeof LEVELS];
  const densities = latest(state, 'density-before')?.values ?? {};
  for (let cell = 1; cell <= cells; cell++) {
    if (level !== undefined) readings.push({ kind: 'level', cell, level });
    const density = numberOf(densities[`density${cell}`]);
    if (density !== undefined) readings.push({ kind: 'density', cell, density });
  }
  const testerA = numberOf(latest(state, 'first-tester')?.values?.['testerA']);
  if (testerA !== undefined) readings.push({ kind: 'tester', amps: testerA });
  return [...readings, ...(state.evidence ?? []).map(({ reading }) => reading)];
}
