/** What is recorded of a battery off the bench. */
import type { Place } from './places.ts';

/** Form the kinds below are written in. */
export const SHELF_VERSION = 1;

export interface ReadPayload {
  /** At rest, V. */
  readonly volts: number;
  readonly tempC?: number;
  /** Off charge and load before, h; days, where it is not said. */
  readonly restedH?: number;
  readonly source: 'keypad' | 'meter';
}

export interface ShelfPayloads {
  /** It stands somewhere else from now on. */
  readonly placed: {
    readonly place: Place;
    /** Why this one, where another was to be taken first. */
    readonly why?: string;
  };
  readonly read: ReadPayload;
  /** Charged where it stands, without a bay. */
  readonly charged: { readonly isProven: boolean };
  /** Somebody looked after one on its maintainer. */
  readonly tended: { readonly floatV?: number; readonly waterMl?: number };
  /** It belongs with others from now on, to go as one; an empty name ends that. */
  readonly joined: { readonly set: string; /** How many make it whole. */ readonly of?: number };
  /** It works in its machine no more; where it is stays as it was. */
  readonly parted: Readonly<Record<never, never>>;
  /** A new tag is on it. */
  readonly tagged: Readonly<Record<never, never>>;
  /** Its owner was called. */
  readonly called: { readonly said: string };
}

export type ShelfKind = keyof ShelfPayloads;

export type ShelfEntry = {
  readonly [Kind in ShelfKind]: { readonly kind: Kind; readonly payload: ShelfPayloads[Kind] };
}[ShelfKind];

export type ShelfEvent = ShelfEntry & {
  readonly tag: string;
  readonly seq: number;
  /** Its own key, made by whoever entered it: entered twice it is recorded once. */
  readonly key: string;
  readonly at: number;
  readonly by: string;
  /** When the server had it, where that was later, ms. */
  readonly recordedAt?: number;
};
