/** A charger as data: its kind, what it can give, and what it says by itself. */
import { asSix, nominalV, USUAL_CELLS } from '../battery/types.ts';
import type { ProfileId } from './profile.ts';

export const CHARGER_KINDS = {
  programmable: 'programmable supply',
  bench: 'bench charger, current by knob',
  automatic: 'automatic charger',
  taper: 'taper or trickle charger',
  pulse: 'pulse charger',
} as const;
export type ChargerKind = keyof typeof CHARGER_KINDS;

/** What an automatic charger's front offers. */
export const CHARGER_MODES = ['agm', 'flooded', 'gel', 'maintain'] as const;
export type ChargerMode = (typeof CHARGER_MODES)[number];

/** What batteries a charger can be made for, V. */
export const CHARGED_VOLTS = USUAL_CELLS.map((cells) => nominalV({ cells }));

/** A desulfating charger's own programme: the run sheet follows it. */
export interface ChargerPulses {
  /** Of a spike, A. */
  readonly peakA: number;
  /** A spike lasts so long, s, and comes so often a second. */
  readonly seconds: number;
  readonly hertz: number;
  /** Its length, h. */
  readonly programmeH: number;
  /** Up to where its recondition stage goes, and between what it maintains, V on six cells; none where it has no such stage. */
  readonly reconditionV?: number;
  readonly maintainFromV?: number;
  readonly maintainToV?: number;
}

export type PulseStage = 'charging' | 'pulsing' | 'reconditioning' | 'maintaining';

/** Terminal swings about this much while it pulses, V on six cells (handbook 3.4: ±0.3 V around 14). */
const PULSING_FROM_V = 13.5;
/** Its recondition stage rises to its voltage; this close under it, it is there, V on six cells. */
const RECONDITIONS_WITHIN_V = 0.3;
/** A maintained battery takes next to nothing, share of capacity. */
const MAINTAINS_BELOW = 1 / 100;

/**
 * The stage a desulfating charger is in, by a look or the last row of a log.
 * @param volts at the posts
 */
export function pulseStage(
  { reconditionV, maintainFromV, maintainToV }: ChargerPulses,
  { volts, amps }: { readonly volts: number; readonly amps: number },
  { cells, capacityAh }: { readonly cells: number; readonly capacityAh: number },
): PulseStage {
  const volts12 = asSix(volts, { cells });
  const isHeld = maintainFromV !== undefined && maintainToV !== undefined;
  if (isHeld && volts12 >= maintainFromV && volts12 <= maintainToV && amps < capacityAh * MAINTAINS_BELOW)
    return 'maintaining';
  if (reconditionV !== undefined && volts12 > reconditionV - RECONDITIONS_WITHIN_V) return 'reconditioning';
  return volts12 >= PULSING_FROM_V ? 'pulsing' : 'charging';
}

export interface Charger {
  readonly id: string;
  readonly name: string;
  readonly kind: ChargerKind;
  /** Currents it can be set to, A: a range for a programmable supply, detents for the rest. */
  readonly leastA: number;
  readonly mostA: number;
  /** The only settings there are, where it is not continuous, A. */
  readonly detentsA?: readonly number[];
  /** Highest voltage: of a programmable supply as it stands, of all else on six cells, V. */
  readonly mostV: number;
  /** Batteries it is for; a programmable supply is told its volts. */
  readonly nominalV: readonly number[];
  /** Programmes on its front; none where current and voltage are set by hand. */
  readonly modes?: readonly ChargerMode[];
  /** Below this it does not see a battery, V on six cells; 0 starts on anything. */
  readonly startV: number;
  /** Mains to battery. */
  readonly efficiency: number;
  /** What its output falls by per ampere, Ω on 12 V: a taper charger has no regulator. */
  readonly taperOhm?: number;
  readonly openV?: number;
  /** Of one that desulfates: what its own leaflet says of its programme. */
  readonly pulses?: ChargerPulses;
  /** The only plans it runs, where it cannot be told what to do. */
  readonly programmes?: readonly ProfileId[];
  /** All its outputs run at one setting: bays of it cannot be set apart. */
  readonly sharesSetting?: true;
  readonly because: string;
}

/** Whether it has a lamp or a word of its own for full; a supply, a knob and a transformer have none. */
export function givesFullSignal({ kind }: Pick<Charger, 'kind'>): boolean {
  return kind === 'automatic' || kind === 'pulse';
}

/** Ids of supplies that stand in a bay of their own, under control. */
const OF_A_BAY = 'supply-of-bay-';
export const supplyIdOf = (bay: number): string => `${OF_A_BAY}${bay}`;

/** Whether a charger is a bay's own supply, that the bench tells its limits and watches each second. */
export const isOfABay = ({ id }: Pick<Charger, 'id'>): boolean => id.startsWith(OF_A_BAY);

/**
 * Whether it ends a charge by itself, by voltage, time or its own programme: what may run on when nobody is there. A
 * supply that can be programmed is told its limits; a knob and a transformer go on whatever the battery does.
 */
export function cutsOffByItself({ kind }: Pick<Charger, 'kind'>): boolean {
  return kind === 'automatic' || kind === 'pulse' || kind === 'programmable';
}
