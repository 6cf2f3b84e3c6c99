/**
 * Runs a charge plan on the devices of one bay, look by look: reads them all, asks the engine, tells the supply. The engine is the one that charges the model.
 * Whatever is in doubt switches off, and nothing but a person at the bay switches on again.
 */
import type { EngineReading, EngineState } from '../../charge/engine.ts';
import { NO_PROBE_C } from '../../charge/compensation.ts';
import type { Driver } from '../driver.ts';
import type { BaySample } from '../samples.ts';
import { DeviceError } from '../wire.ts';
import { checkConnection, checkLoad, type CheckedBattery, type Found } from './check.ts';
import { faultOf, STOP_PRESSED, unanswered, type FaultId, type Look, type Watched } from './faults.ts';
import { nudged, stillnessAfter, stillnessOf, type Stillness } from './frozen.ts';
import type { BayEngine, BayRun } from './run.ts';
import {
  isAnswered,
  NO_CURRENT_A,
  type BaySeen,
  type Held,
  type SupplySeen,
  type Unanswered,
} from './seen.ts';

export interface BayDevices {
  /** What gives the current: a supply, or an electronic load that takes it. */
  readonly supply: Driver;
  /** Volts at the posts by another instrument. */
  readonly posts?: Driver;
  readonly probe?: Driver;
  readonly cutoff?: Driver;
  /** Stop buttons: whichever of them is not free, or does not answer, is pressed. */
  readonly stops?: readonly Driver[];
}

export type BayPhase<S extends BayRun = EngineState> =
  | { readonly kind: 'off'; readonly why: string; readonly fault?: FaultId | 'stopped' | 'stays-on' }
  | { readonly kind: 'checking' }
  | { readonly kind: 'ready'; readonly found: Found }
  | { readonly kind: 'running'; readonly state: S | undefined }
  | { readonly kind: 'ended'; readonly state: S };

/** What a bay asks of the world around it. */
export interface BayHooks {
  /** On a clock that only grows, s; and on the shop's, ms. */
  readonly now: () => { readonly atS: number; readonly shopMs: number; readonly pace: number };
  readonly pass: (seconds: number) => Promise<void>;
  /** Calls for hands, at once. */
  readonly alarm: (sentence: string) => void;
  /** Why readings cannot be kept, where they cannot. */
  readonly unkept?: () => string | undefined;
}

const NEW_BEGINNING = 'Off since the bench began: whatever ran before does not go on by itself.';
const STAYS_ON: Record<Watched['source'], string> = {
  supply: 'The supply does not switch off: pull its mains plug now.',
  load: 'The load does not switch off: take its clips off the battery now.',
};
const TRIES = 2;
const NOTHING: Held = { volts: 0, amps: 0, isOn: false };
/** The cut-off and the supply go off by themselves after so many looks without a word. */
const LOOKS_COVERED = 2;

type Previous = Look['before'];

export class BaySupervisor<S extends BayRun = EngineState> {
  phase: BayPhase<S> = { kind: 'off', why: NEW_BEGINNING };
  private readonly devices: BayDevices;
  private readonly engine: BayEngine<S>;
  private readonly hooks: BayHooks;
  private readonly watched: Watched;
  private held: Held = NOTHING;
  /** What it was told before that, while that is new. */
  private heldBefore: Held = NOTHING;
  private isNew = true;
  private before: Previous;
  private settled: { readonly held: Held; readonly amps: number } | undefined;
  private still: Stillness | undefined;
  /** It is being switched on: what it shows meanwhile is neither off nor on. */
  private isSwitching = false;
  /** Each run has its own; what belongs to one that is over tells nobody anything. */
  private run = 0;

  constructor(devices: BayDevices, engine: BayEngine<S>, watched: Watched, hooks: BayHooks) {
    this.devices = devices;
    this.engine = engine;
    this.watched = watched;
    this.hooks = hooks;
  }

