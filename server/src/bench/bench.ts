/** Looks after the bays that have a supply of their own, each once a second; apart from whatever the web server is doing. */
import { ChargeEngine } from '@cork-ember/core/charge/engine.ts';
import {
  BEAT_LOST_MS,
  type Addressed,
  type Answer,
  type BayDoes,
  type BayOrder,
  type FromBench,
  type LiveBay,
  type Question,
  type ToBench,
} from '@cork-ember/core/devices/bay/messages.ts';
import { DrainEngine } from '@cork-ember/core/devices/bay/drainEngine.ts';
import { StepEngine } from '@cork-ember/core/devices/bay/stepEngine.ts';
import type { BayEngine, BayRun } from '@cork-ember/core/devices/bay/run.ts';
import { BaySupervisor } from '@cork-ember/core/devices/bay/supervisor.ts';
import type { Driver } from '@cork-ember/core/devices/driver.ts';
import { DeviceError } from '@cork-ember/core/devices/wire.ts';
import { setTimeout as pass } from 'node:timers/promises';
import { elapsedNow } from '../clock/realTime.ts';
import { SharedCables } from '../devices/sharedCables.ts';

const LOOK_MS = 1000;
/**
 * A load lets go by itself so far below the end of a test, V a cell: what ends it is the end, and between two looks a battery at its knee falls
 * (in a demo that runs sixty times as fast, by more than half a volt). 1.5 V a cell for a minute harms none (reasoned).
 */
const LETS_GO_BELOW_CELL_V = 0.25;
const SERVER_GONE = 'The shop’s server has said nothing for two seconds: switched off.';

interface Bay {
  readonly order: BayOrder;
  readonly supervisor: BaySupervisor<BayRun>;
  readonly letsGo: readonly (() => void)[];
  isLooking: boolean;
}

interface Beat {
  readonly atMs: number;
  readonly shopMs: number;
  readonly pace: number;
  readonly unkept?: string | undefined;
}

/** What runs it, and where a load lets go by itself, V. */
function engineOf(does: BayDoes): { readonly engine: BayEngine<BayRun>; readonly leastV?: number } {
  const below = (endV: number, cells: number): number => endV - LETS_GO_BELOW_CELL_V * cells;
  switch (does.kind) {
    case 'charge':
      return { engine: new ChargeEngine(does.plan, does.subject) };
    case 'drain':
      return { engine: new DrainEngine(does.plan), leastV: below(does.plan.endV, does.plan.cells) };
    case 'step':
      return {
        engine: new StepEngine(does.plan),
        leastV: below(StepEngine.endV(does.plan), does.plan.cells),
      };
  }
}

export class Bench {
  private readonly tell: (message: FromBench) => void;
  private readonly bays = new Map<number, Bay>();
  private readonly cables = new SharedCables();
  private readonly timer: NodeJS.Timeout;
  private beat: Beat | undefined;

  constructor(tell: (message: FromBench) => void) {
    this.tell = tell;
    this.timer = setInterval(() => this.lookAtAll(), LOOK_MS);
  }

  async hear(message: ToBench): Promise<void> {
    switch (message.kind) {
      case 'beat':
        this.beat = { atMs: elapsedNow(), ...message };
        return;
      case 'check':
        return this.check(message.order);
      case 'confirm':
        await this.bays.get(message.bay)?.supervisor.confirm();
        return this.say(message.bay);
      case 'stop':
        await this.bays.get(message.bay)?.supervisor.stop(message.why);
        return this.say(message.bay);
      case 'ask':
        return this.tell({ kind: 'answer', number: message.number, ...(await this.ask(message)) });
    }
  }

  private async ask({ of, question }: Extract<ToBench, { kind: 'ask' }>): Promise<Answer> {
    const { driver, letGo } = this.cables.take(of);
    try {
      return { value: await answerOf(driver, question) };
    } catch (error) {
      if (!(error instanceof DeviceError)) throw error;
      return { trouble: error.trouble, says: error.message };
    } finally {
      letGo();
    }
  }

  /** Everything off; nothing is looked at any more. */
  async end(why: string): Promise<void> {
    clearInterval(this.timer);
    await Promise.all([...this.bays.values()].map(({ supervisor }) => supervisor.stop(why)));
    for (const { letsGo } of this.bays.values()) for (const letGo of letsGo) letGo();
  }

  private async check(order: BayOrder): Promise<void> {
    const { bay: number } = order;
    const before = this.bays.get(number);
    if (before) {
      await before.supervisor.stop('Checked anew.');
      for (const letGo of before.letsGo) letGo();
    }
    const bay = this.open(order);
    this.bays.set(number, bay);
    const checking = bay.supervisor.check(order.restingV);
    this.say(number);
    // Why it is refused is what the bay then says.
    await checking.catch(() => undefined);
    this.say(number);
  }

