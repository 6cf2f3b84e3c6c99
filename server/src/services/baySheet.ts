/** What a bay under control writes on the run sheet of its job, and what the sheet then makes of it. */
import { randomUUID } from 'node:crypto';
import { bayVerdict, type BayCharge } from '@cork-ember/core/adapters/bayCharge.ts';
import type { Clock } from '@cork-ember/core/clock/clock.ts';
import type { BaySample } from '@cork-ember/core/devices/samples.ts';
import type { Entry } from '@cork-ember/core/runsheet/entries/events.ts';
import { ProblemError } from '../problems.ts';
import type { SettingStore } from '../store/settingStore.ts';
import type { Entries } from './entries.ts';
import type { Jobs } from './jobs.ts';

/** Looks of the run sheet come in by themselves so often, ms. */
const LOOK_MS = 15 * 60_000;
/** What was under control when the server ended. */
const UNDER_CONTROL = 'bays';
const SERVER_ENDED = 'The shop’s server ended meanwhile: the bay has been off since.';
/** Whoever writes on the same sheet at the same moment goes first. */
const TRIES = 3;

/** A charge that runs in a bay, under the name of whoever switched it on. */
export interface OnSheet {
  readonly bay: number;
  readonly job: string;
  readonly by: string;
  readonly charge: BayCharge;
  /** When the sheet had its last look, shop time in ms. */
  lookedAt: number;
  /** The last entry that was judged. */
  judged: number;
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

const rounded = (value: number): number => Number(value.toFixed(2));

export class BaySheets {
  private readonly need: BaySheetsNeed;
  private readonly running = new Set<OnSheet>();

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
  async starts(bay: number, job: string, by: string, charge: BayCharge, tempC?: number): Promise<OnSheet> {
    await this.record({ job, by }, charge.begins(tempC));
    const { log } = await this.need.jobs.job(job);
    const on: OnSheet = {
      bay,
      job,
      by,
      charge,
      lookedAt: this.need.clock.now(),
      judged: log.at(-1)?.seq ?? 0,
    };
    this.running.add(on);
    await this.remember();
    return on;
  }

  /** A bay that ran and does not any more. */
  ends(on: OnSheet, why: string): Promise<void> {
    return this.over(on, () => this.pause(on, why, false));
  }

  /**
   * A look, where one is due; and whether the sheet, by it or by what somebody wrote there since, says off.
   * @param sample what was seen last; a look without warmth is none
   */
  async look(on: OnSheet, sample: BaySample | undefined): Promise<GoesOff | undefined> {
    const { job, charge } = on;
    const now = this.need.clock.now();
    if (sample?.tempC !== undefined && now - on.lookedAt >= LOOK_MS) {
      on.lookedAt = now;
      const { volts, amps, tempC } = sample;
      const values = { voltageV: rounded(volts), currentA: rounded(amps), tempC };
      const source = `Supply of bay ${on.bay}`;
      await this.record(on, { kind: 'chargeRead', payload: { step: charge.step, values, source } });
    }
    const { state, log } = await this.need.jobs.job(job);
    const seq = log.at(-1)?.seq ?? 0;
    if (seq === on.judged) return undefined;
    on.judged = seq;
    const verdict = bayVerdict(state, charge.step, now);
    if (verdict.go === 'on') return undefined;
    if (verdict.go === 'off')
      return {
        why: verdict.why,
        write: () => this.over(on, () => this.pause(on, verdict.why, verdict.isHot)),
      };
    const ended: Entry = { kind: 'chargeEnded', payload: { step: charge.step, fullSignal: false } };
    return { why: 'Done: its looks say so.', write: () => this.over(on, () => this.record(on, ended)) };
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
    if (!step?.charge || step.charge.pausedFor !== undefined || state.outcome !== undefined) return;
    await this.record(on, { kind: 'noted', payload: { text: why } });
    await this.record(on, {
      kind: 'chargePaused',
      payload: { step: step.key, reason: isHot ? 'hot' : 'stopped' },
    });
  }

  private async record({ job, by }: Pick<OnSheet, 'job' | 'by'>, entry: Entry): Promise<void> {
    const requestKey = randomUUID();
    for (let left = TRIES; ; left--)
      try {
        const { log } = await this.need.jobs.job(job);
        const expectedSeq = log.at(-1)?.seq ?? 0;
        await this.need.entries.append(job, { expectedSeq, requestKey, by, entry });
        return;
      } catch (error) {
        if (left <= 1 || !(error instanceof ProblemError) || error.kind !== 'stale') throw error;
      }
  }
}
