/** Plans a delivery off the main thread. */
import { expose } from 'comlink';
import { CHARGERS } from '@cork-ember/core/charge/chargers.ts';
import { helpFor, Planner, type Help, type Plan, type PlanTask } from '@cork-ember/core/schedule/planner.ts';

const planner = {
  plan(task: PlanTask): { plan: Plan; help: Help | undefined } {
    const plan = new Planner(task).best();
    const spare = task.bays[0]?.charger ?? CHARGERS[0];
    return { plan, help: spare ? helpFor(task, plan, spare) : undefined };
  },
};

export type DeliveryPlanner = typeof planner;

expose(planner);