  private open(order: BayOrder): Bay {
    const letsGo: (() => void)[] = [];
    const driver = (of: Addressed) => {
      const taken = this.cables.take(of);
      letsGo.push(taken.letGo);
      return taken.driver;
    };
    const { does } = order;
    const { engine, leastV } = engineOf(does);
    const meter = order.meter && driver(order.meter);
    const hasProbe = order.meter !== undefined && 'tempC' in order.meter.profile.speech.asks;
    const supervisor = new BaySupervisor<BayRun>(
      {
        supply: driver(order.source),
        ...(meter ? { posts: meter } : {}),
        ...(meter && hasProbe ? { probe: meter } : {}),
        ...(order.cutoff ? { cutoff: driver(order.cutoff) } : {}),
        stops: order.stops.map(driver),
      },
      engine,
      {
        source: does.kind === 'charge' ? 'supply' : 'load',
        ...(leastV === undefined ? {} : { leastV }),
        cells: engine.cells,
        ceilingV: engine.ceilings.volts,
        everyS: LOOK_MS / 1000,
        leadsOhm: order.source.leadsOhm ?? 0,
      },
      {
        now: () => ({ atS: elapsedNow() / 1000, shopMs: this.shopMs(), pace: this.beat?.pace ?? 1 }),
        pass: (seconds) => pass(seconds * 1000),
        alarm: (says) => this.tell({ kind: 'alarm', bay: order.bay, job: order.job, says }),
        unkept: () => this.beat?.unkept,
      },
    );
    return { order, supervisor, letsGo, isLooking: false };
  }

  /** The shop's clock, carried on from what was heard of it last. */
  private shopMs(): number {
    const { beat } = this;
    return beat ? beat.shopMs + (elapsedNow() - beat.atMs) * beat.pace : 0;
  }

  private lookAtAll(): void {
    const isServerThere = this.beat !== undefined && elapsedNow() - this.beat.atMs <= BEAT_LOST_MS;
    for (const [number, bay] of this.bays) {
      const { supervisor, order } = bay;
      if (!isServerThere && supervisor.phase.kind === 'running') {
        this.tell({ kind: 'alarm', bay: number, job: order.job, says: SERVER_GONE });
        void supervisor.stop(SERVER_GONE).then(() => this.say(number));
        continue;
      }
      // One that takes longer than a second is late, and its own next look says so.
      if (bay.isLooking) continue;
      bay.isLooking = true;
      void supervisor.look().finally(() => {
        bay.isLooking = false;
        this.say(number);
      });
    }
  }

  private say(number: number): void {
    const bay = this.bays.get(number);
    if (bay) this.tell({ kind: 'bay', live: liveOf(bay) });
  }
}

/** @throws DeviceError where it does not answer, or will not */
async function answerOf(driver: Driver, question: Question): Promise<number | string | null> {
  switch (question.kind) {
    case 'identify':
      return driver.identify();
    case 'figure':
      return driver.ask(question.what);
    case 'tell':
      await driver.tell(question.what, question.value);
      return null;
  }
}

/** What it does, in words; of a charge held the same from beginning to end there is nothing to tell. */
function stageOf({ order: { does }, supervisor }: Bay): string | undefined {
  return does.kind === 'charge' && does.plan.stages.length === 1 ? undefined : supervisor.stage;
}

function liveOf(of: Bay): LiveBay {
  const {
    order: { order, bay, job },
    supervisor,
  } = of;
  const { phase, lastSample } = supervisor;
  const base = { order, bay, job, phase: phase.kind };
  switch (phase.kind) {
    case 'off':
      return { ...base, says: phase.why };
    case 'checking':
      return { ...base, says: 'The connection is being checked.' };
    case 'ready':
      return {
        ...base,
        says: `It stands at ${phase.found.restV.toFixed(2)} V. Look at clips, vents and the room, then switch it on.`,
      };
    case 'running':
    case 'ended': {
      const { state } = phase;
      const stage = stageOf(of);
      return {
        ...base,
        says: state?.because ?? '',
        ...(stage === undefined ? {} : { stage }),
        ...(supervisor.setA === undefined ? {} : { setA: supervisor.setA }),
        ...(state ? { ah: state.totalAh } : {}),
        ...(state?.ohms === undefined ? {} : { ohms: state.ohms }),
        ...(lastSample ? { sample: lastSample } : {}),
      };
    }
  }
}
