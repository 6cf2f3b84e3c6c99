/** A device a shop has: which profile it is spoken to by, and where it is found. */
import { verbatim } from '../units/localise.ts';
import type { Calibration } from './calibration.ts';
import { GENERIC_PROFILES } from './genericProfiles.ts';
import type { DeviceProfile } from './profile.ts';

/** What stands beside each simulated bay. */
export const SIMULATED_PARTS = ['supply', 'cutoff', 'meter', 'load'] as const;
export type SimulatedPart = (typeof SIMULATED_PARTS)[number];

/** Found by its address alone: nothing looks through the network for it. */
export type DevicePlace =
  | { readonly kind: 'tcp'; readonly host: string; readonly port: number }
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

export const placeText = (place: DevicePlace): string =>
  place.kind === 'tcp'
    ? `${verbatim(place.host)}, port ${verbatim(String(place.port))}`
    : PLACE_WORDS[place.kind];
