/** What a bay under control writes on the run sheet of its job, and what the sheet then makes of it. */
import { randomUUID } from 'node:crypto';
import { isStepAt } from '@cork-ember/core/adapters/bayStep.ts';
import { bayVerdict } from '@cork-ember/core/adapters/bayCharge.ts';
import { unattendedRefusal } from '@cork-ember/core/adapters/bayRoom.ts';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import type { LiveBay } from '@cork-ember/core/devices/bay/messages.ts';
import { RunSheetError } from '@cork-ember/core/runsheet/entries/errors.ts';
import type { Entry, JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import { record } from '@cork-ember/core/runsheet/log/fold.ts';
import { drainAt } from '@cork-ember/core/runsheet/plan/capacityClock.ts';
import { BAY_LOOK_MIN } from '@cork-ember/core/runsheet/plan/watched.ts';
import { ProblemError } from '../problems.ts';
import type { BayWork } from './bayOrder.ts';
import type { SettingStore } from '../store/settingStore.ts';
import type { Entries } from './entries.ts';
import type { Jobs } from './jobs.ts';

const LOOK_MS = BAY_LOOK_MIN * 60_000;
/** And what is seen between them is held against its rules so often, ms. */
const JUDGED_EVERY_MS = 10_000;
const DOES_NOTHING: readonly JobEvent['kind'][] = ['noted', 'photographed', 'arranged'];
/** What was under control when the server ended. */
const UNDER_CONTROL = 'bays';
const SERVER_ENDED = 'The shop’s server ended meanwhile: the bay has been off since.';
/** Whoever writes on the same sheet at the same moment goes first. */
const TRIES = 3;

/** A charge or discharge that runs in a bay, under the name of whoever switched it on. */
export interface OnSheet {
  readonly bay: number;
  readonly job: string;
  readonly by: string;
  readonly work: BayWork;
  readonly hasCutOff: boolean;
  /** When the sheet had its last look, shop time in ms. */
  lookedAt: number;
  /** When what was seen was last held against its rules, shop time in ms. */
  heldAt: number;
  /** The last entry that was judged. */
  judged: number;
  /** As the sheet has it set, A. */
  setA: number;
}

/** Why a bay is to go off; and what is written once it was told. */
export interface GoesOff {
  readonly why: string;
  readonly write: () => Promise<void>;
}

interface BaySheetsNeed {
  readonly jobs: Jobs;
  readonly entries: Entries;
  readonly settings: SettingStore;
  readonly clock: Clock;
}

/** Less is the same current; and so much of what is set it takes. */
const SET_ANEW_A = 0.01;
const TAKES_SHARE = 0.95;

const rounded = (value: number): number => Number(value.toFixed(2));

function setAOf(work: BayWork): number {
  switch (work.kind) {
    case 'charge':
      return work.setA;
    case 'drain':
      return work.plan.amps;
    case 'step':
      return work.plan.secondA;
  }
}

const endOf = ({ work: { step } }: OnSheet): Entry => ({
  kind: 'chargeEnded',
  payload: { step, fullSignal: false },
});

/** What the sheet is told of it; nothing while nothing is known to tell. */
function lookOf({ bay, work }: OnSheet, { sample, ah }: LiveBay): Entry | undefined {
  if (!sample) return undefined;
  const { volts, amps, tempC } = sample;
  if (work.kind === 'drain') return work.look(ah ?? 0, volts);
  // A step is over before it could be looked at.
  if (work.kind === 'step' || tempC === undefined) return undefined;
  const values = { voltageV: rounded(volts), currentA: rounded(amps), tempC };
  return { kind: 'chargeRead', payload: { step: work.step, values, source: `Supply of bay ${bay}` } };
}

export class BaySheets {
  private readonly need: BaySheetsNeed;
  private readonly running = new Set<OnSheet>();
  /** Numbers of the entries bays wrote since the server began, by job. */
  private readonly written = new Map<string, Set<number>>();

  constructor(need: BaySheetsNeed) {
    this.need = need;
  }

  /** What was under control when a server ended is off, and its run sheet says so. */
  async begin(): Promise<void> {
    const under = (await this.need.settings.read<{ job: string; by: string }[]>(UNDER_CONTROL)) ?? [];
    for (const one of under) await this.pause(one, SERVER_ENDED, false);
    if (under.length > 0) await this.remember();
  }

  /**
   * The charge goes on now.
   * @param tempC of its case; none where nothing reads it
   * @throws RunSheetError where the run sheet does not take it
   */
  async starts(
    { bay, job, by, work, hasCutOff }: Omit<OnSheet, 'lookedAt' | 'heldAt' | 'judged' | 'setA'>,
    tempC?: number,
  ): Promise<OnSheet> {
    if (work.kind === 'charge') await this.record({ job, by }, work.begins(tempC));
    const { log } = await this.need.jobs.job(job);
    const on: OnSheet = {
      bay,
      job,
      by,
      work,
      hasCutOff,
      // A discharge has its first look at once: its clock begins with it.
      lookedAt: work.kind === 'charge' ? this.need.clock.now() : 0,
      heldAt: this.need.clock.now(),
      judged: log.at(-1)?.seq ?? 0,
      setA: setAOf(work),
    };
    this.running.add(on);
    await this.remember();
    return on;
  }

  /** A bay that ran and does not any more: what it came to, or that the charge is paused. */
  async ends(on: OnSheet, live: LiveBay): Promise<void> {
    const { work } = on;
    const { phase, says, sample, ah, ohms } = live;
    if (work.kind === 'charge' && phase === 'ended') return this.over(on, () => this.endCharge(on, live));
    if (work.kind === 'step' && ohms !== undefined)
      return this.over(on, () => this.record(on, work.measured(ohms, `Load of bay ${on.bay}`)));
    const isDown =
      work.kind === 'drain' &&
      phase === 'ended' &&
      sample !== undefined &&
      ah !== undefined &&
      sample.volts <= work.plan.endV;
    if (!isDown) return this.over(on, () => this.pause(on, says, false));
    return this.over(on, async () => {
      await this.record(on, work.look(ah, sample.volts));
      await this.record(on, work.measured(ah, sample.volts, `Load of bay ${on.bay}`));
    });
  }

  /**
   * A look, where one is due; and whether the sheet, by it or by what somebody wrote there since, says off.
   * @param live how the bay stands; where nothing reads warmth, a charge is not looked at
   */
  async look(on: OnSheet, live: LiveBay): Promise<GoesOff | undefined> {
    const { job, work, hasCutOff } = on;
    const now = this.need.clock.now();
    const isDue = now - on.lookedAt >= LOOK_MS || (await this.turnsIt(on, live, now));
    const due = isDue ? lookOf(on, live) : undefined;
    if (due) {
      on.lookedAt = now;
      await this.record(on, due);
      await this.setAnew(on, live);
    }
    const { state, log } = await this.need.jobs.job(job);
    const alone = unattendedRefusal(state.opened, { hasCutOff, isAttended: work.isAttended }, now);
    if (alone !== undefined) return this.off(on, alone, false);
    const seq = log.at(-1)?.seq ?? 0;
    if (seq === on.judged) return undefined;
    on.judged = seq;
    if (work.kind !== 'charge')
      return state.outcome === undefined && state.steps[state.cursor]?.key === work.step
        ? undefined
        : this.off(on, 'It was ended on the run sheet.', false);
    const verdict = bayVerdict(state, work.step, now);
    if (verdict.go === 'on') return undefined;
    if (verdict.go === 'off') return this.off(on, verdict.why, verdict.isHot);
    return {
      why: 'Done: its looks say so.',
      write: () => this.over(on, () => this.record(on, endOf(on))),
    };
  }

  /**
   * Whether what is seen now would, as a look, end the charge or have it off: then it is one, at once. Between looks a battery is held against the
   * very rules of its run sheet.
   */
  private async turnsIt(on: OnSheet, live: LiveBay, now: number): Promise<boolean> {
    const { job, work, by } = on;
    if (work.kind !== 'charge' || now - on.heldAt < JUDGED_EVERY_MS) return false;
    on.heldAt = now;
    const look = lookOf(on, live);
    const sheet = await this.need.jobs.job(job);
    if (!look || bayVerdict(sheet.state, work.step, now).go !== 'on') return false;
    try {
      return bayVerdict(record(sheet, look, now, by).state, work.step, now).go !== 'on';
    } catch (error) {
      if (error instanceof RunSheetError) return false;
      throw error;
    }
  }

  /** Its plan has come to its end: so has the charge, or where the sheet knows better it is paused. */
  private async endCharge(on: OnSheet, live: LiveBay): Promise<void> {
    const last = lookOf(on, live);
    if (last) await this.record(on, last);
    try {
      await this.record(on, endOf(on));
    } catch (error) {
      if (!(error instanceof RunSheetError)) throw error;
      await this.pause(on, `${live.says}. ${error.message}`, false);
    }
  }

  /** Once it takes what is set, its plan may give it more. */
  private async setAnew(on: OnSheet, { setA, sample }: LiveBay): Promise<void> {
    const isAnew = setA !== undefined && Math.abs(setA - on.setA) > SET_ANEW_A;
    const takes = sample !== undefined && sample.amps >= TAKES_SHARE * on.setA;
    if (!isAnew || !on.work.isAttended || !takes || on.work.kind !== 'charge') return;
    on.setA = setA;
    await this.record(on, {
      kind: 'chargeSet',
      payload: { step: on.work.step, currentA: rounded(setA) },
    });
  }

  private off(on: OnSheet, why: string, isHot: boolean): GoesOff {
    return { why, write: () => this.over(on, () => this.pause(on, why, isHot)) };
  }

  /** Once. The sheet first: whoever begins after this server finds either the one or the other. */
  private async over(on: OnSheet, write: () => Promise<void>): Promise<void> {
    if (!this.running.delete(on)) return;
    await write();
    await this.remember();
  }

  private remember(): Promise<void> {
    const under = [...this.running].map(({ job, by }) => ({ job, by }));
    return this.need.settings.write(UNDER_CONTROL, under);
  }

  /** The charger is off: the sheet of a job whose charge goes on is told so, and why. */
  private async pause(on: Pick<OnSheet, 'job' | 'by'>, why: string, isHot: boolean): Promise<void> {
    const { state } = await this.need.jobs.job(on.job);
    const step = state.steps[state.cursor];
    if (!step || state.outcome !== undefined || step.charge?.pausedFor !== undefined) return;
    const isDrawn = drainAt(step.stepId) !== undefined || isStepAt(state, step.stepId);
    if (step.charge || isDrawn) await this.record(on, { kind: 'noted', payload: { text: why } });
    // A discharge that was broken off has no pause: it is not gone on with.
    if (!step.charge) return;
    await this.record(on, {
      kind: 'chargePaused',
      payload: { step: step.key, reason: isHot ? 'hot' : 'stopped' },
    });
  }

  /** Whether a person did something on a run sheet after an entry, beside what bays write; notes and pictures do nothing. */
  isTouched(job: string, log: readonly JobEvent[], after: number): boolean {
    const written = this.written.get(job);
    return log.some(({ seq, kind }) => seq > after && !written?.has(seq) && !DOES_NOTHING.includes(kind));
  }

  /** Under somebody’s name, whoever else writes there at that moment. @throws RunSheetError where the sheet does not take it */
  async record({ job, by }: Pick<OnSheet, 'job' | 'by'>, entry: Entry): Promise<void> {
    const requestKey = randomUUID();
    for (let left = TRIES; ; left--)
      try {
        const { log } = await this.need.jobs.job(job);
        const expectedSeq = log.at(-1)?.seq ?? 0;
        const { seq } = await this.need.entries.append(job, { expectedSeq, requestKey, by, entry });
        this.written.set(job, (this.written.get(job) ?? new Set()).add(seq));
        return;
      } catch (error) {
        if (left <= 1 || !(error instanceof ProblemError) || error.kind !== 'stale') throw error;
      }
  }
}
