/** Asks the planner whenever the delivery or the bench changes; the newest question is the one answered. */
import { useEffect, useRef, useState } from 'react';
import type { Help, Plan, PlanTask } from '@cork-ember/core/schedule/planner.ts';
import { sentenceOf } from '../api/client.ts';
import { Hired } from '../workers/hired.ts';
import type { DeliveryPlanner } from '../workers/planner.worker.ts';

const planner = new Hired<DeliveryPlanner>(
  () => new Worker(new URL('../workers/planner.worker.ts', import.meta.url), { type: 'module' }),
);

export interface DrawnDelivery {
  readonly task: PlanTask;
  readonly plan: Plan;
  readonly help: Help | undefined;
}

/** @returns the plan of the newest question answered, and why the newest could not be */
export function useDeliveryPlan(task: PlanTask | undefined): {
  readonly drawn: DrawnDelivery | undefined;
  readonly problem: string | undefined;
} {
  const asked = useRef(0);
  const [answer, setAnswer] = useState<DrawnDelivery>();
  const [problem, setProblem] = useState<string>();
  useEffect(() => () => planner.dismiss(), []);
  useEffect(() => {
    const id = ++asked.current;
    if (!task) return;
    planner
      .ask((worker) => worker.plan(task))
      .then(
        ({ plan, help }) => {
          if (asked.current !== id) return;
          setProblem(undefined);
          setAnswer({ task, plan, help });
        },
        (error: unknown) => {
          if (asked.current === id) setProblem(sentenceOf(error));
        },
      );
  }, [task]);
  return { drawn: task && answer, problem };
}
