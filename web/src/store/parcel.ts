/** What is on its way to the server: an entry of a job's run sheet or of a battery off the bench, or batteries to be taken in. */
import type { BatteryRecord } from '@cork-ember/core/contract/answers.ts';
import type { Entry } from '@cork-ember/core/runsheet/entries/events.ts';
import type { ShelfEntry } from '@cork-ember/core/shelf/entries.ts';

interface OnItsWay {
  readonly requestKey: string;
  /** What it goes to: those of one job, or of one battery off the bench, go in order. */
  readonly job: string;
  readonly by: string;
  readonly enteredAt: number;
  /** In which order it was entered, among those of all tabs. */
  readonly place: number;
  /** A picture goes before it, under its own key. */
  readonly hasPicture?: boolean;
  /** The server's sentence when it would not take it; it stays until the person lets go of it. */
  readonly refused?: string;
}

export interface JobParcel extends OnItsWay {
  readonly entry: Entry;
  readonly expectedSeq: number;
}

export interface ShelfParcel extends OnItsWay {
  readonly tag: string;
  readonly shelfEntry: ShelfEntry;
  /** One the shop has not had yet. */
  readonly battery?: BatteryRecord;
}

/** A battery that is to be taken in, as the server is asked for it. */
export interface Order {
  readonly battery: BatteryRecord;
  readonly procedure: string;
  readonly bay: number;
  readonly plannedAt?: number;
  readonly promisedAt: number;
  readonly requestKey: string;
}

/** Several to be taken in at once. */
export interface BatchParcel extends OnItsWay {
  readonly orders: readonly Order[];
}

export type Parcel = JobParcel | ShelfParcel | BatchParcel;

type NotYet = 'place' | 'hasPicture' | 'refused';
export type HandedJob = Omit<JobParcel, NotYet>;
export type Handed = HandedJob | Omit<ShelfParcel, NotYet> | Omit<BatchParcel, NotYet>;

export const isOfJob = (parcel: Parcel): parcel is JobParcel => 'entry' in parcel;
export const isOfShelf = (parcel: Parcel): parcel is ShelfParcel => 'shelfEntry' in parcel;
export const isOfBatch = (parcel: Parcel): parcel is BatchParcel => 'orders' in parcel;

/** What batteries that are taken in together go to. */
export const BATCH = 'batch';

/** What entries of one battery off the bench go to. */
export const shelfOf = (tag: string): string => `shelf ${tag}`;

/** Whether what a browser kept is one. */
export const isParcel = (value: unknown): value is Parcel =>
  typeof value === 'object' &&
  value !== null &&
  'requestKey' in value &&
  'job' in value &&
  'place' in value &&
  (('entry' in value && 'expectedSeq' in value) ||
    ('shelfEntry' in value && 'tag' in value) ||
    ('orders' in value && Array.isArray(value.orders)));

/** The same entry, that many places further on in its job's log. */
export const movedTo = (parcel: Parcel, expectedSeq: number): Parcel =>
  isOfJob(parcel) ? { ...parcel, expectedSeq } : parcel;
