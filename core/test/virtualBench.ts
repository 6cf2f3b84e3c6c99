/** A bay of devices that are not there, in a time of its own: thousands of nights in seconds, each the same when it is run again. */
import type { Clock } from '../clock/clock.ts';
import type { EngineState } from '../charge/engine.ts';
import type { BayEngine, BayRun } from '../devices/bay/run.ts';
import { BaySupervisor } from '../devices/bay/supervisor.ts';
import { driverOf } from '../devices/driver.ts';
import {
  GENERIC_CUT_OFF,
  GENERIC_LOAD,
  GENERIC_SCANNER,
  GENERIC_STOP_INPUT,
  GENERIC_SUPPLY,
} from '../devices/genericProfiles.ts';
import { Circuit } from '../devices/simulated/circuit.ts';
import {
  SimulatedCutOff,
  SimulatedLoad,
  SimulatedMeter,
  SimulatedStop,
  SimulatedSupply,
  type SimulatedDevice,
} from '../devices/simulated/instruments.ts';
import { DeviceError, oneAtATime, type Wire } from '../devices/wire.ts';
import type { CellString } from '../model/cellString.ts';

/** Turns of the task queue an answer may take to reach whoever waits for it. */
const TURNS = 40;

/** Time that passes only when everybody waits. */
export class VirtualTime implements Clock {
  private ms = 0;
  private readonly waiting: { readonly at: number; readonly wake: () => void }[] = [];

  now(): number {
    return this.ms;
  }

  pass(ms: number): Promise<void> {
    return new Promise((resolve) => this.waiting.push({ at: this.ms + ms, wake: resolve }));
  }

  /** Lets time go by until a moment, waking whoever waits on the way. */
  async runTo(ms: number): Promise<void> {
    for (;;) {
      for (let turn = 0; turn < TURNS; turn++) await Promise.resolve();
      let next: number | undefined;
      for (const [index, { at }] of this.waiting.entries())
        if (at <= ms && at < (this.waiting[next ?? -1]?.at ?? Number.POSITIVE_INFINITY)) next = index;
      if (next === undefined) break;
      const [waited] = this.waiting.splice(next, 1);
      this.ms = Math.max(this.ms, waited?.at ?? 0);
      waited?.wake();
    }
    this.ms = ms;
  }

  /** Runs until a promise settles. */
  async until<T>(work: Promise<T>, mostMs = 60_000): Promise<T> {
    let isOver = false;
    void work.then(
      () => (isOver = true),
      () => (isOver = true),
    );
    for (const end = this.ms + mostMs; !isOver && this.ms < end;) await this.runTo(this.ms + 50);
    return work;
  }
}

/** A cable to a device that is not there. */
function wireTo(device: SimulatedDevice, time: VirtualTime): Wire {
  return oneAtATime({
    exchange: async (message, framing, withinMs) => {
      const answered = device.hear(message);
      if (!framing) return new Uint8Array();
      const waitMs = answered ? Math.min(answered.afterMs, withinMs) : withinMs;
      await time.pass(waitMs);
      if (!answered || answered.afterMs > withinMs) throw new DeviceError('silent', 'it does not answer.');
      const end = framing(answered.bytes);
      if (end === undefined) throw new DeviceError('silent', 'it does not answer.');
      return answered.bytes.slice(0, end);
    },
  });
}

export interface BenchParts<S extends BayRun = EngineState> {
  readonly cells: CellString;
  readonly engine: BayEngine<S>;
  /** Of a battery that is drawn down by a load: where that lets go, V. */
  readonly leastV?: number;
  /** Of the supply itself, or the load. */
  readonly hasWatchdog?: boolean;
  readonly hasCutOff?: boolean;
  readonly hasMeter?: boolean;
}

export class VirtualBench<S extends BayRun = EngineState> {
  readonly time = new VirtualTime();
  readonly circuit: Circuit;
  readonly supply: SimulatedSupply;
  readonly load: SimulatedLoad;
  readonly meter: SimulatedMeter;
  readonly cutoff: SimulatedCutOff | undefined;
  readonly stop: SimulatedStop;
  readonly supervisor: BaySupervisor<S>;
  readonly alarms: { readonly atS: number; readonly says: string }[] = [];
  unkept: string | undefined;
  /** The shop's clock was moved by so much, ms. */
  movedMs = 0;
  private isWatching = true;

