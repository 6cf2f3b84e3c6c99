/**
 * Bays that go on by themselves for days: charge, rest, capacity test, charge again, hold. A person at the bay begins a programme with the first current; it ends at
 * the first doubt, with the server, and where hands are asked for.
 */
import type { Logger } from 'pino';
import {
  bayNext,
  type BayNext,
  type GoesOn,
  type Programme,
} from '@cork-ember/core/adapters/bayProgramme.ts';
import { unattendedRefusal } from '@cork-ember/core/adapters/bayRoom.ts';
import { openSpanFrom } from '@cork-ember/core/clock/shopHours.ts';
import type { GoesOnTo, LiveBay } from '@cork-ember/core/devices/bay/messages.ts';
import type { CapacityMethod } from '@cork-ember/core/grading/grade.ts';
import { InstrumentError } from '@cork-ember/core/observation/instrument.ts';
import { isDrawnDown } from '@cork-ember/core/runsheet/definition/restedSteps.ts';
import type { Entry } from '@cork-ember/core/runsheet/entries/events.ts';
import { atHand } from '@cork-ember/core/runsheet/plan/atHand.ts';
import type { JobState } from '@cork-ember/core/runsheet/state/jobState.ts';
import type { ShopClock } from '../clock/shopClock.ts';
import { ProblemError } from '../problems.ts';
import type { SettingStore } from '../store/settingStore.ts';
import { sentenceOf, type Bays, type CheckRequest } from './bays.ts';
import type { BaySheets } from './baySheet.ts';
import type { Devices } from './devices.ts';
import type { Jobs } from './jobs.ts';

const LOOKS_EVERY_MS = 500;
/** A minute of it, and hands are called. */
const MOST_UNANSWERED = 120;
const UNDER_WAY = 'programmes';
const NOT_TOLD = 'a run sheet could not be told that a bay goes on by itself no more';
const SERVER_ENDED = 'The shop’s server ended meanwhile: it goes on by itself no more.';
/** Whoever switches a discharge on says with it that it is charged again. */
const RECHARGED: Programme = { far: 'recharged', leavesTester: false };
/** While current flows, or is about to, the bench has it in hand. */
const AT_IT: readonly LiveBay['phase'][] = ['checking', 'ready', 'running'];

interface Going {
  readonly bay: number;
  readonly job: string;
  readonly by: string;
  readonly programme: Programme;
  readonly method?: CapacityMethod;
  /** The last entry of its run sheet as it began. */
  readonly since: number;
}

const isFar = ({ programme }: Going): boolean => programme.far !== 'recharged';
const ONCE_DONE: GoesOnTo = { title: 'Once this is done' };

interface ProgrammesNeed {
  readonly bays: Bays;
  readonly sheets: BaySheets;
  readonly jobs: Jobs;
  readonly devices: Devices;
  readonly settings: SettingStore;
  readonly clock: ShopClock;
  readonly log: Logger;
}

export class Programmes {
  private readonly need: ProgrammesNeed;
  private readonly going = new Map<number, Going>();
  /** How often in a row a device of a bay did not answer. */
  private readonly unanswered = new Map<number, number>();
  private timer: NodeJS.Timeout | undefined;
  private looking: Promise<unknown> = Promise.resolve();
  private isLooking = false;

  constructor(need: ProgrammesNeed) {
    this.need = need;
  }

  /** What was under way when a server ended does not go on by itself, and its run sheet says so. */
  async begin(): Promise<void> {
    const under = (await this.need.settings.read<Going[]>(UNDER_WAY)) ?? [];
    for (const { job, by } of under)
      await this.need.sheets
        .record({ job, by }, { kind: 'noted', payload: { text: SERVER_ENDED } })
        .catch((error: unknown) => this.need.log.error({ err: error, job }, NOT_TOLD));
    if (under.length > 0) await this.remember();
  }

