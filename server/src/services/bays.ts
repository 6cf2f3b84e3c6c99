/**
 * Bays with a supply of their own, as the server sees them: it gives orders to the bench, hears how each bay stands, keeps what was read, and is the last hand where the
 * bench itself is gone.
 */
import type { Logger } from 'pino';
import { airWords, gassingNow, type Gassing } from '@cork-ember/core/adapters/bayRoom.ts';
import { InstrumentError } from '@cork-ember/core/observation/instrument.ts';
import { RunSheetError } from '@cork-ember/core/runsheet/entries/errors.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import type { BayOrder, FromBench, GoesOnTo, LiveBay } from '@cork-ember/core/devices/bay/messages.ts';
import type { CapacityMethod } from '@cork-ember/core/grading/grade.ts';
import { elapsedNow } from '../clock/realTime.ts';
import type { ShopClock } from '../clock/shopClock.ts';
import { ProblemError } from '../problems.ts';
import type { AlarmPost } from './alarmPost.ts';
import { BenchLink } from './benchLink.ts';
import type { Devices } from './devices.ts';
import { bayOrderOf, type BayWork } from './bayOrder.ts';
import type { BaySheets, OnSheet } from './baySheet.ts';
import type { Jobs } from './jobs.ts';
import type { JobSample } from '../readings/readingsFile.ts';
import type { Readings } from './readings.ts';
import type { Stream } from './stream.ts';

/** A check takes its small step and a few questions; whoever waits for it waits no longer. */
const CHECKED_WITHIN_MS = 20_000;
const BENCH_GONE = 'The bench’s own program ended: the shop’s server switched this bay off.';

/** What was found at the clips holds so long, ms: then somebody may have changed them. */
const CHECK_HOLDS_MS = 5 * 60_000;

export interface CheckRequest {
  readonly job: string;
  /** How a capacity is measured, where that is what is at hand. */
  readonly method?: CapacityMethod;
}

/** A bay that is to run a charge or discharge of a run sheet, or runs it. */
interface Charging {
  readonly order: BayOrder;
  readonly work: BayWork;
  /** The air its room needs with it, where it gases. */
  readonly air: string | undefined;
  /** While nobody has touched the clips since; on a clock that only grows, ms. */
  readonly checkedAt: number;
  /** Once somebody switched it on. */
  on?: OnSheet;
  /** Looks and endings go in one after the other. */
  recording: Promise<unknown>;
}

interface BaysNeed {
  readonly jobs: Jobs;
  readonly devices: Devices;
  readonly readings: Readings;
  readonly clock: ShopClock;
  readonly sheets: BaySheets;
  readonly stream: Stream;
  readonly alarms: AlarmPost;
  readonly log: Logger;
  /** Of a demo: puts the battery of a job before the simulated devices of its bay. */
  readonly wire?: (bay: number, state: JobState) => void;
}

type Wait = (live: LiveBay) => void;

export class Bays {
  private readonly need: BaysNeed;
  private readonly live = new Map<number, LiveBay>();
  private readonly charging = new Map<number, Charging>();
  private readonly waits = new Map<number, Wait[]>();
  /** Bays that went off by themselves, and why, until somebody has seen it. */
  private readonly calling = new Map<number, string>();
  private readonly going = new Map<number, GoesOnTo>();
  private readonly bench: BenchLink;
  private unkept: string | undefined;
  private orders = 0;
  /** Seconds that are not on disk yet. */
  private seen: JobSample[] = [];

  constructor(need: BaysNeed) {
    this.need = need;
    this.bench = new BenchLink({
      now: () => {
        const { shopMs, pace } = need.clock.answer();
        const { unkept } = this;
        return { shopMs, pace, ...(unkept === undefined ? {} : { unkept }) };
      },
      hear: (message) => this.hear(message),
      isBusy: () => [...this.live.values()].some(({ phase }) => phase === 'running'),
      beaten: () => void this.keepSeen(),
      gone: () => void this.beLastHand(),
    });
    need.devices.askedThrough((of) => this.bench.driverOf(of));
  }

  /** @throws ProblemError where a bay runs: many devices speak to one at a time, and that is the bench */
  assertQuiet(bay: number | undefined): void {
    const phase = bay === undefined ? undefined : this.live.get(bay)?.phase;
    if (phase === 'running' || phase === 'checking')
      throw new ProblemError('refused', `Bay ${bay} runs: its devices are the bench’s until it is stopped.`);
  }

  phaseOf(bay: number): LiveBay['phase'] | undefined {
    return this.live.get(bay)?.phase;
  }

  /** Why it calls for hands; undefined where it does not. */
  callOf(bay: number): string | undefined {
    return this.calling.get(bay);
  }

  /** Once all that it did so far stands on its run sheet. */
  async settled(bay: number): Promise<void> {
    await this.charging.get(bay)?.recording;
  }

