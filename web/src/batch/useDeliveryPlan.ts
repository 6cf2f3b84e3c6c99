/** Asks the planner whenever the delivery or the bench changes; the newest question is the one answered. */
import { wrap } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Help, Plan, PlanTask } from '@cork-ember/core/schedule/planner.ts';
import type { DeliveryPlanner } from '../workers/planner.worker.ts';

export interface DeliveryPlan {
  readonly task: PlanTask;
  readonly plan: Plan;
  readonly help: Help | undefined;
}

export function useDeliveryPlan(task: PlanTask | undefined): DeliveryPlan | undefined {
  const worker = useRef<ReturnType<typeof wrap<DeliveryPlanner>>>(undefined);
  const asked = useRef(0);
  const [answer, setAnswer] = useState<DeliveryPlan>();
  useEffect(() => {
    const thread = new Worker(new URL('../workers/planner.worker.ts', import.meta.url), { type: 'module' });
    worker.current = wrap<DeliveryPlanner>(thread);
    return () => thread.terminate();
  }, []);
  useEffect(() => {
    const id = ++asked.current;
    if (!task) return;
    void worker.current?.plan(task).then(({ plan, help }) => {
      if (asked.current === id) setAnswer({ task, plan, help });
    });
  }, [task]);
  return task && answer;
}
