/** An entry on its way to the server: of a job's run sheet, or of a battery off the bench. */
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

export type Parcel = JobParcel | ShelfParcel;

type NotYet = 'place' | 'hasPicture' | 'refused';
export type HandedJob = Omit<JobParcel, NotYet>;
export type Handed = HandedJob | Omit<ShelfParcel, NotYet>;

export const isOfJob = (parcel: Parcel): parcel is JobParcel => 'entry' in parcel;
export const isOfShelf = (parcel: Parcel): parcel is ShelfParcel => 'shelfEntry' in parcel;

/** What entries of one battery off the bench go to. */
export const shelfOf = (tag: string): string => `shelf ${tag}`;

/** Whether what a browser kept is one. */
export const isParcel = (value: unknown): value is Parcel =>
  typeof value === 'object' &&
  value !== null &&
  'requestKey' in value &&
  'job' in value &&
  'place' in value &&
  (('entry' in value && 'expectedSeq' in value) || ('shelfEntry' in value && 'tag' in value));

/** The same entry, that many places further on in its job's log. */
export const movedTo = (parcel: Parcel, expectedSeq: number): Parcel =>
  isOfJob(parcel) ? { ...parcel, expectedSeq } : parcel;
