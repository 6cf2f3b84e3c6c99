/** A charger whose outputs run at one setting: what one bay of it is set to, every other is set to as well. */
import { standsText } from '../entries/place.ts';
import type { JobState } from '../state/jobState.ts';

interface Running {
  readonly charger: string;
  readonly name: string;
  readonly currentA: number;
}

/** The charge that is on at a job, by a charger that cannot be set apart. */
function runningOn({ steps, cursor }: JobState): Running | undefined {
  const charge = steps[cursor]?.charge;
  const run = charge?.runs.at(-1);
  if (!charge?.charger?.sharesSetting || !run || run.to !== undefined) return undefined;
  return { charger: charge.charger.id, name: charge.charger.name, currentA: charge.currentA };
}

/** Amperes apart that no knob tells apart. */
const SAME_A = 0.005;

/**
 * @param after the job as an entry would leave it
 * @param others all other open jobs
 * @returns why its charger cannot be set so, in a sentence; undefined where it can
 */
export function sharedSettingRefusal(after: JobState, others: readonly JobState[]): string | undefined {
  const own = runningOn(after);
  if (!own) return undefined;
  for (const other of others) {
    const running = runningOn(other);
    if (running?.charger !== own.charger || Math.abs(running.currentA - own.currentA) <= SAME_A) continue;
    return `${own.name} has one setting for all its outputs, and ${other.opened.battery.tag} ${standsText(other.bay)} is on it at ${running.currentA.toFixed(2)} A: set this one to the same, or wait until that one is off.`;
  }
  return undefined;
}
