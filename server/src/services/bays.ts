/**
 * Bays with a supply of their own, as the server sees them: it gives orders to the bench, hears how each bay stands, keeps what was read, and is the last hand where the
 * bench itself is gone.
 */
import { fork, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import type { Logger } from 'pino';
import { bayChargeOf, bayVerdict, type BayCharge } from '@cork-ember/core/adapters/bayCharge.ts';
import { RunSheetError } from '@cork-ember/core/runsheet/entries/errors.ts';
import type { Entry } from '@cork-ember/core/runsheet/entries/events.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import type {
  Addressed,
  BayOrder,
  FromBench,
  LiveBay,
  ToBench,
} from '@cork-ember/core/devices/bay/messages.ts';
import { driverOf } from '@cork-ember/core/devices/driver.ts';
import type { DeviceKind } from '@cork-ember/core/devices/profile.ts';
import { oneAtATime } from '@cork-ember/core/devices/wire.ts';
import { elapsedNow } from '../clock/realTime.ts';
import type { ShopClock } from '../clock/shopClock.ts';
import { TcpWire } from '../devices/tcpWire.ts';
import { ProblemError } from '../problems.ts';
import type { SettingStore } from '../store/settingStore.ts';
import type { Devices } from './devices.ts';
import type { Entries } from './entries.ts';
import type { Jobs } from './jobs.ts';
import type { JobSample } from '../readings/readingsFile.ts';
import type { Readings } from './readings.ts';

const BEAT_MS = 500;
/** A check takes its small step and a few questions; whoever waits for it waits no longer. */
const CHECKED_WITHIN_MS = 20_000;
const ENDS_WITHIN_MS = 5000;
const BENCH_SILENT_MS = 3000;

const PROGRAM = fileURLToPath(
  new URL(
    import.meta.url.endsWith('.ts') ? '../bench/benchProcess.ts' : './benchProcess.js',
    import.meta.url,
  ),
);
/** What a bay without a probe is reckoned at, °C. */
const USUAL_C = 25;
const BENCH_GONE = 'The bench’s own program ended: the shop’s server switched this bay off.';

/** Looks of the run sheet come in by themselves so often, ms. */
const LOOK_MS = 15 * 60_000;
/** What was under control when the server ended. */
const UNDER_CONTROL = 'bays';
const SERVER_ENDED = 'The shop’s server ended meanwhile: the bay has been off since.';

export interface CheckRequest {
  readonly job: string;
}

/** A bay that is to run a charge of a run sheet, or runs it. */
interface Charging {
  readonly order: BayOrder;
  readonly charge: BayCharge;
  /** Who switched it on; none before. */
  by?: string;
  /** When the run sheet had its last look, shop time in ms. */
  lookedAt: number;
  /** Looks and endings go in one after the other. */
  recording: Promise<unknown>;
}

interface BaysNeed {
  readonly jobs: Jobs;
  readonly devices: Devices;
  readonly readings: Readings;
  readonly clock: ShopClock;
  readonly entries: Entries;
  readonly settings: SettingStore;
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
  private bench: ChildProcess | undefined;
  private timer: NodeJS.Timeout | undefined;
  private unkept: string | undefined;
  private orders = 0;
  private heardAt = 0;
  /** Seconds that are not on disk yet. */
  private seen: JobSample[] = [];

  constructor(need: BaysNeed) {
    this.need = need;
  }

  /** @throws ProblemError where a bay runs: many devices speak to one at a time, and that is the bench */
  assertQuiet(bay: number | undefined): void {
    const phase = bay === undefined ? undefined : this.live.get(bay)?.phase;
    if (phase === 'running' || phase === 'checking')
      throw new ProblemError('refused', `Bay ${bay} runs: its devices are the bench’s until it is stopped.`);
  }

  /** Every bay that was ever under control since the server began, as it stands. */
  list(): readonly LiveBay[] {
    return [...this.live.values()].sort((a, b) => a.bay - b.bay);
  }

