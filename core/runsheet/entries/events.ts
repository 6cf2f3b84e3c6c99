/** What can be recorded about a job. Events are only ever appended; everything else is derived. */
import type { Whose } from '../../advice/worth.ts';
import type { StepValues } from '../../units/values.ts';
import type { BatteryType } from '../../battery/types.ts';
import type { Complaint } from '../../candidate/causes.ts';
import type { Reading } from '../../observation/readings.ts';
import type { Charger } from '../../charge/charger.ts';
import type { ShopHours } from '../../clock/shopHours.ts';
import type { HouseRules } from '../../rules/houseRules.ts';

/** Who the battery is for, and what is known of the piece on the bench. */
export interface BatteryOnBench {
  readonly tag: string;
  readonly serial: string;
  /** Month of manufacture, YYYY-MM. */
  readonly dateCode: string;
  readonly owner: string;
}

/**
 * Edition of the run sheets, raised when an entry that was taken before would be refused, or steps change their
 * order. A log is read by the edition it was opened under.
 *
 * 2: stop rules on every charge, a full signal beside the readings, the proof of a recovery with its recharge.
 * 3: one judge of chargers, every wake ends with its two readings.
 * 4: ways to their end: a cycle with its recharge, cells looked into one by one, layered acid, caps back on.
 * 5: one that came off its shelf where sulfate stays is held for a day before it goes back.
 */
export const EDITION = 5;

/** Everything a job goes by is written into its first event, so replay needs nothing else. */
export interface OpenedPayload {
  /** Edition of the run sheets it goes by; the first where none is written. */
  readonly edition?: number;
  readonly procedure: string;
  readonly battery: BatteryOnBench;
  readonly type: BatteryType;
  readonly rules: HouseRules;
  /** Version of the house rules these are of; the first where none is written. */
  readonly rulesVersion?: number;
  readonly hours: ShopHours;
  readonly bay: number;
  readonly promisedAt: number;
  /** When hands are to come to it first; until then it waits. At once where none is given. */
  readonly plannedAt?: number;
  /** It is fitted to its vehicle here, at the end. */
  readonly fitting?: boolean;
  /** What was said of one that is brought back. */
  readonly told?: Told;
}

export interface Told {
  readonly complaint: Complaint;
  /** Months it stood flat. */
  readonly flatMonths?: number;
  /** Whose it is: what it is worth to bring it back depends on it. */
  readonly whose?: Whose;
}

export interface ChargeValues {
  readonly voltageV: number;
  readonly currentA: number;
  readonly tempC: number;
  /** Of a pilot cell as the hydrometer floats, g/cm³; of a flooded battery, where it was read. */
  readonly density?: number;
  /** Of every cell, the first at the positive post, as the hydrometer floats, g/cm³; where an equalise asks for them. */
  readonly cellDensities?: readonly number[];
}

/** Kinds that act on a step, with what each says. */
export interface StepPayloads {
  affirmed: { readonly step: string };
  /** A gate that is looked at: which chambers do as they should, or what a code reads. */
  observed: { readonly step: string; readonly chambers?: readonly boolean[]; readonly code?: string };
  denied: { readonly step: string; readonly denial: string };
  measured: { readonly step: string; readonly values: StepValues; readonly source: string };
  skipped: { readonly step: string };
  overridden: { readonly step: string; readonly reason: string };
  chargeStarted: {
    readonly step: string;
    readonly currentA: number;
    /** Time on charge it is started for, min; the forecast of the moment where it is not given. */
    readonly dueMin?: number;
    /** What it is charged with, as it stands in the shop. */
    readonly charger?: Charger;
  };
  chargeRead: { readonly step: string; readonly values: ChargeValues; readonly source: string };
  /** A logger's file of this charge, thinned; its first row is the moment the charger went on. */
  chargeLogged: {
    readonly step: string;
    readonly file: string;
    /** Rows the file held. */
    readonly rows: number;
    readonly readings: readonly (ChargeValues & { readonly afterMin: number })[];
  };
  /** Current or voltage of a charge that is on and attended, set anew, A and V. */
  chargeSet: { readonly step: string; readonly currentA?: number; readonly voltageV?: number };
  chargePaused: { readonly step: string; readonly reason: 'hot' | 'stopped' };
  chargeResumed: { readonly step: string; readonly tempC: number };
  chargeEnded: { readonly step: string; readonly fullSignal: boolean };
  decided: { readonly step: string; readonly verdict: Verdict };
  /** The way a recovery goes on; a reason where a house rule speaks against it. */
  routed: { readonly step: string; readonly route: string; readonly reason?: string };
  /** A route is left before its end; its other steps are not done. */
  routeLeft: { readonly step: string; readonly reason: string };
}

export type Verdict = 'pass' | 'repeat' | 'reject';

export interface EventPayloads extends StepPayloads {
  opened: OpenedPayload;
  noted: { readonly text: string };
  /** A picture kept with the job; `step` is where it was taken. */
  photographed: { readonly photo: string; readonly step: string; readonly caption: string };
  /** A reading taken to find out what is the matter, outside the steps. */
  evidenced: { readonly reading: Reading };
  /** Moved to another bay, or to 0: the shelf, which has no charger. */
  placed: { readonly bay: number };
  /** What was agreed with whom it is for, or for when, set anew. */
  arranged: { readonly promisedAt?: number; readonly owner?: string; readonly why: string };
  withdrawn: { readonly reason: string };
  corrected: {
    readonly replaces: EntryName;
    readonly payload: StepPayloads[keyof StepPayloads];
    /** In a few words; entries of the first edition have none. */
    readonly why?: string;
  };
  undone: { readonly replaces: EntryName };
  /** Changes of a job whose papers are out: they come out again, numbered, with both. */
  amended: { readonly changes: readonly Change[]; readonly why: string };
  /** The ending is taken back: the job goes on, in this bay. */
  reopened: { readonly ending: EntryName; readonly bay: number; readonly why: string };
}

/** Which entry is meant: its own key, or its place in the log as it is read, "#7". */
export type EntryName = string;

/** One entry put right, or, without a payload, taken back. */
export interface Change {
  readonly replaces: EntryName;
  readonly payload?: StepPayloads[keyof StepPayloads];
}

export type EventKind = keyof EventPayloads;

/** A fact about to be recorded. */
export type Entry<K extends EventKind = EventKind> = {
  [Kind in K]: { readonly kind: Kind; readonly payload: EventPayloads[Kind] };
}[K];

/** A recorded fact: which job, in what order, when by the shop clock, by whom. */
export type JobEvent = Entry & {
  readonly job: string;
  readonly seq: number;
  /** Its own, made by whoever recorded it and never by where it came to stand. */
  readonly key: string;
  /** When it happened, as who recorded it says, ms. */
  readonly at: number;
  /** When the server had it, where that was not then, ms. */
  readonly recordedAt?: number;
  readonly by: string;
};
