/** How a device is wired: the channel of a scanner, and what the leads of a supply or load lose on their way. */
import type { Device } from '@cork-ember/core/devices/device.ts';
import type { DeviceProfile } from '@cork-ember/core/devices/profile.ts';
import type { DevicePartProps } from './devicePart.ts';
import { NumberField } from '../ui/NumberField.tsx';

const MILLI = 1000;

/** Whether a profile says where the channel goes. */
function hasChannels({ speech }: DeviceProfile): boolean {
  if (speech.protocol === 'modbus') return true;
  return speech.protocol === 'scpi' && Object.values(speech.asks).some((ask) => ask.includes('{}'));
}

function wiredWords({ channel, leadsOhm }: Device): string {
  if (channel !== undefined) return `channel ${channel}`;
  return leadsOhm === undefined ? 'as it comes' : `leads of ${(leadsOhm * MILLI).toFixed(0)} mΩ`;
}

export function WiringPart({ device, profile, onChange }: DevicePartProps) {
  const { channel, leadsOhm } = device;
  const givesCurrent = profile.kind === 'supply' || profile.kind === 'load';
  if (!givesCurrent && !hasChannels(profile)) return null;
  const { channel: _channel, leadsOhm: _leads, ...rest } = device;
  const wired = (next: { channel?: number | undefined; leadsOhm?: number | undefined }): Device => ({
    ...rest,
    ...(next.channel === undefined ? {} : { channel: next.channel }),
    ...(next.leadsOhm === undefined ? {} : { leadsOhm: next.leadsOhm }),
  });
  return (
    <details className="mt-2">
      <summary className="flex min-h-12 cursor-pointer items-center text-soft">
        Wired: {wiredWords(device)}
      </summary>
      <div className="max-w-xs">
        {givesCurrent ? (
          <NumberField
            label="Its leads, both together"
            unit="mΩ"
            value={leadsOhm === undefined ? undefined : leadsOhm * MILLI}
            onChange={(milliohm) =>
              onChange(wired({ channel, leadsOhm: milliohm === undefined ? undefined : milliohm / MILLI }))
            }
          />
        ) : (
          <NumberField
            label="Its channel"
            unit=""
            value={channel}
            onChange={(next) => onChange(wired({ leadsOhm, channel: next }))}
          />
        )}
      </div>
    </details>
  );
}