  /** What it goes on to by itself, for all who look at it; undefined where it does not. */
  goesOn(bay: number, to: GoesOnTo | undefined): void {
    if (JSON.stringify(this.going.get(bay)) === JSON.stringify(to)) return;
    if (to) this.going.set(bay, to);
    else this.going.delete(bay);
    const live = this.live.get(bay);
    if (live) this.shows(live);
  }

  /** It cannot go on as it should: hands are called. */
  callsFor(bay: number, job: string, says: string): void {
    this.calls(bay, job, says);
    const live = this.live.get(bay);
    if (live) this.shows({ ...live, phase: 'off', says });
  }

  /** Every bay that was ever under control since the server began, as it stands. */
  list(): readonly LiveBay[] {
    return [...this.live.values()].sort((a, b) => a.bay - b.bay);
  }

  /**
   * Looks whether current may flow in a bay. A person at it still has to say so.
   * @throws ProblemError where the job stands elsewhere, the bay has no supply of its own, or the plan is not for its battery
   */
  async check(bay: number, { job, method }: CheckRequest): Promise<LiveBay> {
    const { state } = await this.need.jobs.job(job);
    const { tag } = state.opened.battery;
    if (state.bay !== bay) throw new ProblemError('refused', `${tag} does not stand in bay ${bay}.`);
    const phase = this.live.get(bay)?.phase;
    if (phase === 'running' || phase === 'checking')
      throw new ProblemError('refused', `Bay ${bay} runs: stop it first.`);
    const now = this.need.clock.now();
    const asked = { bay, job, state, now, method, order: (this.orders += 1) };
    const { order, work } = bayOrderOf(asked, this.need.devices);
    this.need.wire?.(bay, state);
    const air = work.kind === 'charge' ? airWords([...(await this.gassing(now)), work.gassing]) : undefined;
    this.calling.delete(bay);
    this.charging.set(bay, { order, work, air, checkedAt: elapsedNow(), recording: Promise.resolve() });
    const checked = this.next(
      bay,
      (live) => live.order === order.order && live.phase !== 'checking',
      CHECKED_WITHIN_MS,
    );
    this.bench.tell({ kind: 'check', order });
    return checked;
  }

  /**
   * A person at the bay has looked and says go: it stands on the run sheet, and then current flows.
   * @throws ProblemError where it was not checked; RunSheetError where the run sheet does not take it
   */
  async confirm(bay: number, by: string): Promise<LiveBay> {
    const charging = this.charging.get(bay);
    if (!charging || this.live.get(bay)?.phase !== 'ready')
      throw new ProblemError('refused', `Bay ${bay} is checked before it is switched on.`);
    if (elapsedNow() - charging.checkedAt > CHECK_HOLDS_MS)
      throw new ProblemError('refused', `Bay ${bay} was checked more than five minutes ago: check it again.`);
    const { order, work } = charging;
    const tempC = await this.need.devices.askBay(bay, 'meter', 'tempC');
    const hasCutOff = order.cutoff !== undefined;
    charging.on = await this.need.sheets.starts({ bay, job: order.job, by, work, hasCutOff }, tempC);
    const begun = this.next(bay, ({ phase }) => phase !== 'ready', CHECKED_WITHIN_MS);
    this.bench.tell({ kind: 'confirm', bay });
    return begun;
  }

  /** Off, whatever it does. @param by whoever pressed it */
  async stop(bay: number, by: string): Promise<LiveBay> {
    const now = this.live.get(bay);
    if (!now) throw new ProblemError('not-found', `Bay ${bay} is not under control.`);
    this.calling.delete(bay);
    // The bench that had it in hand may be gone; and whoever comes to one that went off has seen it.
    if (now.phase === 'off') return this.shows(now);
    const stopped = this.next(bay, ({ phase }) => phase === 'off', CHECKED_WITHIN_MS);
    this.bench.tell({ kind: 'stop', bay, why: `Stopped by ${by}.` });
    const live = await stopped;
    await this.charging.get(bay)?.recording;
    return live;
  }

  /** Everything off, with the server. */
  async end(): Promise<void> {
    this.need.alarms.end();
    await this.bench.end();
    await Promise.all([...this.charging.values()].map(({ recording }) => recording));
    await this.keepSeen();
  }

  private hear(message: Exclude<FromBench, { kind: 'answer' }>): void {
    if (message.kind === 'alarm') {
      const { bay, job, says } = message;
      this.calls(bay, job, says);
      const live = this.live.get(bay);
      // What it shows next says so; one that stays on says it now.
      if (live?.phase === 'off') this.shows(live);
      return;
    }
    const { live } = message;
    this.shows(live);
    if (live.phase === 'running' && live.sample) this.seen.push({ job: live.job, ...live.sample });
    this.goOnWith(live);
    for (const wait of this.waits.get(live.bay) ?? []) wait(live);
  }

