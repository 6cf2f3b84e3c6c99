import type { Device } from '@cork-ember/core/devices/device.ts';
import type { DeviceProfile } from '@cork-ember/core/devices/profile.ts';

/** What a part of a device's card is given. */
export interface DevicePartProps {
  readonly device: Device;
  readonly profile: DeviceProfile;
  readonly onChange: (device: Device) => void;
}