  /**
   * A person at the bay has looked and says go.
   * @param goesOn how far by itself; otherwise no further than a discharge needs
   * @throws ProblemError where it was not checked, or the bay cannot go on by itself; RunSheetError where the run sheet does not take it
   */
  async confirm(bay: number, by: string, goesOn?: GoesOn): Promise<LiveBay> {
    if (goesOn && !this.need.devices.outfitOf(bay).hasCutOff)
      throw new ProblemError(
        'refused',
        `Bay ${bay} has no cut-off of its own: what it does ends with this, and hands go on.`,
      );
    const ready = this.need.bays.list().find((one) => one.bay === bay && one.phase === 'ready');
    // Refused there, and whatever goes on in the bay is let be.
    if (!ready) return this.need.bays.confirm(bay, by);
    const { job } = ready;
    const programme: Programme = goesOn
      ? { far: 'as-far-as-it-can', leavesTester: goesOn.leavesTester }
      : RECHARGED;
    const { method } = goesOn ?? {};
    const { log } = await this.need.jobs.job(job);
    const since = log.at(-1)?.seq ?? 0;
    // Before it is on: a stop at that very moment finds it.
    await this.set({ bay, job, by, programme, since, ...(method ? { method } : {}) });
    try {
      const live = await this.need.bays.confirm(bay, by);
      return this.need.bays.list().find((one) => one.bay === bay) ?? live;
    } catch (error) {
      this.forget(bay);
      await this.remember();
      throw error;
    }
  }

  /** Off, whatever it does, and no further. @param by whoever pressed it */
  async stop(bay: number, by: string): Promise<LiveBay> {
    const going = this.forget(bay);
    // Off first: what is written of it waits, and may fail.
    const live = await this.need.bays.stop(bay, by);
    if (going) await this.tells(going, `Stopped by ${by}.`);
    return live;
  }

  /** Every bay that does anything, or is to go on. @param by whoever pressed it */
  async stopAll(by: string): Promise<readonly LiveBay[]> {
    const { bays } = this.need;
    const busy = bays.list().filter(({ bay, phase }) => AT_IT.includes(phase) || this.going.has(bay));
    await Promise.all(busy.map(({ bay }) => this.stop(bay, by)));
    return bays.list();
  }

  /** Looked at anew, by a person: whatever went on by itself is over. */
  async check(bay: number, asked: CheckRequest): Promise<LiveBay> {
    const going = this.going.get(bay);
    if (going && !AT_IT.includes(this.need.bays.phaseOf(bay) ?? 'off')) await this.ends(going);
    return this.need.bays.check(bay, asked);
  }

  /** Nothing goes on any more, with the server. */
  async end(): Promise<void> {
    clearInterval(this.timer);
    await this.looking;
  }

  private async set(going: Going): Promise<void> {
    this.going.set(going.bay, going);
    if (isFar(going)) this.need.bays.goesOn(going.bay, ONCE_DONE);
    await this.remember();
    this.timer ??= setInterval(() => {
      if (this.isLooking) return;
      this.isLooking = true;
      this.looking = this.look().finally(() => (this.isLooking = false));
    }, LOOKS_EVERY_MS);
  }

  private remember(): Promise<void> {
    // What is to be charged again and nothing else is told by its run sheet.
    return this.need.settings.write(UNDER_WAY, [...this.going.values()].filter(isFar));
  }

  /** Nothing of it goes on from this moment. */
  private forget(bay: number): Going | undefined {
    const going = this.going.get(bay);
    this.going.delete(bay);
    this.need.bays.goesOn(bay, undefined);
    return going;
  }

  /** @param says on its run sheet; nothing where it came to its end */
  private async ends(going: Going, says?: string): Promise<void> {
    if (this.going.get(going.bay) !== going) return;
    this.forget(going.bay);
    await this.tells(going, says);
  }

  private async tells(going: Going, says: string | undefined): Promise<void> {
    const { bay, job, by } = going;
    await this.remember();
    if (says === undefined || !isFar(going)) return;
    const text = `Bay ${bay} goes on by itself no further. ${says}`;
    await this.need.sheets.record({ job, by }, { kind: 'noted', payload: { text } });
  }

  private async look(): Promise<void> {
    for (const going of [...this.going.values()])
      try {
        await this.goOn(going);
        this.unanswered.delete(going.bay);
      } catch (error) {
        // Nothing flows while it is read: what does not answer now is asked again.
        const times = (this.unanswered.get(going.bay) ?? 0) + 1;
        this.unanswered.set(going.bay, times);
        if (error instanceof InstrumentError && times < MOST_UNANSWERED) continue;
        await this.callsOff(going, sentenceOf(error)).catch((trouble: unknown) =>
          this.need.log.error({ err: trouble, job: going.job }, NOT_TOLD),
        );
      }
    if (this.going.size > 0) return;
    clearInterval(this.timer);
    this.timer = undefined;
  }

