/** What the shop's server and the bench that looks after its bays say to each other: two programs, so that neither holds the other up. */
import type { Profile, Subject } from '../../charge/profile.ts';
import type { Calibration } from '../calibration.ts';
import type { Cable } from '../device.ts';
import type { BaySample } from '../samples.ts';
import type { DrainPlan } from './drainEngine.ts';
import type { StepPlan } from './stepEngine.ts';
import type { Asked, DeviceProfile, Told } from '../profile.ts';
import type { DeviceTrouble } from '../wire.ts';

/** A device and where it is spoken to. */
export interface Addressed {
  readonly profile: DeviceProfile;
  readonly calibration?: Calibration;
  readonly cable: Cable;
  readonly channel?: number;
  readonly leadsOhm?: number;
}

/** A charge from a supply, a battery drawn down by a load, or a step of a load that shows its resistance. */
export type BayDoes =
  | { readonly kind: 'charge'; readonly plan: Profile; readonly subject: Subject }
  | { readonly kind: 'drain'; readonly plan: DrainPlan }
  | { readonly kind: 'step'; readonly plan: StepPlan };

/** What a bay is to do, on what. */
export interface BayOrder {
  /** Each has a number of its own: what is heard of an earlier one is not taken for it. */
  readonly order: number;
  readonly bay: number;
  readonly job: string;
  /** What gives the current, or draws it. */
  readonly source: Addressed;
  readonly meter?: Addressed;
  readonly cutoff?: Addressed;
  /** Stop buttons that hold for this bay. */
  readonly stops: readonly Addressed[];
  readonly does: BayDoes;
  /** What the job last read at rest, V. */
  readonly restingV?: number;
}

export type ToBench =
  /** The server is there, and this is what the shop's clock shows. Without it for two seconds everything is off. */
  | { readonly kind: 'beat'; readonly shopMs: number; readonly pace: number; readonly unkept?: string }
  | { readonly kind: 'check'; readonly order: BayOrder }
  | { readonly kind: 'confirm'; readonly bay: number }
  | { readonly kind: 'stop'; readonly bay: number; readonly why: string }
  /** What it has in hand is asked by the bench alone: a port is open once. */
  | { readonly kind: 'ask'; readonly number: number; readonly of: Addressed; readonly question: Question };

/** What a bay goes on to by itself: until then nothing flows; without a moment, once what it does is done. */
export interface GoesOnTo {
  readonly title: string;
  /** Shop time, ms. */
  readonly untilMs?: number;
}

/** A bay as it stands. */
export interface LiveBay {
  /** The order it goes by. */
  readonly order: number;
  readonly bay: number;
  readonly job: string;
  readonly phase: 'off' | 'checking' | 'ready' | 'running' | 'ended';
  /** Why it is so, in a sentence. */
  readonly says: string;
  readonly stage?: string;
  /** What is given at most, or drawn, by its plan, A. */
  readonly setA?: number;
  readonly ah?: number;
  /** What a step showed between the posts, Ω. */
  readonly ohms?: number;
  readonly sample?: BaySample;
  /** The air its room needs, for whoever is about to switch it on. */
  readonly air?: string;
  /** Where a programme of days is under way in it. */
  readonly goesOn?: GoesOnTo;
  /** It calls for hands, until somebody has seen it. */
  readonly calls?: string;
}

/** What a device is asked, or told. */
export type Question =
  | { readonly kind: 'identify' }
  | { readonly kind: 'figure'; readonly what: Asked }
  | { readonly kind: 'tell'; readonly what: Told; readonly value?: number };

/** A figure, a name, or nothing where it was told; or why there is none. */
export type Answer =
  { readonly value: number | string | null } | { readonly trouble: DeviceTrouble; readonly says: string };

export type FromBench =
  | { readonly kind: 'bay'; readonly live: LiveBay }
  | { readonly kind: 'alarm'; readonly bay: number; readonly job: string; readonly says: string }
  | ({ readonly kind: 'answer'; readonly number: number } & Answer);

/** So long without a word from the server, and everything is off, ms. */
export const BEAT_LOST_MS = 2000;
