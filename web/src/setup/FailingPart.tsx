/** Has a device that is not there fail: what the bench does then is seen before it has to. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { SimulatedPart } from '@cork-ember/core/devices/device.ts';
import {
  CLIPS,
  DEVICE_FAULTS,
  FAULTS_OF,
  type Clips,
  type DeviceFault,
  type Failing,
} from '@cork-ember/core/devices/simulated/failings.ts';
import { ask, sentenceOf } from '../api/client.ts';
import { Combobox } from '../ui/Combobox.tsx';
import { Named } from '../ui/Named.tsx';
import { sayTrouble } from '../ui/say.ts';

const FAILINGS = ['failings'] as const;
const WELL = 'well';

const CLIP_CHOICES = Object.entries(CLIPS).map(([value, label]) => ({ value, label }));

export function FailingPart({ id, name, part }: { id: string; name: string; part: SimulatedPart }) {
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: FAILINGS,
    queryFn: () => ask<readonly Failing[]>('/api/devices/failings'),
  });
  const now = data?.find((one) => one.id === id);
  const change = useMutation({
    mutationFn: (next: Pick<Failing, 'fault' | 'clips'>) =>
      ask<readonly Failing[]>(`/api/devices/${id}/fail`, next),
    onSuccess: (all) => client.setQueryData(FAILINGS, all),
    onError: (error) => sayTrouble(sentenceOf(error)),
  });
  if (!now) return null;
  const { fault, clips } = now;
  return (
    <details className="mt-2" open={fault !== null || clips !== 'on' ? true : undefined}>
      <summary className="flex min-h-12 cursor-pointer items-center text-soft">To try: make it fail</summary>
      <div className="grid items-start gap-3 sm:grid-cols-2">
        <Named label="What is wrong with it">
          <Combobox
            label={`What is wrong with it: ${name}`}
            className="w-full"
            value={fault ?? WELL}
            placeholder="nothing"
            choices={[
              { value: WELL, label: 'nothing' },
              ...FAULTS_OF[part].map((value) => ({ value, label: DEVICE_FAULTS[value] })),
            ]}
            onChoose={(value) =>
              change.mutate({ fault: value === WELL ? null : (value as DeviceFault), clips })
            }
          />
        </Named>
        {part === 'supply' && (
          <Named label="How the clips sit">
            <Combobox
              label={`How the clips sit: ${name}`}
              className="w-full"
              value={clips}
              placeholder={CLIPS.on}
              choices={CLIP_CHOICES}
              onChoose={(value) => change.mutate({ fault, clips: value as Clips })}
            />
          </Named>
        )}
      </div>
    </details>
  );
}
