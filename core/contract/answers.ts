/** What the server answers; shared with the interface as types only. */
import type { ShopCosts } from '../advice/worth.ts';
import type { Machine } from '../battery/machines.ts';
import type { Charger } from '../charge/charger.ts';
import type { LiveBay } from '../devices/bay/messages.ts';
import type { Device } from '../devices/device.ts';
import type { Asked, DeviceProfile } from '../devices/profile.ts';
import type { Sample } from '../devices/samples.ts';
import type { Pace } from '../clock/clock.ts';
import type { JobEvent } from '../runsheet/entries/events.ts';
import type { CausesSaid } from '../learning/causesHere.ts';
import type { InForce } from '../learning/learned.ts';
import type { LearningRule } from '../learning/topics.ts';
import type { Topic } from '../learning/topics.ts';
import type { NumberHere } from '../learning/numbersHere.ts';
import type { WayHere } from '../learning/waysHere.ts';
import type { FirstDay } from './firstDay.ts';
import type { Finding } from '../ledger/finding.ts';
import type { InMachine } from '../ledger/togetherInMachine.ts';
import type { HouseRules } from '../rules/houseRules.ts';
import type { PackedOutline } from '../runsheet/log/outline.ts';
import type { Outcome } from '../runsheet/definition/step.ts';
import type { ShelfEvent } from '../shelf/entries.ts';
import type { ShelfItem } from '../shelf/overview.ts';
import type { Store } from '../shelf/stores.ts';
import type { HandInstruments } from '../observation/handInstruments.ts';
import type { Region } from '../units/region.ts';
import type { ShopHours } from '../clock/shopHours.ts';

export interface Bay {
  readonly number: number;
  /** Id of the charger that stands there. */
  readonly charger: string;
}

/** The room the bench stands in, and what a kilowatt-hour costs in the shop's money. */
export interface RoomAndCosts {
  readonly volumeM3: number;
  readonly pricePerKwh: number;
}

/** A change of how the shop works: who, when, why, and what stood before. */
export interface ShopChange {
  readonly id: number;
  readonly at: number;
  readonly by: string;
  readonly why: string;
  /** In words: "Soak after the pack is off: 60 min (was 120 min)". */
  readonly what: string;
}

export interface Shop {
  /** Raised with every change, so that two who change it at once are told. */
  readonly version: number;
  readonly name: string;
  /** Letters its own tags begin with. */
  readonly tagLetters: string;
  readonly hours: ShopHours;
  readonly bays: readonly Bay[];
  readonly chargers: readonly Charger[];
  readonly room: RoomAndCosts;
  /** What hands, bays and batteries cost and bring. */
  readonly costs: ShopCosts;
  readonly people: readonly string[];
  /** What it measures with, as far as it was told. */
  readonly handInstruments: HandInstruments;
  /** How it writes its figures. */
  readonly region: Region;
  readonly rules: HouseRules;
  /** How warm it is where batteries stand. */
  readonly stores: readonly Store[];
  /** What of its record it learns from; as is usual where it was never said. */
  readonly learning?: LearningRule;
  /** What is under control over a cable, and profiles of the shop’s own; none where it never had any. */
  readonly devices?: readonly Device[];
  readonly profiles?: readonly DeviceProfile[];
  /** Where alarms of bays are passed on to; nowhere where it is empty, or was never said. */
  readonly alarmsTo?: string;
  /** Readings of each second are kept whole for so many months; then their shape is; for two years where it was never said. */
  readonly readingsMonths?: number;
  /** How far its first day has come; none once it is over, or where it began before there was one. */
  readonly firstDay?: FirstDay;
}

/** What a device said when it was spoken to. */
export interface DeviceSaid {
  /** Who it says it is. */
  readonly says?: string;
  readonly figures: Partial<Record<Asked, number>>;
  /** Why there is no more, in a sentence. */
  readonly trouble?: string;
}

/** What opens the way in for a probe that sends by itself; told once. */
export interface ProbeKey {
  readonly key: string;
}

/** What became of what a probe sent. */
export interface ProbeHeard {
  /** Readings on disk: none while no battery stands where it is wired. */
  readonly kept: number;
}

export interface ClockAnswer {
  readonly shopMs: number;
  readonly pace: Pace;
  /** Whether this shop's clock may be paced and jumped. */
  readonly isPaced: boolean;
  /** When the server said so, ms since it began: answers may overtake one another on the way. */
  readonly saidAt: number;
  /** How far the machine's clock has gone away from the shop's, ms; somebody must say which is right. */
  readonly machineAheadMs?: number;
}

/** What the shop has learned from its own jobs. */
export interface LearnedAnswer {
  /** Ended jobs nothing was drawn from yet. */
  readonly left: number;
  /** Jobs kept by another shop, and jobs that came to no grade, whether they count or not. */
  readonly imported: number;
  readonly withdrawn: number;
  /** Jobs each topic rests on. */
  readonly jobs: Readonly<Record<Topic, number>>;
  readonly causes: readonly CausesSaid[];
  readonly ways: readonly (WayHere & { readonly title: string })[];
  readonly minutes: readonly (NumberHere & { readonly step: string; readonly title: string })[];
  readonly tester: NumberHere;
  /** What the judgement goes by. */
  readonly inForce: InForce;
}

/** A job with its whole log. */
export interface JobLog {
  readonly id: string;
  readonly events: readonly JobEvent[];
}

