/** What the devices of a bay showed at one look, and what they had been told. */

/** Of regulators and displays: a current this small is none, A (practice). */
export const NO_CURRENT_A = 0.05;

/** A device that did not answer says so instead of its figures. */
export interface Unanswered {
  readonly trouble: string;
}

export interface SupplySeen {
  readonly volts: number;
  readonly amps: number;
  readonly isOn: boolean;
  /** What it holds itself to be told, V and A. */
  readonly setVolts: number;
  readonly setAmps: number;
}

export interface BaySeen {
  /** On a clock that only grows, s. */
  readonly atS: number;
  /** On the shop's own, which a person or a network may set, ms. */
  readonly shopMs: number;
  /** How many seconds of the shop's clock a second has, as far as it was told. */
  readonly pace: number;
  readonly supply: SupplySeen | Unanswered;
  /** At the battery's posts by another instrument than the supply; where the bay has one. */
  readonly posts?: { readonly volts: number } | Unanswered;
  readonly probe?: { readonly tempC: number } | Unanswered;
  readonly cutoff?: { readonly isClosed: boolean } | Unanswered;
  /** Stop buttons of the bench and of the bay. */
  readonly stops?: readonly ({ readonly isFree: boolean } | Unanswered)[];
  /** Why nothing can be kept, where it cannot. */
  readonly unkept?: string;
}

export const isAnswered = <T extends object>(seen: T | Unanswered): seen is T => !('trouble' in seen);

/** What the supply is told to hold, and whether its output is on. */
export interface Held {
  readonly isOn: boolean;
  readonly volts: number;
  readonly amps: number;
}
