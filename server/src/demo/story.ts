/** Tells the past of one demo battery by the entries a technician would have made. */
import { chanceFrom, type Chance } from '@cork-ember/core/chance/chance.ts';
import { RULES_VERSION } from '@cork-ember/core/rules/houseRules.ts';
import { loadTestFor } from '@cork-ember/core/battery/loadTest.ts';
import { CATALOGUE } from '@cork-ember/core/demo/catalogue.ts';
import type { BatteryRecord, JobSummary, Shop } from '@cork-ember/core/contract/answers.ts';
import { batteryAt, sightOf, type Sight } from '@cork-ember/core/adapters/benchBattery.ts';
import { analyse, bubblesOf, probeC } from '@cork-ember/core/observation/modelView.ts';
import { waterLostG } from '@cork-ember/core/model/show.ts';
import { EDITION, type Entry, type JobEvent } from '@cork-ember/core/runsheet/entries/events.ts';
import type { StepValues } from '@cork-ember/core/units/values.ts';
import type { RETIRED_FOR } from '@cork-ember/core/runsheet/procedures/recovery/otherRoutes.ts';
import type { Charger } from '@cork-ember/core/charge/charger.ts';
import { foldJob, record, type Job } from '@cork-ember/core/runsheet/log/fold.ts';
import { procedureFor } from '@cork-ember/core/runsheet/procedures/procedures.ts';
import { proofOfFull } from '@cork-ember/core/runsheet/verdict/commissioningVerdict.ts';
import { stepOf } from '@cork-ember/core/runsheet/state/sheet.ts';
import { contextOf } from '@cork-ember/core/runsheet/state/context.ts';
import { settle } from '@cork-ember/core/runsheet/state/settle.ts';
import type { InstrumentQuantity } from '@cork-ember/core/observation/instrument.ts';
import { hiddenIn } from './hidden.ts';

const MINUTE = 60_000;
const DAY_MIN = 24 * 60;
/** Hands take this much of what a step is given at their quickest, and as much more by chance. */
const QUICKEST = 0.75;
const SPREAD = 0.8;
/** One of the ways it may have gone: instruments err so that it comes out as it is told. */
const TOLD_AS = 'd';

export interface Piece extends BatteryRecord {
  readonly id: string;
  readonly bay: number;
  readonly by: string;
  readonly promisedAt: number;
  /** Over and done with: nothing of it is at hand today. */
  readonly isLongAgo: boolean;
}

export class Story {
  private readonly piece: Piece;
  private job: Job;
  private now: number;
  private readonly supply: Charger | undefined;
  private readonly chance: Chance;

  /** @param procedureId the kind's own where it is left out */
  constructor(piece: Piece, shop: Shop, at: number, procedureId?: string) {
    const type = CATALOGUE.find((candidate) => candidate.id === piece.typeId);
    const procedure = procedureId ?? (type && procedureFor(type)?.id);
    if (!procedure || !type) throw new Error(`the demo cannot work on ${piece.typeId}`);
    const { tag, serial, dateCode, owner, bay, promisedAt } = piece;
    const battery = { tag, serial, dateCode, owner };
    const payload = {
      edition: EDITION,
      rulesVersion: RULES_VERSION,
      procedure,
      battery,
      type,
      rules: shop.rules,
      hours: shop.hours,
      bay,
      promisedAt,
    };
    this.piece = piece;
    this.chance = chanceFrom(`${TOLD_AS} ${tag} ${at}`);
    this.supply = shop.chargers.find(({ kind }) => kind === 'programmable');
    this.now = at;
    this.job = foldJob([{ job: piece.id, seq: 1, key: '#1', at, by: piece.by, kind: 'opened', payload }]);
  }

  wait(minutes: number): this {
    this.now += Math.round(minutes * MINUTE);
    return this;
  }

  waitUntil(at: number): this {
    this.now = Math.max(this.now, at);
    return this;
  }

  /** Key of the step at hand. */
  private get step(): string {
    const state = settle(this.job.state, this.now);
    return state.steps[state.cursor]?.key ?? '';
  }

  put(entry: Entry): this {
    this.job = record(this.job, entry, this.now, this.piece.by);
    return this;
  }

  /**
   * Something done by hands at the step at hand. Long ago it took as long as such a step takes, give or take; what is
   * told of today is done in a minute.
   */
  private byHands(entry: (step: string) => Entry): this {
    const { step } = this;
    const { handsMin = 1 } = stepOf(this.job.state, step) ?? {};
    if (!this.piece.isLongAgo) return this.put(entry(step)).wait(1);
    return this.wait(handsMin * (QUICKEST + SPREAD * this.chance())).put(entry(step));
  }

  /** Affirms the next steps. */
  affirm(count = 1): this {
    for (let i = 0; i < count; i++) this.byHands((step) => ({ kind: 'affirmed', payload: { step } }));
    return this;
  }

  deny(denial: string): this {
    return this.put({ kind: 'denied', payload: { step: this.step, denial } });
  }

