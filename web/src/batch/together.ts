/** What several batteries ask for at once: one answer for all, or readings down a column. */
import { STEP } from '@cork-ember/core/runsheet/definition/stepIds.ts';
import type { AtHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import type { Outline } from '@cork-ember/core/runsheet/log/outline.ts';
import type { NumberField } from '@cork-ember/core/runsheet/definition/step.ts';

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
  readonly stepId: string;
  readonly title: string;
  readonly fields: readonly NumberField[];
  readonly jobs: readonly AtBench[];
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
  return [...byStep.entries()].flatMap(([stepId, jobs]) => {
    const definition = jobs[0]?.hand?.definition;
    if (jobs.length < 2 || definition?.kind !== 'measure') return [];
    const fields = definition.fields.flatMap((field) => (field.kind === 'number' ? [field] : []));
    return [{ stepId, title: definition.title, fields, jobs }];
  });
}