  /**
   * Looks whether current may flow in a bay. A person at it still has to say so.
   * @throws ProblemError where the job stands elsewhere, the bay has no supply of its own, or the plan is not for its battery
   */
  async check(bay: number, { job }: CheckRequest): Promise<LiveBay> {
    const { state } = await this.need.jobs.job(job);
    const { tag } = state.opened.battery;
    if (state.bay !== bay) throw new ProblemError('refused', `${tag} does not stand in bay ${bay}.`);
    const phase = this.live.get(bay)?.phase;
    if (phase === 'running' || phase === 'checking')
      throw new ProblemError('refused', `Bay ${bay} runs: stop it first.`);
    const of = (kind: DeviceKind): Addressed | undefined => this.need.devices.inBay(bay, kind);
    const supply = of('supply');
    if (!supply)
      throw new ProblemError('refused', `Bay ${bay} has no supply of its own: add it under Setup, Devices.`);
    const charge = bayChargeOf(state, this.need.clock.now());
    const [meter, cutoff] = [of('meter'), of('cutoff')];
    const order: BayOrder = {
      order: (this.orders += 1),
      bay,
      job,
      supply,
      ...(meter ? { meter } : {}),
      ...(cutoff ? { cutoff } : {}),
      plan: charge.plan,
      subject: charge.subject,
    };
    this.need.wire?.(bay, state);
    this.charging.set(bay, { order, charge, lookedAt: 0, recording: Promise.resolve() });
    const checked = this.next(
      bay,
      (live) => live.order === order.order && live.phase !== 'checking',
      CHECKED_WITHIN_MS,
    );
    this.tell({ kind: 'check', order });
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
    const { order, charge } = charging;
    charging.by = by;
    charging.lookedAt = this.need.clock.now();
    await this.record(order.job, by, charge.begins(await this.warmthOf(bay)));
    await this.remember();
    const begun = this.next(bay, ({ phase }) => phase !== 'ready', CHECKED_WITHIN_MS);
    this.tell({ kind: 'confirm', bay });
    return begun;
  }

  /** At its posts as it is switched on; a bay without a probe is taken to be as warm as charges are reckoned. */
  private async warmthOf(bay: number): Promise<number> {
    return (await this.need.devices.askBay(bay, 'meter', 'tempC')) ?? USUAL_C;
  }

  private async record(job: string, by: string, entry: Entry): Promise<void> {
    const { log } = await this.need.jobs.job(job);
    await this.need.entries.append(job, {
      expectedSeq: log.at(-1)?.seq ?? 0,
      requestKey: randomUUID(),
      by,
      entry,
    });
  }

  /** What runs, for whoever begins after this server. */
  private remember(): Promise<void> {
    const under = [...this.charging.values()].flatMap(({ by, order }) =>
      by === undefined ? [] : [{ job: order.job, by }],
    );
    return this.need.settings.write(UNDER_CONTROL, under);
  }

  /** What was under control when a server ended is off, and its run sheet says so. */
  async begin(): Promise<void> {
    const under = (await this.need.settings.read<{ job: string; by: string }[]>(UNDER_CONTROL)) ?? [];
    for (const { job, by } of under) await this.pauseOnSheet(job, by, SERVER_ENDED, false);
    if (under.length > 0) await this.need.settings.write(UNDER_CONTROL, []);
  }

  /** The charger is off: the run sheet of a job whose charge goes on is told so, and why. */
  private async pauseOnSheet(job: string, by: string, why: string, isHot: boolean): Promise<void> {
    const { state } = await this.need.jobs.job(job);
    const step = state.steps[state.cursor];
    if (!step?.charge || step.charge.pausedFor !== undefined || state.outcome !== undefined) return;
    await this.record(job, by, { kind: 'noted', payload: { text: why } });
    await this.record(job, by, {
      kind: 'chargePaused',
      payload: { step: step.key, reason: isHot ? 'hot' : 'stopped' },
    });
  }

  /** A bay that ran and does not any more: how its run sheet goes on. */
  private async ended(charging: Charging, live: LiveBay, isHot = false): Promise<void> {
    const { by, order } = charging;
    if (by === undefined) return;
    delete charging.by;
    // The sheet first: whoever begins after this server finds either the one or the other.
    await this.pauseOnSheet(order.job, by, live.says, isHot);
    await this.remember();
  }

  /** A look for the run sheet, where one is due; and what the sheet makes of it. */
  private async look(charging: Charging, { sample }: LiveBay): Promise<void> {
    const { order, charge, by } = charging;
    const now = this.need.clock.now();
    if (by === undefined || sample?.tempC === undefined || now - charging.lookedAt < LOOK_MS) return;
    charging.lookedAt = now;
    await this.record(order.job, by, {
      kind: 'chargeRead',
      payload: {
        step: charge.step,
        values: { voltageV: rounded(sample.volts), currentA: rounded(sample.amps), tempC: sample.tempC },
        source: `Supply of bay ${order.bay}`,
      },
    });
    const { state } = await this.need.jobs.job(order.job);
    const verdict = bayVerdict(state, charge.step, now);
    if (verdict.go === 'on') return;
    if (verdict.go === 'done') {
      delete charging.by;
      await this.remember();
      this.tell({ kind: 'stop', bay: order.bay, why: 'Done: its looks say so.' });
      await this.record(order.job, by, {
        kind: 'chargeEnded',
        payload: { step: charge.step, fullSignal: false },
      });
      return;
    }
    this.tell({ kind: 'stop', bay: order.bay, why: verdict.why });
    await this.ended(
      charging,
      { order: order.order, bay: order.bay, job: order.job, phase: 'off', says: verdict.why },
      verdict.isHot,
    );
  }

