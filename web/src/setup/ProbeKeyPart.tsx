/** The key of a probe that sends by itself, shown once, and how it is to send. */
import { useMutation } from '@tanstack/react-query';
import type { ProbeKey } from '@cork-ember/core/contract/answers.ts';
import type { Device } from '@cork-ember/core/devices/device.ts';
import { PUSHED, type DeviceProfile } from '@cork-ember/core/devices/profile.ts';
import { verbatim } from '@cork-ember/core/units/localise.ts';
import { ask, sentenceOf } from '../api/client.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { ShownOnce } from '../ui/ShownOnce.tsx';

/** What a probe of this kind may send, with figures such as a battery shows. */
const USUAL_FIGURES = { volts: 12.61, amps: 2.1, tempC: 24.5 } as const;

function exampleOf({ speech }: DeviceProfile): string {
  if (speech.protocol !== 'push') return '{}';
  const { asks } = speech;
  return JSON.stringify(
    Object.fromEntries(
      PUSHED.flatMap((what) => {
        const name = asks[what];
        return name === undefined ? [] : [[name, USUAL_FIGURES[what]]];
      }),
    ),
  );
}

export function ProbeKeyPart({ device, profile }: { device: Device; profile: DeviceProfile }) {
  const { id, name } = device;
  const made = useMutation({ mutationFn: () => ask<ProbeKey>(`/api/devices/${id}/key`, {}) });
  const key = made.data?.key;
  const call = `POST ${window.location.origin}/api/devices/${id}/readings\nAuthorization: Bearer ${key ?? ''}\nContent-Type: application/json\n\n${exampleOf(profile)}`;
  return (
    <div className="mt-3 space-y-3">
      <div className="flex flex-wrap items-center gap-3">
        <Button aria-label={`Make it a key: ${name}`} disabled={made.isPending} onClick={() => made.mutate()}>
          Make it a key
        </Button>
        <p className="min-w-0 flex-1 basis-56 text-soft">
          It sends with it what it reads, and comes no further into the shop. A new one shuts out the one
          before.
        </p>
      </div>
      {made.error && <Notice tone="stop">{sentenceOf(made.error)}</Notice>}
      {key !== undefined && (
        <ShownOnce says="Shown once: put it into the probe now." secret={call} shown={verbatim(call)} />
      )}
    </div>
  );
}
