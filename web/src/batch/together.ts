/** What several batteries ask for at once: one answer for all, or readings down a column. */
import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import type { AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import type { Outline } from '@cork-ember/core/runsheet/log/outline.ts';

export interface AtBench {
  readonly job: Outline;
  readonly hand: AtHand | undefined;
}

export interface CommonGate {
  readonly title: string;
  readonly claims: readonly string[];
  readonly affirmLabel: string;
  readonly jobs: readonly AtBench[];
}

/** Gates about the place, not about one battery: affirmed once, they hold for all that stand before them. */
const OF_THE_PLACE = new Set<string>([STEP.safety]);

export function commonGates(benches: readonly AtBench[]): CommonGate[] {
  const byStep = new Map<string, AtBench[]>();
  for (const bench of benches) {
    const { hand } = bench;
    if (hand?.definition.kind !== 'gate' || !OF_THE_PLACE.has(hand.definition.id) || hand.hold) continue;
    // Two kinds may ask for different things under one name: only the same claims are one answer.
    const key = hand.definition.claims.join('|');
    byStep.set(key, [...(byStep.get(key) ?? []), bench]);
  }
  return [...byStep.values()].flatMap((jobs) => {
    const definition = jobs[0]?.hand?.definition;
    if (jobs.length < 2 || definition?.kind !== 'gate') return [];
    const { title, claims, affirmLabel } = definition;
    return [{ title, claims, affirmLabel, jobs }];
  });
}

export interface Column {
  readonly key: string;
  readonly title: string;
  readonly jobs: readonly AtBench[];
  readonly kind: 'measure' | 'look';
}

/** Measures at which two or more batteries stand, all of whose fields are plain numbers that must be read. */
export function sameReadings(benches: readonly AtBench[]): Column[] {
  const byStep = new Map<string, AtBench[]>();
  for (const bench of benches) {
    const definition = bench.hand?.definition;
    if (definition?.kind !== 'measure') continue;
    const isPlain = definition.fields.every(
      (field) => field.kind === 'number' && !field.optional && !field.shownWhen,
    );
    if (isPlain) byStep.set(definition.id, [...(byStep.get(definition.id) ?? []), bench]);
  }
  return [...byStep.entries()].flatMap(([key, jobs]) => {
    const title = jobs[0]?.hand?.definition.title;
    return jobs.length < 2 || title === undefined ? [] : [{ key, title, jobs, kind: 'measure' as const }];
  });
}

/** Its charger is on, and a look is asked next: not its end. */
const isLookedAt = ({ phase, dueAt, until }: AtHand): boolean =>
  (phase === 'running' || phase === 'complete') && until !== undefined && dueAt !== until;

/** Once hands go round, a look that is due so soon is taken along, ms. */
const TAKEN_ALONG_MS = 15 * 60_000;

/** Batteries on charge whose look is due, and those that may as well be looked at on the same round. */
export function looksDue(benches: readonly AtBench[], now: number): Column[] {
  const onCharge = benches.filter(
    ({ hand }) => hand?.definition.kind === 'charge' && hand.step.charge !== undefined && isLookedAt(hand),
  );
  const dueBy = (at: number) => onCharge.filter(({ hand }) => hand !== undefined && hand.dueAt <= at);
  const jobs = dueBy(now + TAKEN_ALONG_MS);
  if (jobs.length < 2 || dueBy(now).length === 0) return [];
  return [{ key: 'looks', title: 'Look at the charge', jobs, kind: 'look' }];
}
