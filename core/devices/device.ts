/** A device a shop has: which profile it is spoken to by, and where it is found. */
import { verbatim } from '../units/localise.ts';
import type { Calibration } from './calibration.ts';
import { GENERIC_PROFILES } from './genericProfiles.ts';
import type { DeviceProfile } from './profile.ts';

/** What stands beside each simulated bay. */
export const SIMULATED_PARTS = ['supply', 'cutoff', 'meter', 'load', 'stop'] as const;
export type SimulatedPart = (typeof SIMULATED_PARTS)[number];

/** Speeds of a serial port, baud. */
export const BAUDS = [1200, 2400, 4800, 9600, 19_200, 38_400, 57_600, 115_200] as const;

/** What a device hangs on: the shop's network, or a serial port of the machine the shop runs on. */
export type Cable =
  | { readonly kind: 'tcp'; readonly host: string; readonly port: number }
  | { readonly kind: 'serial'; readonly path: string; readonly baud: number };

/** Found by its address alone: nothing looks through the network for it. */
export type DevicePlace =
  | Cable
  | { readonly kind: 'simulated'; readonly bay: number; readonly part: SimulatedPart }
  /** It comes to the shop by itself, with a key of its own. */
  | { readonly kind: 'push' };

export interface Device {
  readonly id: string;
  readonly name: string;
  /** Id of its profile. */
  readonly profile: string;
  readonly place: DevicePlace;
  /** Where it is wired; none where it lies in the cupboard. */
  readonly bay?: number;
  /** Of a scanner, from 1: which of its channels is wired there. */
  readonly channel?: number;
  /** Of its leads up to the posts, both together, Ω; none where nobody measured them. */
  readonly leadsOhm?: number;
  /** Against a better instrument; none where nobody did. */
  readonly calibration?: Calibration;
}

/** A shop's own profile goes before one that ships. */
export const profileNamed = (id: string, own: readonly DeviceProfile[] = []): DeviceProfile | undefined =>
  [...own, ...GENERIC_PROFILES].find((profile) => profile.id === id);

/** Profiles of what is wired to a bay. */
export function profilesIn(
  {
    devices = [],
    profiles = [],
  }: { readonly devices?: readonly Device[]; readonly profiles?: readonly DeviceProfile[] },
  bay: number,
): readonly DeviceProfile[] {
  return devices
    .filter((device) => device.bay === bay)
    .flatMap(({ profile }) => profileNamed(profile, profiles) ?? []);
}

const PLACE_WORDS = { simulated: 'simulated', push: 'comes to the shop by itself' } as const;

export function placeText(place: DevicePlace): string {
  if (place.kind === 'tcp') return `${verbatim(place.host)}, port ${verbatim(String(place.port))}`;
  if (place.kind === 'serial') return `${verbatim(place.path)}, ${place.baud} baud`;
  return PLACE_WORDS[place.kind];
}