  /** What was seen at the last look that was well; none before. */
  get lastSample(): BaySample | undefined {
    if (!this.before) return undefined;
    const { seen, supply } = this.before;
    const { probe, posts, shopMs } = seen;
    return {
      at: Math.round(shopMs),
      volts: posts && isAnswered(posts) ? posts.volts : supply.volts,
      // Into the battery: what a load draws flows out of it.
      amps: this.watched.source === 'load' ? -supply.amps : supply.amps,
      ...(probe && isAnswered(probe) ? { tempC: probe.tempC } : {}),
    };
  }

  private get state(): S | undefined {
    return this.phase.kind === 'running' || this.phase.kind === 'ended' ? this.phase.state : undefined;
  }

  /** What it does, while it runs or once it has. */
  get stage(): string | undefined {
    return this.state && this.engine.stageOf(this.state).name;
  }

  /** The current of its plan, A; none while it gives none. */
  get setA(): number | undefined {
    const command = this.state && this.engine.command(this.state);
    return command?.isOn ? command.amps : undefined;
  }

  /**
   * Looks whether current may flow. A person at the bay still has to say so.
   * @throws ConnectionRefused, DeviceError; RangeError where it runs, or is being checked
   */
  async check(restingV?: number): Promise<Found> {
    if (this.phase.kind === 'running' || this.phase.kind === 'checking')
      throw new RangeError('A bay that runs is stopped before it is checked anew.');
    const run = ++this.run;
    const { ceilings, cells } = this.engine;
    const battery: CheckedBattery = {
      cells,
      ceilingV: ceilings.volts,
      ceilingA: ceilings.amps,
      ...(restingV === undefined ? {} : { restingV }),
      ...(this.watched.leastV === undefined ? {} : { leastV: this.watched.leastV }),
    };
    this.phase = { kind: 'checking' };
    try {
      await this.stopsAreFree();
      const check = this.watched.source === 'load' ? checkLoad : checkConnection;
      const found = await check(this.devices, battery, {
        pass: this.hooks.pass,
        isWanted: () => run === this.run,
      });
      this.phase = { kind: 'ready', found };
      return found;
    } catch (error) {
      if (run === this.run) this.phase = { kind: 'off', why: wordsOf(error) };
      throw error;
    }
  }

  /** @throws DeviceError where a stop button is pressed, or its loop does not answer */
  private async stopsAreFree(): Promise<void> {
    for (const stop of this.devices.stops ?? [])
      if ((await stop.ask('isFree')) === 0) throw new DeviceError('refused', STOP_PRESSED);
  }

  /** A person at the bay has looked, and says go. @throws RangeError where it was not checked */
  async confirm(): Promise<void> {
    if (this.phase.kind !== 'ready') throw new RangeError('A bay is checked before it is switched on.');
    const run = ++this.run;
    const { supply, cutoff } = this.devices;
    const begun = this.engine.begin(this.hooks.now().shopMs / 1000);
    this.phase = { kind: 'running', state: undefined };
    this.isSwitching = true;
    [this.before, this.settled, this.still] = [undefined, undefined, undefined];
    try {
      await this.arm(supply);
      if (cutoff) await this.arm(cutoff);
      // While these were told a person may have stopped it.
      if (run === this.run) await cutoff?.tell('on');
      if (run === this.run) await this.hold(this.engine.command(begun), run);
    } catch (error) {
      if (run === this.run)
        await this.trip('no-answer', `The bay could not be switched on: ${wordsOf(error)}`);
    } finally {
      this.isSwitching = false;
    }
  }

  /** So that it goes off by itself where nobody speaks to it, if it can. */
  private async arm(device: Driver): Promise<void> {
    const { watchdogS } = device.profile;
    if (watchdogS !== undefined)
      await device.tell('watchdogS', Math.min(watchdogS, this.watched.everyS * LOOKS_COVERED));
  }

  /**
   * One look, every second. A bay that is off is watched too: that it stays so.
   * @throws whatever is no trouble of a device, once the bay is off
   */
  async look(): Promise<void> {
    const { run } = this;
    if (this.phase.kind !== 'running') return this.mustBeOff();
    if (this.isSwitching) return undefined;
    try {
      await this.lookOn(run);
    } catch (error) {
      if (run === this.run) await this.trip('no-answer', `The ${this.watched.source}: ${wordsOf(error)}`);
      if (!(error instanceof DeviceError)) throw error;
    }
  }

