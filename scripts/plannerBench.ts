/** How long the planner takes over a whole delivery: thirty batteries of every type into eight bays. */
import { CATALOGUE } from '@cork-ember/core/demo/catalogue.ts';
import { CHARGERS } from '@cork-ember/core/charge/chargers.ts';
import { STANDARD_RULES } from '@cork-ember/core/rules/houseRules.ts';
import { procedureFor } from '@cork-ember/core/runsheet/procedures/procedures.ts';
import { Planner, type PlanTask } from '@cork-ember/core/schedule/planner.ts';
import { HOURS, MORNING } from '@cork-ember/core/test/testJob.ts';

const stopwatch = globalThis.performance;
const HOUR = 3_600_000;

function delivery(): PlanTask {
  const types = CATALOGUE.flatMap((type) => {
    const procedure = procedureFor(type);
    return procedure ? [{ type, procedure: procedure.id }] : [];
  });
  const batteries = Array.from({ length: 30 }, (_, i) => {
    const { type, procedure } = types[i % types.length] as (typeof types)[number];
    const id = `B${i}`;
    const dueAt = MORNING + (8 + ((i * 7) % 50)) * HOUR;
    const battery = { tag: id, serial: '', dateCode: '2026-01', owner: 'stock' };
    const opened = {
      procedure,
      battery,
      type,
      rules: STANDARD_RULES,
      hours: HOURS,
      bay: 1,
      promisedAt: dueAt,
    };
    return { id, dueAt, opened };
  });
  const [charger] = CHARGERS;
  const bays = charger
    ? Array.from({ length: 8 }, (_, i) => ({ number: i + 1, charger, freeAt: MORNING }))
    : [];
  return { now: MORNING, hours: HOURS, hands: 2, busy: [], batteries, bays };
}

/** The first plan, which runs every type's charge on the model, and one after it, ms. */
export function plannerMs(): readonly [number, number] {
  const timed = (): number => {
    const begun = stopwatch.now();
    new Planner(delivery()).best();
    return stopwatch.now() - begun;
  };
  return [timed(), timed()];
}