  measure(values: StepValues, source = 'keypad'): this {
    return this.byHands((step) => ({ kind: 'measured', payload: { step, values, source } }));
  }

  skip(): this {
    return this.put({ kind: 'skipped', payload: { step: this.step } });
  }

  code(code: string): this {
    return this.byHands((step) => ({ kind: 'observed', payload: { step, code } }));
  }

  chambers(): this {
    const { cells } = this.job.state.opened.type;
    return this.put({
      kind: 'observed',
      payload: { step: this.step, chambers: Array.from({ length: cells }, () => true) },
    });
  }

  /** What the instruments show now. */
  private get sight(): (quantity: InstrumentQuantity, decimals: number) => number {
    const { state } = this.job;
    const sight: Sight = sightOf(state, this.now, hiddenIn(state));
    return (quantity, decimals) => Number(sight(quantity).toFixed(decimals));
  }

  read(quantity: InstrumentQuantity, decimals: number): number {
    return this.sight(quantity, decimals);
  }

  /** Identified, label read, place safe, case sound. */
  checkIn(): this {
    return this.affirm().measure({}).affirm(2);
  }

  /** Pack matched and pressed on. */
  pressOn(): this {
    return this.code(this.job.state.opened.type.pack?.code ?? '')
      .skip()
      .affirm(2);
  }

  /** Bubbles seen, then every chamber empty. */
  drain(minutes: number): this {
    return this.wait(2).chambers().wait(minutes).chambers();
  }

  /** Soaked, strip on, voltage read, charge started. */
  startCharge(currentA: number): this {
    const measured = {
      ocvV: this.affirm().read('voltage', 2),
      tempC: this.read('temperature', 1),
    };
    this.measure(measured, 'Bench meter');
    const { dueMin } = this.charging(currentA);
    return this.put({
      kind: 'chargeStarted',
      payload: { step: this.step, currentA, dueMin, ...this.charger },
    });
  }

  /** The charge at hand: minutes it is due for, and whether it is proven full. */
  private charging(setA?: number): { dueMin: number; isProven: boolean } {
    const { state } = this.job;
    const context = contextOf(state, settle(state, this.now).steps[state.cursor]?.round ?? 1);
    return { dueMin: context.chargeSetting(setA).totalMin, isProven: proofOfFull(context).isMet };
  }

  /** The supply of the bay: it holds what it is told, and cuts off by itself. */
  private get charger(): { charger?: Charger } {
    return this.supply ? { charger: this.supply } : {};
  }

  look(): this {
    const { sight } = this;
    const values = {
      voltageV: sight('voltage', 2),
      currentA: sight('current', 2),
      tempC: sight('temperature', 1),
    };
    return this.put({ kind: 'chargeRead', payload: { step: this.step, values, source: 'Bench meter' } });
  }

  /** Charges until the time is up and it is proven full, with a look every half hour. */
  charge(currentA: number): this {
    const { dueMin } = this.charging(currentA);
    for (let minutes = 0; minutes < dueMin || !this.charging().isProven; minutes += 30) this.wait(30).look();
    return this.put({ kind: 'chargeEnded', payload: { step: this.step, fullSignal: false } });
  }

  /** Rested voltage and load, as read or as given. */
  test(ocvV?: number): this {
    this.measure(
      { ocvV: ocvV ?? this.read('voltage', 2), tempC: this.read('temperature', 1) },
      'Bench meter',
    );
    return this.measure({ method: 'load', loadV: this.read('loadVoltage', 2) }, 'Battery tester');
  }

  decide(verdict: 'pass' | 'repeat' | 'reject'): this {
    return this.put({ kind: 'decided', payload: { step: this.step, verdict } });
  }

  /** From the box to a signed certificate, beginning at the story's time. */
  certify(currentA: number, drainMin = 14): this {
    this.checkIn().pressOn().drain(drainMin).wait(62).affirm().wait(185);
    this.startCharge(currentA).charge(currentA).wait(6).affirm(2).wait(65);
    return this.test().decide('pass').wait(2).affirm(2);
  }

  /** A battery brought back, from the door to the choice of its route. */
  findOut(history: StepValues, opened?: readonly number[]): this {
    this.checkIn().measure(history).affirm();
    this.measure(
      { ocvV: this.read('voltage', 2), tempC: this.read('temperature', 1), rested: 'yes' },
      'Bench meter',
    );
    if (opened) {
      const cells = Object.fromEntries(opened.map((density, index) => [`density${index + 1}`, density]));
      const levels = Object.fromEntries(opened.map((_, index) => [`level${index + 1}`, 'at-line']));
      this.measure({ caps: 'caps' }).measure(levels);
      this.measure({ ...cells, acidC: 21 });
      // No dip probes here; the load comes once it is charged, or beside the steps.
      this.skip().skip().measure({ added: 'none' });
    }
    return this.measure({ testerA: this.read('cranking', 0) }, 'Battery tester');
  }

  /** Opened cells to the line and closed after a charge, where it has any. */
  private closed(): this {
    return this.step.includes('-to-line') ? this.measure({ added: 'none' }).affirm() : this;
  }

