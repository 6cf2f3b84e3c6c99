/** What a bay can do without hands, by the devices that are wired to it. */
import { profilesIn, type Device } from './device.ts';
import type { DeviceKind, DeviceProfile } from './profile.ts';

export interface Outfit {
  readonly bay: number;
  readonly hasSupply: boolean;
  readonly hasLoad: boolean;
  readonly hasCutOff: boolean;
  readonly readsVolts: boolean;
  readonly readsWarmth: boolean;
}

/** Devices of a shop, and its own profiles beside those that ship. */
export interface Wired {
  readonly devices?: readonly Device[];
  readonly profiles?: readonly DeviceProfile[];
}

/** What of a kind is wired to a bay; undefined where there is none. */
export const wiredIn = (shop: Wired, bay: number, kind: DeviceKind): DeviceProfile | undefined =>
  profilesIn(shop, bay).find((profile) => profile.kind === kind);

export function outfitOf(shop: Wired, bay: number): Outfit {
  const has = (kind: DeviceKind): boolean => wiredIn(shop, bay, kind) !== undefined;
  const asks = wiredIn(shop, bay, 'meter')?.speech.asks ?? {};
  return {
    bay,
    hasSupply: has('supply'),
    hasLoad: has('load'),
    hasCutOff: has('cutoff'),
    readsVolts: 'volts' in asks,
    readsWarmth: 'tempC' in asks,
  };
}

/** Its charges are looked at without hands, and parted from without any. */
export const chargesAlone = ({ hasSupply, hasCutOff, readsWarmth }: Outfit): boolean =>
  hasSupply && hasCutOff && readsWarmth;