  private async lookOn(run: number): Promise<void> {
    const seen = await this.see();
    if (run !== this.run) return;
    const silent = unanswered(seen, this.watched);
    if (silent || !isAnswered(seen.supply))
      return this.trip(silent?.id ?? 'no-answer', silent?.says ?? 'It does not answer.');
    const { supply } = seen;
    const { held, isNew, before } = this;
    const settledA = sameHeld(this.settled?.held, held) ? this.settled?.amps : undefined;
    const mostA = Math.max(ampsOf(held), isNew ? ampsOf(this.heldBefore) : 0);
    const fault = faultOf({ seen, supply, before, held, isNew, settledA, mostA }, this.watched);
    if (fault) return this.trip(fault.id, fault.says);
    if (!isNew) this.settled = { held, amps: supply.amps };
    this.before = { seen, supply };
    this.isNew = false;
    if (await this.isAskedWhetherItMoves(supply, seen.atS)) return;
    await this.goOn(seen, supply, run);
  }

  /** Still figures are asked about; the engine is not fed with what was made up for it. */
  private async isAskedWhetherItMoves(supply: SupplySeen, atS: number): Promise<boolean> {
    const wasAsked = this.still?.nudgeLooks !== undefined;
    if (!this.held.isOn) this.still = undefined;
    const { frozenAfterS } = this.devices.supply.profile;
    const { everyS, cells } = this.watched;
    const now = this.still
      ? stillnessAfter(this.still, supply, atS, { frozenAfterS, everyS })
      : stillnessOf(supply, atS);
    if (now === 'frozen') {
      await this.trip(
        'frozen',
        `The ${this.watched.source} has shown ${supply.volts} V and ${supply.amps} A for ${frozenAfterS} s, whatever it was told.`,
      );
      return true;
    }
    this.still = now;
    const isAsked = now.nudgeLooks !== undefined;
    if (isAsked && !wasAsked) await this.hold(nudged(this.held, cells), this.run);
    return isAsked;
  }

  private async goOn(seen: BaySeen, supply: SupplySeen, run: number): Promise<void> {
    if (this.phase.kind !== 'running') return;
    const tempC = seen.probe && isAnswered(seen.probe) ? seen.probe.tempC : NO_PROBE_C;
    // A charge lives in the shop's time, which a demo paces.
    const atS = seen.shopMs / 1000;
    // Down to an end at the posts: a load's leads lose the more the more it draws.
    const posts =
      this.watched.source === 'load' && seen.posts && isAnswered(seen.posts) ? seen.posts : undefined;
    const volts = posts?.volts ?? supply.volts;
    const reading: EngineReading = { atS, volts, amps: supply.amps, tempC };
    const state = this.engine.next(this.phase.state ?? this.engine.begin(atS), reading);
    this.phase = { kind: 'running', state };
    if (state.ended !== undefined) {
      this.phase = { kind: 'ended', state };
      this.run += 1;
      await this.off();
      return;
    }
    const command = this.engine.command(state);
    // Looked at once a second pulses are followed as they come; in a demo that runs faster their average is held.
    const amps = seen.pace === 1 ? this.engine.pulseA(state, atS).amps : command.amps;
    await this.hold({ ...command, amps: command.isOn ? amps : 0 }, run);
  }

  /** Tells the supply what to hold, where that is new: off first, on last. */
  private async hold({ volts, amps, isOn }: Held, run: number): Promise<void> {
    const { supply } = this.devices;
    const before = this.held;
    const now = isOn
      ? { volts: Number(volts.toFixed(3)), amps: Number(amps.toFixed(3)), isOn }
      : { ...before, isOn };
    if (sameHeld(now, before)) return;
    [this.held, this.heldBefore] = [now, before];
    this.isNew = true;
    if (before.isOn && !isOn) await supply.tell('off');
    if (now.volts !== before.volts && this.holdsVolts) await supply.tell('setVolts', now.volts);
    if (now.amps !== before.amps) await supply.tell('setAmps', now.amps);
    // Between two words a person may have stopped it.
    if (isOn && !before.isOn && run === this.run) await supply.tell('on');
  }

