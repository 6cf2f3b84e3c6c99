/** A charge plan as data: stages, what each holds, and what ends it. */
import type { Construction } from '../battery/construction.ts';

/** What a plan is for; ceilings depend on it. */
export type Purpose = 'first-charge' | 'charge' | 'wake' | 'soak' | 'pulse' | 'equalise' | 'maintain';

/** Current pulses: a spike, a lower settle, then off, over and over. */
export interface PulseTrain {
  readonly spikeA: number;
  readonly spikeS: number;
  readonly settleA: number;
  readonly settleS: number;
  readonly offS: number;
}

/**
 * What ends a stage. Volts are at the posts and not compensated; a flat quantity stays within its band for
 * the time given.
 */
export type Exit =
  | { readonly on: 'voltage-above'; readonly volts: number }
  | { readonly on: 'current-below'; readonly amps: number }
  | { readonly on: 'current-flat'; readonly bandA: number; readonly forS: number }
  | { readonly on: 'voltage-drop'; readonly volts: number }
  | { readonly on: 'density-flat'; readonly band: number; readonly forS: number }
  /** Proven full by kind over this time: `proofOfFull.ts`. */
  | { readonly on: 'full'; readonly forS: number }
  | { readonly on: 'time'; readonly seconds: number }
  | { readonly on: 'charge'; readonly ah: number }
  | { readonly on: 'temperature-above'; readonly tempC: number }
  /** The charge is taken willingly: at least this current at or below this voltage. */
  | { readonly on: 'accepts'; readonly amps: number; readonly belowV: number };

export interface Stage {
  readonly id: string;
  /** "Bulk", "Absorption": as a technician would call it. */
  readonly name: string;
  /** Current not exceeded, A; 0 rests. */
  readonly amps: number;
  /** Voltage not exceeded at 25 °C, V. */
  readonly volts: number;
  /** Whether the voltage follows temperature, −4 mV per cell and K. */
  readonly isCompensated: boolean;
  /** A float follows warmth by −3 mV per cell and K. */
  readonly isFloat?: boolean;
  readonly pulse?: PulseTrain;
  /** The first that holds ends the stage. */
  readonly exits: readonly (Exit & { readonly next: string | 'full' | 'stop' })[];
}

export interface Profile {
  readonly id: ProfileId;
  readonly name: string;
  readonly purpose: Purpose;
  /** Why one would take it, in a sentence. */
  readonly reason: string;
  readonly stages: readonly Stage[];
  /** Whether a person must stand by. */
  readonly isAttended: boolean;
}

export type ProfileId =
  | 'tenth-timed'
  | 'slow'
  | 'constant-voltage'
  | 'label'
  | 'long-soak'
  | 'supply-wake'
  | 'pulse'
  | 'high-then-low'
  | 'constant-current'
  | 'equalise'
  | 'maintenance'
  | 'donor'
  | 'automatic'
  | 'gel';

/** A plan that may not be run on this battery; the message says why. */
export class ProfileError extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'ProfileError';
  }
}

/** What a charge is limited by: the battery under it. */
export interface Subject {
  readonly construction: Construction;
  readonly cells: number;
  readonly capacityAh: number;
  /** Charging current the label prints, and its quick rate, A. */
  readonly labelA?: number;
  readonly quickA?: number;
  readonly labelHours?: number;
  /** Highest charging voltage the label prints, at 25 °C, V. */
  readonly labelV?: number;
  /** Least charge that is missing when the plan begins, where something is known of it, Ah. */
  readonly missingAh?: number;
}

/** Current through a pulse train, averaged over its period, A. */
export function averageA({ spikeA, spikeS, settleA, settleS, offS }: PulseTrain): number {
  return (spikeA * spikeS + settleA * settleS) / (spikeS + settleS + offS);
}

/** Mean square over squared mean: how much more a pulsed current heats than a steady one. */
export function heatingRatio(pulse: PulseTrain): number {
  const { spikeA, spikeS, settleA, settleS, offS } = pulse;
  const meanSquare = (spikeA ** 2 * spikeS + settleA ** 2 * settleS) / (spikeS + settleS + offS);
  return meanSquare / averageA(pulse) ** 2;
}