  route(route: string, reason?: string): this {
    const payload = { step: this.step, route, ...(reason === undefined ? {} : { reason }) };
    return this.put({ kind: 'routed', payload }).wait(2);
  }

  /** Starts a charge of a route. */
  chargeAt(currentA: number): this {
    return this.put({ kind: 'chargeStarted', payload: { step: this.step, currentA, ...this.charger } });
  }

  /** Off, and back to the choice of a route. */
  leave(reason: string): this {
    this.put({ kind: 'chargePaused', payload: { step: this.step, reason: 'stopped' } });
    return this.put({ kind: 'routeLeft', payload: { step: this.step, reason } });
  }

  chargeOff(): this {
    return this.put({ kind: 'chargeEnded', payload: { step: this.step, fullSignal: false } });
  }

  /** Charges, with a look as often, for as long. */
  looks(hours: number, everyMin: number): this {
    for (let minutes = everyMin; minutes <= hours * 60; minutes += everyMin) this.wait(everyMin).look();
    return this;
  }

  /** Off after a charge: gas gone, clips off, rested, read. */
  readRested(): this {
    this.chargeOff().wait(6).affirm().closed().wait(65);
    return this.measure({ ocvV: this.read('voltage', 2), tempC: this.read('temperature', 1) }, 'Bench meter');
  }

  /** The house's load test as evidence, with its own battery of the model. */
  load(): this {
    const { type, rules } = this.job.state.opened;
    const { currentA: amps, seconds } = loadTestFor(type, rules.loadTest, this.read('temperature', 1));
    const volts = this.read('loadVoltage', 2);
    return this.put({ kind: 'evidenced', payload: { reading: { kind: 'load', amps, seconds, volts } } });
  }

  /** What the tester shows, beside the steps. */
  tester(): this {
    const reading = { kind: 'tester', amps: this.read('cranking', 0) } as const;
    return this.put({ kind: 'evidenced', payload: { reading } });
  }

  /** Caps off on charge: what rises in each cell, and how warm it is by the probe. */
  lookIntoCells(): this {
    const { state } = this.job;
    const battery = batteryAt(state, this.now, hiddenIn(state));
    if (!battery) return this;
    const cells = battery.groupOf.map((_, index) => index + 1);
    for (const cell of cells)
      this.put({
        kind: 'evidenced',
        payload: { reading: { kind: 'bubbles', cell, bubbles: bubblesOf(battery, cell) } },
      });
    const warm = cells.map((cell) => ({ cell, tempC: Number(probeC(battery, cell).toFixed(1)) }));
    return this.put({ kind: 'evidenced', payload: { reading: { kind: 'warmth', cells: warm } } });
  }

  /** What the scale says is gone. */
  weigh(): this {
    const { state } = this.job;
    const cells = batteryAt(state, this.now, hiddenIn(state));
    const deficitG = cells ? Math.round(waterLostG(cells)) : 0;
    return this.put({ kind: 'evidenced', payload: { reading: { kind: 'mass', deficitG } } });
  }

  /** Minutes at 25 A, as an analyser counts them. */
  private reserveMin(): number {
    const { state } = this.job;
    const cells = batteryAt(state, this.now, hiddenIn(state));
    return cells ? Math.round(analyse(cells, 25, 1.75 * state.opened.type.cells).seconds / 60) : 0;
  }

  /** Rested a day, tested, capacity counted, charged again and rested, held for a week, graded and signed. */
  prove(): this {
    this.route('prove')
      .affirm()
      .wait(25 * 60);
    this.measure({ ocvV: this.read('voltage', 2), tempC: this.read('temperature', 1) }, 'Bench meter');
    this.measure({ method: 'tester', testerA: this.read('cranking', 0) }, 'Battery tester');
    const reserveMin = this.reserveMin();
    this.wait(reserveMin).measure({ method: 'reserve', reserveMin }, 'Battery tester');
    this.chargeAt(this.job.state.opened.type.capacityAh / 20)
      .looks(24, 60)
      .chargeOff();
    this.wait(6)
      .affirm()
      .closed()
      .wait(DAY_MIN + 60);
    const rested = (): StepValues => ({ ocvV: this.read('voltage', 2), tempC: this.read('temperature', 1) });
    this.measure(rested(), 'Bench meter').wait(DAY_MIN).measure(rested(), 'Bench meter');
    return this.wait(6 * DAY_MIN).measure(rested(), 'Bench meter');
  }

  /** To the recycler, with the reason on its disposal record. */
  retire(why: keyof typeof RETIRED_FOR): this {
    return this.route('retire').measure({ why }).affirm(2);
  }

  rows(): { battery: BatteryRecord; summary: JobSummary; events: readonly JobEvent[] } {
    const { tag, typeId, serial, dateCode, owner, id, bay } = this.piece;
    const { openedAt, outcome, endedAt } = this.job.state;
    return {
      battery: { tag, typeId, serial, dateCode, owner },
      summary: { id, tag, bay, openedAt, outcome: outcome ?? null, endedAt: endedAt ?? null },
      events: this.job.log,
    };
  }
}
