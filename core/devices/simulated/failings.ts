/** How a device that is not there can fail, on demand: to try what the bench does then, before it has to. */
import type { SimulatedPart } from '../device.ts';

export const DEVICE_FAULTS = {
  silent: 'it gives no answer',
  garbage: 'it answers nonsense',
  slow: 'it answers five seconds late',
  frozen: 'its figures stand still',
  'reads-low': 'it reads the voltage low, and gives more',
  'stuck-on': 'it does not switch off',
  pressed: 'it is pressed',
} as const;
export type DeviceFault = keyof typeof DEVICE_FAULTS;

/** How the clips sit on the battery of its bay. */
export const CLIPS = {
  on: 'on',
  off: 'fallen off',
  reversed: 'the wrong way round',
  touching: 'touching each other',
} as const;
export type Clips = keyof typeof CLIPS;

/** What each can do wrong. */
export const FAULTS_OF: Readonly<Record<SimulatedPart, readonly DeviceFault[]>> = {
  supply: ['silent', 'garbage', 'slow', 'frozen', 'reads-low', 'stuck-on'],
  cutoff: ['silent', 'garbage', 'slow'],
  meter: ['silent', 'garbage', 'slow', 'frozen'],
  load: ['silent', 'garbage', 'slow', 'frozen', 'stuck-on'],
  stop: ['pressed', 'silent', 'garbage', 'slow'],
};

/** How a simulated device stands: nothing wrong with it, or what. */
export interface Failing {
  /** Id of the device. */
  readonly id: string;
  readonly fault: DeviceFault | null;
  readonly clips: Clips;
}