export interface JobAnswer extends JobLog {
  /** Issues of its papers, the first first; none before its first end. */
  readonly seals: readonly SealSummary[];
}

export interface BatteryRecord {
  readonly tag: string;
  readonly typeId: string;
  readonly serial: string;
  readonly dateCode: string;
  readonly owner: string;
}

export interface JobSummary {
  readonly id: string;
  readonly tag: string;
  readonly bay: number;
  readonly openedAt: number;
  readonly outcome: Outcome | null;
  readonly endedAt: number | null;
}

/** What was recorded on jobs since a page heard of them last. */
export interface Missed {
  readonly events: readonly JobEvent[];
  /** Whether that is all: what the page does not know yet, or far too much, it asks for by itself. */
  readonly isWhole: boolean;
}

/** An open job as lists show it. */
export interface OpenJob extends PackedOutline {
  readonly id: string;
}

/** One battery, all its jobs and what they found, the oldest first. */
export interface BatteryAnswer extends BatteryRecord {
  readonly jobs: readonly JobSummary[];
  readonly findings: readonly Finding[];
  /** What was recorded of it off the bench, the first first. */
  readonly shelf: readonly ShelfEvent[];
  /** Which of them is not what was recorded; nothing where all are. */
  readonly shelfBroken?: string;
}

/** What was measured of a battery when it last left. */
export type LastMeasured = Pick<Finding, 'grade' | 'capacityShare' | 'crankingA' | 'ocvV'>;

/** One row of the list of batteries. */
export interface BatteryRow extends BatteryRecord {
  /** None of one that never was on the bench. */
  readonly last: JobSummary | null;
  readonly measured: LastMeasured;
}

/** What the list of batteries is asked for. */
export interface BatteryQuery {
  /** Words of tag, serial, type or owner, as they begin. */
  readonly words: string;
  readonly where: 'anywhere' | 'bench';
  readonly sort: 'last' | 'tag';
  /** 0 is the first. */
  readonly page: number;
}

export interface BatteryPage {
  readonly rows: readonly BatteryRow[];
  /** Of all pages. */
  readonly total: number;
  /** Rows of a full page. */
  readonly size: number;
}

/** The next tag of the shop's own row. */
export interface NextTag {
  readonly number: number;
  readonly tag: string;
}

/** A job as a file of before: its events, without proof that they are what was recorded. */
export interface JobExport {
  readonly format: 'cork-ember-job';
  readonly version: 1 | 2;
  readonly job: string;
  readonly events: readonly JobEvent[];
}

/** One issue of an ended job's papers. */
export interface SealSummary {
  /** 1 at the first ending; each amendment makes the next. */
  readonly issue: number;
  readonly at: number;
  /** The last entry it rests on. */
  readonly upTo: number;
  /** Printed on its papers: the beginning of its hash. */
  readonly code: string;
}

/** A record that today's run sheets cannot read: kept, readable raw, and in nobody's way. */
export interface Quarantined {
  readonly id: string;
  readonly tag: string;
  readonly bay: number;
  readonly openedAt: number;
  readonly outcome: Outcome | null;
  /** Why, in a sentence. */
  readonly why: string;
}

/** Whether a paper and the record agree. */
export interface CheckAnswer {
  readonly code: string;
  /** Why the record cannot vouch for it, where it cannot. */
  readonly broken?: string;
  readonly job: string;
  readonly tag: string;
  readonly issue: number;
  readonly at: number;
  readonly title: string;
  readonly verdict: string;
  /** What the paper must say, to be held against it. */
  readonly rows: readonly (readonly [what: string, value: string])[];
  readonly signature: string;
  /** The newest issue, where that is another. */
  readonly latest?: SealSummary;
}

/** What the page for tablets shows. */
export interface TrustAnswer {
  /** Where https is answered; none where it is not. */
  readonly port: number | null;
  /** SHA-256 of the authority's certificate; none where none need be trusted. */
  readonly fingerprint: string | null;
}

/** A battery the shop looks after off the bench. */
export type ShelvedBattery = ShelfItem;

/** A machine, with the batteries that work in it, or did when they failed. */
export interface MachineAnswer extends Machine {
  readonly batteries: readonly MachineBattery[];
}

export interface MachineBattery extends InMachine {
  readonly typeId: string;
  readonly serial: string;
  readonly dateCode: string;
}

/** The secret address of the shop's calendar: since when there is one, and who made it. */
export interface FeedAnswer {
  readonly at: number;
  readonly by: string;
}

/** RFC 9457. */
export interface Problem {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
  /** For 409: the entries the client had not seen. */
  readonly changed?: readonly JobEvent[];
}

/** Pushed to every open browser. */
export type StreamMessage =
  | { readonly kind: 'event'; readonly event: JobEvent }
  | { readonly kind: 'clock'; readonly clock: ClockAnswer }
  | { readonly kind: 'shelf'; readonly event: ShelfEvent }
  /** A bay under control, once a second while it runs. */
  | { readonly kind: 'bay'; readonly live: LiveBay }
  /** What a probe of a bay sent, kept with the job there. */
  | { readonly kind: 'seen'; readonly bay: number; readonly job: string; readonly sample: Sample }
  /** House rules, chargers, types or stock have changed: ask again. */
  | { readonly kind: 'shop' };