  /** A load is told its current alone. */
  private get holdsVolts(): boolean {
    const { speech } = this.devices.supply.profile;
    return 'setVolts' in speech.asks;
  }

  /** What all devices show, asked for at once. */
  private async see(): Promise<BaySeen> {
    const { supply, posts, probe, cutoff, stops = [] } = this.devices;
    const { held, holdsVolts } = this;
    const [supplySeen, postsSeen, probeSeen, cutoffSeen, ...stopsSeen] = await Promise.all([
      orTrouble(async () => ({
        volts: await supply.ask('volts'),
        amps: await supply.ask('amps'),
        isOn: (await supply.ask('isOn')) !== 0,
        setVolts: holdsVolts ? await supply.ask('setVolts') : held.volts,
        setAmps: await supply.ask('setAmps'),
      })),
      posts && orTrouble(async () => ({ volts: await posts.ask('volts') })),
      // A scanner with leads and probe that is silent is not waited for twice.
      probe && probe !== posts && orTrouble(async () => ({ tempC: await probe.ask('tempC') })),
      cutoff && orTrouble(async () => ({ isClosed: (await cutoff.ask('isOn')) !== 0 })),
      // Not asked twice: a button is pressed for a reason.
      ...stops.map((stop) => orTrouble(async () => ({ isFree: (await stop.ask('isFree')) !== 0 }), 1)),
    ]);
    const warmth =
      probeSeen ||
      (postsSeen && isAnswered(postsSeen) && probe
        ? await orTrouble(async () => ({ tempC: await probe.ask('tempC') }))
        : undefined);
    const unkept = this.hooks.unkept?.();
    return {
      ...this.hooks.now(),
      supply: supplySeen,
      ...(postsSeen ? { posts: postsSeen } : {}),
      ...(warmth ? { probe: warmth } : {}),
      ...(cutoffSeen ? { cutoff: cutoffSeen } : {}),
      stops: stopsSeen,
      ...(unkept === undefined ? {} : { unkept }),
    };
  }

  /** A person's stop: it beats everything. */
  async stop(why: string): Promise<void> {
    this.run += 1;
    this.phase = { kind: 'off', why, fault: 'stopped' };
    await this.off();
  }

  private async trip(fault: FaultId, why: string): Promise<void> {
    this.run += 1;
    this.phase = { kind: 'off', why, fault };
    // Called for before anything is waited for: where nothing hears, hands are all there is.
    this.hooks.alarm(`${why} Switched off.`);
    await this.off();
  }

  /** Supply and cut-off are told at once; neither waits for the other. */
  private async off(): Promise<void> {
    const { supply, cutoff } = this.devices;
    [this.held, this.heldBefore] = [NOTHING, this.held];
    this.isNew = true;
    await Promise.all([supply, cutoff].map(async (device) => device?.tell('off').catch(() => undefined)));
  }

  /** A supply that was told to go off and gives current is told again, and hands are called. */
  private async mustBeOff(): Promise<void> {
    const { supply } = this.devices;
    if (this.phase.kind === 'checking') return;
    const isOff = await Promise.all([supply.ask('isOn'), supply.ask('amps')])
      .then(([isOn, amps]) => isOn === 0 && Math.abs(amps) < NO_CURRENT_A)
      .catch(() => undefined);
    if (isOff !== false) return;
    const why = STAYS_ON[this.watched.source];
    this.phase = { kind: 'off', why, fault: 'stays-on' };
    this.hooks.alarm(why);
    await this.off();
  }
}

const ampsOf = ({ isOn, amps }: Held): number => (isOn ? amps : 0);

const sameHeld = (a: Held | undefined, b: Held): boolean =>
  a?.volts === b.volts && a.amps === b.amps && a.isOn === b.isOn;

const wordsOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

/** What a device showed; asked again before its silence is taken for one. @throws what is no trouble of a device */
async function orTrouble<T extends object>(ask: () => Promise<T>, tries = TRIES): Promise<T | Unanswered> {
  let trouble = '';
  for (let attempt = 0; attempt < tries; attempt++)
    try {
      return await ask();
    } catch (error) {
      if (!(error instanceof DeviceError)) throw error;
      trouble = error.message;
    }
  return { trouble };
}