  /** Off, whatever it does. @param by whoever pressed it */
  async stop(bay: number, by: string): Promise<LiveBay> {
    const now = this.live.get(bay);
    if (!now) throw new ProblemError('not-found', `Bay ${bay} is not under control.`);
    // The bench that had it in hand may be gone.
    if (now.phase === 'off') return now;
    const stopped = this.next(bay, ({ phase }) => phase === 'off', CHECKED_WITHIN_MS);
    this.tell({ kind: 'stop', bay, why: `Stopped by ${by}.` });
    const live = await stopped;
    await this.charging.get(bay)?.recording;
    return live;
  }

  /** Everything off, with the server. */
  async end(): Promise<void> {
    clearInterval(this.timer);
    const { bench } = this;
    if (bench) {
      bench.removeAllListeners('exit');
      const ended = new Promise((resolve) => bench.once('exit', resolve));
      bench.disconnect();
      // One that hears nothing any more has let go of its supplies: their watchdogs act.
      const late = setTimeout(() => bench.kill('SIGKILL'), ENDS_WITHIN_MS);
      await ended;
      clearTimeout(late);
    }
    await Promise.all([...this.charging.values()].map(({ recording }) => recording));
    await this.keepSeen();
  }

  private tell(message: ToBench): void {
    const bench = this.there();
    // An order goes by the clock as it is now.
    this.beat(bench);
    bench.send(message);
  }

  /** The bench, begun when it is first needed. */
  private there(): ChildProcess {
    if (this.bench) return this.bench;
    const bench = fork(PROGRAM);
    this.bench = bench;
    bench.on('message', (message: FromBench) => this.hear(message));
    bench.once('exit', () => {
      this.bench = undefined;
      void this.beLastHand();
    });
    this.beat(bench);
    this.timer ??= setInterval(() => {
      if (this.bench) this.beat(this.bench);
      this.lookAtBench();
      void this.keepSeen();
    }, BEAT_MS);
    return bench;
  }

  private beat(bench: ChildProcess): void {
    const { shopMs, pace } = this.need.clock.answer();
    const { unkept } = this;
    const beat: ToBench = { kind: 'beat', shopMs, pace, ...(unkept === undefined ? {} : { unkept }) };
    if (bench.connected) bench.send(beat);
  }

  private hear(message: FromBench): void {
    this.heardAt = elapsedNow();
    if (message.kind === 'alarm') {
      this.need.log.warn({ bay: message.bay, job: message.job }, message.says);
      return;
    }
    const { live } = message;
    this.live.set(live.bay, live);
    if (live.phase === 'running' && live.sample) this.seen.push({ job: live.job, ...live.sample });
    this.goOnWith(live);
    for (const wait of this.waits.get(live.bay) ?? []) wait(live);
  }

  /** A bench that should speak each second and does not is gone, whatever it still is. */
  private lookAtBench(): void {
    const isBusy = [...this.live.values()].some(({ phase }) => phase === 'running');
    if (isBusy && elapsedNow() - this.heardAt > BENCH_SILENT_MS) this.bench?.kill('SIGKILL');
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
      .then(() => (isOver ? this.ended(charging, live) : this.look(charging, live)))
      .catch((error: unknown) => {
        // What the run sheet does not take, a person has to look at: with the current off.
        this.need.log.error({ err: error, bay: live.bay }, 'the run sheet did not take what a bay did');
        if (!isOver) this.tell({ kind: 'stop', bay: live.bay, why: sentenceOf(error) });
      });
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
    for (const [bay, { order }] of this.charging) {
      const { supply, cutoff, job } = order;
      const { phase } = this.live.get(bay) ?? {};
      if (phase === 'off') continue;
      const live: LiveBay = { order: order.order, bay, job, phase: 'off', says: BENCH_GONE };
      this.live.set(bay, live);
      this.need.log.error({ bay, job }, BENCH_GONE);
      await Promise.all([supply, cutoff].map(async (one) => one && switchOff(one)));
      this.goOnWith(live);
    }
  }
}

async function switchOff({ profile, host, port }: Addressed): Promise<void> {
  const wire = new TcpWire(host, port);
  await driverOf(profile, oneAtATime(wire))
    .tell('off')
    // It goes off by its own watchdog, or not at all: who comes is told.
    .catch(() => undefined);
  wire.close();
}

const rounded = (value: number): number => Number(value.toFixed(2));

const sentenceOf = (error: unknown): string =>
  error instanceof RunSheetError || error instanceof ProblemError
    ? error.message
    : 'The run sheet could not be written: look at the server’s log.';
