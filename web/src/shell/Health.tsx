/** What is wrong around the shop, for whoever can see to it: said on its own machine and to a lead, while it is so. */
import { useQuery } from '@tanstack/react-query';
import { HeartPulse } from 'lucide-react';
import type { Health as Answer, HealthPart } from '@cork-ember/core/contract/health.ts';
import { Strip } from './Strip.tsx';

const LOOK_EVERY_MS = 600_000;

/** A copy that was missed once, and clocks that differ, are told elsewhere or mend themselves. */
const TOLD: Readonly<Record<keyof Answer['parts'], HealthPart['state']>> = {
  store: 'ill',
  disk: 'watch',
  copy: 'ill',
  clock: 'ill',
  wire: 'watch',
};

/** Any answer tells: one of a shop that is ill comes with an error's number. */
async function fetchHealth(): Promise<Partial<Answer>> {
  return (await (await fetch('/healthz')).json()) as Partial<Answer>;
}

export function Health() {
  const { data } = useQuery({
    queryKey: ['health'],
    queryFn: fetchHealth,
    refetchInterval: LOOK_EVERY_MS,
    staleTime: LOOK_EVERY_MS,
  });
  const sentences = Object.entries(data?.parts ?? {})
    .filter(([name, { state }]) => state === 'ill' || state === TOLD[name as keyof Answer['parts']])
    .map(([, { says }]) => says);
  if (sentences.length === 0) return null;
  return (
    <Strip>
      <HeartPulse aria-hidden className="size-5 shrink-0" /> {sentences.join(' ')}
    </Strip>
  );
}
