/** A battery brought back, and its charges put on and taken off: what the tests of each way share. */
import { treatmentOf } from '../runsheet/plan/atHand.ts';
import type { HouseRules } from '../rules/houseRules.ts';
import type { Treatment } from '../runsheet/definition/step.ts';
import { TestJob } from './testJob.ts';

/** Brought in for recovery, nothing done yet. */
export function brought(typeId: string, rules: Partial<HouseRules> = {}): TestJob {
  const kind = typeId.includes('-F') ? 'flooded' : 'agm';
  return new TestJob(typeId, rules, undefined, `recover-${kind}`);
}

/** The charger goes on at the charge at hand. */
export const start = (sheet: TestJob, currentA: number): TestJob =>
  sheet.put('chargeStarted', { step: sheet.current.key, currentA });
/** And off. */
export const end = (sheet: TestJob): TestJob =>
  sheet.put('chargeEnded', { step: sheet.current.key, fullSignal: false });

/** The treatment of the charge at hand. */
export function treatmentAtHand(sheet: TestJob): Treatment {
  const treatment = treatmentOf(sheet.job.state, sheet.current);
  if (!treatment) throw new Error(`${sheet.current.key} has no treatment`);
  return treatment;
}
