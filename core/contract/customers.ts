/** What a shop keeps of a customer: to be given to them, or deleted. */
import type { Machine } from '../battery/machines.ts';
import type { JobEvent } from '../runsheet/entries/events.ts';
import type { ShelfEvent } from '../shelf/entries.ts';
import type { BatteryRecord } from './answers.ts';

export interface Customer {
  readonly name: string;
  readonly batteries: number;
  readonly machines: number;
}

/** All of it, as one file in an open format. */
export interface CustomerData {
  readonly format: 'cork-ember-customer';
  readonly version: 1;
  readonly name: string;
  /** Shop time, ms. */
  readonly at: number;
  readonly shop: string;
  readonly program: string;
  readonly batteries: readonly BatteryRecord[];
  readonly machines: readonly Machine[];
  /** What was recorded of them on the bench and off it. */
  readonly jobs: readonly { readonly job: string; readonly events: readonly JobEvent[] }[];
  readonly shelf: readonly ShelfEvent[];
}

/** What came of deleting a name. */
export interface Forgotten {
  readonly batteries: number;
  readonly machines: number;
  readonly jobs: number;
  /** Tags of those whose notes, reasons or captions still say it: the record of what was done is not rewritten. */
  readonly stillSaid: readonly string[];
}