  /** It cannot go on as it should: hands are called. */
  private async callsOff(going: Going, why: string): Promise<void> {
    const { bay, job } = going;
    // Whoever stopped it meanwhile knows.
    if (this.going.get(bay) !== going) return;
    const { state } = await this.need.jobs.job(job);
    const hand = atHand(state, this.need.clock.now());
    const isDown = hand !== undefined && isDrawnDown(hand.context);
    this.need.bays.callsFor(bay, job, isDown ? `It is drawn down and must be charged at once: ${why}` : why);
    await this.ends(going, why);
  }

  private async goOn(going: Going): Promise<void> {
    const { bay, job, programme } = going;
    const { bays, jobs, clock } = this.need;
    if (AT_IT.includes(bays.phaseOf(bay) ?? 'off')) return;
    // What it did last stands on the run sheet before anything is made of it.
    await bays.settled(bay);
    const called = bays.callOf(bay);
    if (called !== undefined) return this.ends(going, called);
    const { state, log } = await jobs.job(job);
    if (this.need.sheets.isTouched(job, log, going.since))
      return this.ends(going, 'Somebody goes on by hand.');
    const now = clock.now();
    const next = bayNext(state, programme, this.need.devices.outfitOf(bay), now);
    if (isFar(going))
      bays.goesOn(bay, next.does === 'wait' ? { title: next.title, untilMs: next.untilMs } : ONCE_DONE);
    await this.does(going, next, state, now);
  }

  private async does(going: Going, next: BayNext, state: JobState, now: number): Promise<void> {
    const { bay, job, by } = going;
    switch (next.does) {
      case 'hands':
        // Some of it are sentences.
        return this.ends(going, `Asked of hands: ${next.why.replace(/\.$/, '')}.`);
      case 'wait':
        return;
      case 'write':
        return this.write(going, next.says, next.entry);
      case 'part':
        return this.part(going, next.entry);
      case 'read':
        return this.read(going, next.step);
      case 'charge':
      case 'drain': {
        if (this.waitsForTheShop(going, state, now)) return;
        const { method } = going;
        const checked = await this.need.bays.check(bay, { job, ...(method ? { method } : {}) });
        if (checked.phase !== 'ready') throw new ProblemError('refused', checked.says);
        // Somebody may have stopped it while its clips were looked at.
        if (this.going.get(bay) === going) await this.need.bays.confirm(bay, by);
      }
    }
  }

  /** By night where the house does not let it: it goes on when the shop opens. */
  private waitsForTheShop({ bay }: Going, { opened }: JobState, now: number): boolean {
    if (unattendedRefusal(opened, { hasCutOff: true, isAttended: false }, now) === undefined) return false;
    const { from } = openSpanFrom(opened.hours, now);
    this.need.bays.goesOn(bay, { title: 'Until the shop opens', untilMs: from });
    return true;
  }

  private async write({ job, by }: Going, says: string, entry: Entry): Promise<void> {
    const { sheets } = this.need;
    await sheets.record({ job, by }, { kind: 'noted', payload: { text: says } });
    await sheets.record({ job, by }, entry);
  }

  /** Nothing is connected: the supply is off and the cut-off says that it stands open. */
  private async part(going: Going, entry: Entry): Promise<void> {
    const { bay } = going;
    const { devices } = this.need;
    for (const kind of ['cutoff', 'supply', 'load'] as const)
      if ((await devices.askBay(bay, kind, 'isOn')) === 1)
        throw new ProblemError(
          'refused',
          `The ${kind === 'cutoff' ? 'cut-off' : kind} of bay ${bay} is not off.`,
        );
    await this.write(going, `The cut-off of bay ${bay} stands open: nothing is connected.`, entry);
  }

  private async read({ bay, job, by }: Going, step: string): Promise<void> {
    const { devices, sheets } = this.need;
    const volts = await devices.askBay(bay, 'meter', 'volts');
    const tempC = await devices.askBay(bay, 'meter', 'tempC');
    if (volts === undefined) throw new ProblemError('refused', `The meter of bay ${bay} shows no volts.`);
    const values = {
      ocvV: Number(volts.toFixed(3)),
      ...(tempC === undefined ? {} : { tempC: Number(tempC.toFixed(1)) }),
    };
    await sheets.record(
      { job, by },
      { kind: 'measured', payload: { step, values, source: `Meter of bay ${bay}` } },
    );
  }
}