  /** A bay wants hands: on every page until somebody has seen it, and wherever alarms go. */
  private calls(bay: number, job: string, says: string): void {
    this.need.log.warn({ bay, job }, says);
    this.calling.set(bay, says);
    void this.need.alarms.send({ bay, job, says });
  }

  /** How a bay stands now, for all who look at it. */
  private shows({ calls: _called, goesOn: _went, ...live }: LiveBay): LiveBay {
    const { bay, phase, order } = live;
    const calls = phase === 'off' ? this.calling.get(bay) : undefined;
    const charging = this.charging.get(bay);
    const air = phase === 'ready' && charging?.order.order === order ? charging.air : undefined;
    const goesOn = this.going.get(bay);
    const shown: LiveBay = {
      ...live,
      ...(goesOn ? { goesOn } : {}),
      ...(air === undefined ? {} : { air }),
      ...(calls === undefined ? {} : { calls }),
    };
    const before = this.live.get(bay);
    this.live.set(bay, shown);
    // One that is off says so each second.
    if (phase === 'running' || JSON.stringify(before) !== JSON.stringify(shown))
      this.need.stream.tell({ kind: 'bay', live: shown });
    return shown;
  }

  /** What gases in the room: every charge that is on by its run sheet. */
  private async gassing(now: number): Promise<Gassing[]> {
    return (await this.need.jobs.openJobs()).flatMap(({ state }) => gassingNow(state, now) ?? []);
  }

  /** Puts what was seen since on disk, of all bays together. Where that fails nothing may flow any more. */
  private async keepSeen(): Promise<void> {
    if (this.seen.length === 0) return;
    const { seen } = this;
    this.seen = [];
    try {
      await this.need.readings.keep(seen);
      this.unkept = undefined;
    } catch (error) {
      this.seen = [...seen, ...this.seen];
      this.unkept = 'the file of readings cannot be written';
      this.need.log.error({ err: error }, this.unkept);
    }
  }

  /** What the run sheet is told of it, in turn. */
  private goOnWith(live: LiveBay): void {
    const charging = this.charging.get(live.bay);
    if (charging?.order.order !== live.order) return;
    const isOver = live.phase === 'off' || live.phase === 'ended';
    charging.recording = charging.recording
      .then(() => this.write(charging, live))
      .catch((error: unknown) => {
        // What the run sheet does not take, a person has to look at: with the current off.
        this.need.log.error({ err: error, bay: live.bay }, 'the run sheet did not take what a bay did');
        if (!isOver) this.bench.tell({ kind: 'stop', bay: live.bay, why: sentenceOf(error) });
      });
  }

  private async write({ on, order }: Charging, live: LiveBay): Promise<void> {
    if (!on) return;
    if (live.phase === 'off' || live.phase === 'ended') {
      return this.need.sheets.ends(on, live);
    }
    if (live.phase !== 'running') return;
    const off = await this.need.sheets.look(on, live);
    if (!off) return;
    this.bench.tell({ kind: 'stop', bay: order.bay, why: off.why });
    await off.write();
  }

  /** How a bay stands once that is so. @throws ProblemError where it is not so in time */
  private next(bay: number, isSo: (live: LiveBay) => boolean, withinMs: number): Promise<LiveBay> {
    return new Promise((resolve, reject) => {
      const leave = (): void => {
        clearTimeout(timer);
        this.waits.set(
          bay,
          (this.waits.get(bay) ?? []).filter((one) => one !== wait),
        );
      };
      const wait: Wait = (live) => {
        if (!isSo(live)) return;
        leave();
        resolve(live);
      };
      const timer = setTimeout(() => {
        leave();
        reject(
          new ProblemError('refused', `Bay ${bay} did not answer: look at it, and switch it off by hand.`),
        );
      }, withinMs);
      this.waits.set(bay, [...(this.waits.get(bay) ?? []), wait]);
    });
  }

  /** The bench is gone: every supply it had in hand is told to be off from here. */
  private async beLastHand(): Promise<void> {
    await Promise.all(
      [...this.charging].map(async ([bay, { order }]) => {
        const { source, cutoff, job } = order;
        const before = this.live.get(bay)?.phase;
        if (before === 'off') return;
        const live: LiveBay = { order: order.order, bay, job, phase: 'off', says: BENCH_GONE };
        // Where nothing flowed nobody is called.
        if (before === 'running') this.calls(bay, job, BENCH_GONE);
        this.shows(live);
        await Promise.all([source, cutoff].map(async (one) => one && this.need.devices.switchOff(one)));
        this.goOnWith(live);
      }),
    );
  }
}

/** Why something a bay was to do could not be done. */
export const sentenceOf = (error: unknown): string =>
  [RunSheetError, ProblemError, InstrumentError].some((kind) => error instanceof kind)
    ? (error as Error).message
    : 'The run sheet could not be written: look at the server’s log.';