  constructor({
    cells,
    engine,
    hasWatchdog = true,
    hasCutOff = true,
    hasMeter = true,
    leastV,
  }: BenchParts<S>) {
    const { time } = this;
    this.circuit = new Circuit(cells, time);
    this.supply = new SimulatedSupply(this.circuit, time);
    this.load = new SimulatedLoad(this.circuit, time);
    this.meter = new SimulatedMeter(this.circuit, time);
    this.cutoff = hasCutOff ? new SimulatedCutOff(this.circuit, time) : undefined;
    this.stop = new SimulatedStop(time);
    const usual = leastV === undefined ? GENERIC_SUPPLY : GENERIC_LOAD;
    const { watchdogS: _none, ...plain } = usual;
    const scanner = driverOf(GENERIC_SCANNER, wireTo(this.meter, time));
    const source = leastV === undefined ? this.supply : this.load;
    const given = driverOf(hasWatchdog ? usual : plain, wireTo(source, time));
    this.supervisor = new BaySupervisor<S>(
      {
        supply: given,
        ...(hasMeter ? { posts: scanner, probe: scanner } : {}),
        stops: [driverOf(GENERIC_STOP_INPUT, wireTo(this.stop, time))],
        ...(this.cutoff ? { cutoff: driverOf(GENERIC_CUT_OFF, wireTo(this.cutoff, time)) } : {}),
      },
      engine,
      {
        source: leastV === undefined ? 'supply' : 'load',
        ...(leastV === undefined ? {} : { leastV }),
        cells: engine.cells,
        ceilingV: engine.ceilings.volts,
        everyS: 1,
        leadsOhm: 0,
      },
      {
        now: () => ({ atS: time.now() / 1000, shopMs: time.now() + this.movedMs, pace: 1 }),
        pass: (seconds) => time.pass(seconds * 1000),
        alarm: (says) => this.alarms.push({ atS: time.now() / 1000, says }),
        unkept: () => this.unkept,
      },
    );
  }

  /** Checked, and switched on by a person. */
  async begin(restingV?: number): Promise<void> {
    await this.time.until(this.supervisor.check(restingV));
    await this.time.until(this.supervisor.confirm());
    void this.watch();
  }

  /** Looks each second, for ever: whoever dies is told so by {@link die}. */
  private async watch(): Promise<void> {
    while (this.isWatching) {
      const since = this.time.now();
      await this.supervisor.look();
      await this.time.pass(Math.max(0, 1000 - (this.time.now() - since)));
    }
  }

  /** Nobody looks any more. */
  die(): void {
    this.isWatching = false;
  }

  async runFor(seconds: number): Promise<void> {
    await this.stepTo(this.time.now() + seconds * 1000, () => false);
  }

  /**
   * Runs until no current flows.
   * @param forS nor for so long after; pulses have pauses of their own
   * @returns how long that took, s; undefined where it still flows then
   */
  async secondsUntilOff(mostS: number, forS = 0): Promise<number | undefined> {
    const since = this.time.now();
    const isOff = (): boolean =>
      Math.abs(this.circuit.batteryA) < 1e-6 && Math.abs(this.circuit.supplyA) < 1e-6;
    for (const end = since + mostS * 1000; this.time.now() < end;) {
      await this.stepTo(end, isOff);
      const offAt = this.time.now();
      if (!isOff()) return undefined;
      await this.stepTo(offAt + forS * 1000, () => !isOff());
      if (isOff()) return (offAt - since) / 1000;
    }
    return undefined;
  }

  private async stepTo(endMs: number, isOver: () => boolean): Promise<void> {
    const STEP_MS = 50;
    while (this.time.now() < endMs && !isOver()) {
      await this.time.runTo(Math.min(endMs, this.time.now() + STEP_MS));
      this.supply.liveUntil(this.time.now());
      this.load.liveUntil(this.time.now());
      this.cutoff?.liveUntil(this.time.now());
    }
  }
}
