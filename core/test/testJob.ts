/** A job to test with: a shop in UTC, a clock in hand, and steps named as on the run sheet. */
import type { BatteryType } from '../battery/types.ts';
import { CATALOGUE } from '../demo/catalogue.ts';
import type { ShopHours } from '../clock/shopHours.ts';
import {
  EDITION,
  type Entry,
  type EventKind,
  type EventPayloads,
  type OpenedPayload,
} from '../runsheet/entries/events.ts';
import { foldJob, record, type Job } from '../runsheet/log/fold.ts';
import { STANDARD_RULES, type HouseRules, RULES_VERSION } from '../rules/houseRules.ts';
import { procedureFor } from '../runsheet/procedures/procedures.ts';
import { settle } from '../runsheet/state/settle.ts';
import type { StepState } from '../runsheet/state/jobState.ts';

const day: readonly [number, number] = [8 * 60, 18 * 60];
export const HOURS: ShopHours = { timeZone: 'Etc/UTC', week: [null, day, day, day, day, day, null] };
/** A Tuesday morning. */
export const MORNING = Date.parse('2026-03-10T08:05:00Z');
const MINUTE = 60_000;

export class TestJob {
  job: Job;
  now: number;

  constructor(
    of: string | BatteryType = 'LW-A12/9',
    rules: Partial<HouseRules> = {},
    at = MORNING,
    procedure?: string,
    more: Partial<OpenedPayload> = {},
  ) {
    const type = typeof of === 'string' ? CATALOGUE.find(({ id }) => id === of) : of;
    if (!type) throw new Error(`no type ${String(of)}`);
    const opened: OpenedPayload = {
      edition: EDITION,
      rulesVersion: RULES_VERSION,
      procedure: procedure ?? procedureFor(type)?.id ?? '',
      battery: { tag: 'SK-0001', serial: '', dateCode: '2026-01', owner: 'tide-gauge hut' },
      type,
      rules: { ...STANDARD_RULES, ...rules },
      hours: HOURS,
      bay: 1,
      promisedAt: at + 24 * 60 * MINUTE,
      ...more,
    };
    this.now = at;
    this.job = foldJob([{ job: 'j1', seq: 1, key: '#1', at, by: 'Ines', kind: 'opened', payload: opened }]);
  }

  /** Lets shop time pass. */
  wait(minutes: number): this {
    this.now += minutes * MINUTE;
    return this;
  }

  get current(): StepState {
    const state = settle(this.job.state, this.now);
    const step = state.steps[state.cursor];
    if (!step) throw new Error('no step at hand');
    return step;
  }

  /** Records an entry now. */
  put<K extends EventKind>(kind: K, payload: EventPayloads[K]): this {
    this.job = record(this.job, { kind, payload } as Entry, this.now, 'Ines');
    return this;
  }

  affirm(...stepIds: string[]): this {
    for (const stepId of stepIds) this.put('affirmed', { step: `${stepId}#${this.roundOf(stepId)}` });
    return this;
  }

  measure(stepId: string, values: Record<string, number | string>): this {
    return this.put('measured', { step: `${stepId}#${this.roundOf(stepId)}`, values, source: 'keypad' });
  }

  /** Chooses how a recovery goes on. */
  route(route: string, reason?: string): this {
    return this.put('routed', { step: this.current.key, route, ...(reason === undefined ? {} : { reason }) });
  }

  /** One that came charged, full and rested: its capacity is to be measured. */
  toCapacity(): this {
    this.triage(12.85).route('prove', 'it came charged').affirm('prove-off').wait(1445);
    return this.measure('prove-ocv', { ocvV: 12.85, tempC: 21 }).put('skipped', { step: 'prove-load#1' });
  }

  /** A recovery found out about, up to its first choice of a route. */
  triage(
    ocvV: number,
    more: {
      testerA?: number;
      densities?: readonly number[];
      tempC?: number;
      told?: Record<string, number | string>;
      level?: 'at-line' | 'low';
      /** What the tester shows, where that is no plain figure. */
      tester?: Record<string, number | string>;
      /** Of a hydrometer with bands, cell by cell. */
      bands?: readonly string[];
      /** Put on it as it came, by volts or by the tester's colours. */
      load?: Record<string, number | string>;
    } = {},
  ): this {
    const { tempC = 21, told = { complaint: 'parked', flatMonths: 4 } } = more;
    this.affirm('identify').measure('label', {}).affirm('safety', 'inspect');
    this.measure('history', told).affirm('clean');
    this.measure('first-ocv', { ocvV, tempC, rested: 'yes' });
    if (this.current.stepId === 'open-cells') {
      const { cells } = this.job.state.opened.type;
      const { level = 'at-line' } = more;
      const read = more.densities ?? Array.from({ length: cells }, () => 1.13);
      this.measure('open-cells', { caps: 'caps' });
      this.measure(
        'levels-cells',
        this.eachCell('level', () => level),
      );
      const { bands } = more;
      this.measure('density-before', {
        ...(bands ? { by: 'bands', ...this.eachCell('band', (cell) => bands[cell - 1] ?? 'green') } : {}),
        ...Object.fromEntries(read.map((density, index) => [`density${index + 1}`, density])),
        // Brought in frosty it is read once it has thawed.
        acidC: Math.max(0, tempC),
      });
      this.leaveOut('dips-before');
      if (more.load) this.measure('load-before', more.load);
      else this.leaveOut('load-before');
      this.measure('water-before', { added: 'none' });
    }
    if (this.current.stepId !== 'first-tester') return this;
    const shown = more.tester ?? (more.testerA === undefined ? undefined : { testerA: more.testerA });
    return shown ? this.measure('first-tester', shown) : this.leaveOut('first-tester');
  }

  leaveOut(stepId: string): this {
    return this.put('skipped', { step: `${stepId}#${this.roundOf(stepId)}` });
  }

  /** The same asked of every cell of this battery. */
  eachCell<T extends number | string>(id: string, of: (cell: number) => T): Record<string, T> {
    const { cells } = this.job.state.opened.type;
    return Object.fromEntries(
      Array.from({ length: cells }, (_, index) => [`${id}${index + 1}`, of(index + 1)]),
    );
  }

  /** Opened cells to the line and closed after a charge, where this battery has such steps. */
  closed(id: string): this {
    if (this.current.stepId !== `${id}-to-line`) return this;
    return this.measure(`${id}-to-line`, { added: 'none' }).affirm(`${id}-caps`);
  }

  private roundOf(stepId: string): number {
    const { current } = this;
    return current.stepId === stepId ? current.round : 1;
  }

  /** Checked in, up to the pack's code. */
  checkIn(): this {
    return this.affirm('identify').measure('label', {}).affirm('safety', 'inspect');
  }

  /** Up to a pack pressed on. */
  pressOn(): this {
    return this.checkIn()
      .put('observed', { step: 'pack-code#1', code: this.job.state.opened.type.pack?.code ?? '' })
      .put('skipped', { step: 'weigh-dry#1' })
      .affirm('foil-off', 'pack-on');
  }

  chambers(stepId: string, failing: readonly number[] = []): this {
    const { cells } = this.job.state.opened.type;
    const chambers = Array.from({ length: cells }, (_, index) => !failing.includes(index + 1));
    return this.put('observed', { step: `${stepId}#1`, chambers });
  }

  /** Up to the soak running: pack pressed on, seen empty, lifted off after its time. */
  fill(): this {
    this.pressOn().wait(2).chambers('bubbles').wait(12).chambers('empty').wait(60);
    return this.affirm('pack-off');
  }

  /** Up to the charge standing ready. */
  soak(ocvV = 12.7): this {
    return this.fill().wait(180).affirm('strip').measure('ocv-soak', { ocvV, tempC: 27 });
  }

  read(voltageV: number, currentA: number, tempC = 28): this {
    return this.put('chargeRead', {
      step: this.current.key,
      values: { voltageV, currentA, tempC },
      source: 'meter',
    });
  }

  /** A whole charge, proven full by three flat readings or not. */
  charge(isProven = true): this {
    this.put('chargeStarted', { step: this.current.key, currentA: 0.9 }).wait(150);
    const heldV = 14.7 * (this.job.state.opened.type.cells / 6);
    if (isProven) this.read(heldV, 0.06).wait(60).read(heldV, 0.05).wait(60).read(heldV, 0.05);
    return this.wait(480).put('chargeEnded', { step: this.current.key, fullSignal: false });
  }

  /** From the charger off to the verdict standing open. */
  test(ocvV: number, loadV = 10.6): this {
    this.wait(5).affirm('disconnect');
    if (this.current.stepId === 'lid') this.affirm('lid');
    return this.wait(60)
      .measure('test-ocv', { ocvV, tempC: 22 })
      .measure('test-load', { method: 'load', loadV });
  }

  /** Off, gas gone, clips off. */
  private clipsOff(stepId: string): this {
    return this.put('chargeEnded', { step: this.current.key, fullSignal: false }).wait(6).affirm(stepId);
  }

  /** The charge at hand, slowly to a flat tail: proven full. */
  private toFull(): this {
    const { capacityAh, cells } = this.job.state.opened.type;
    const heldV = (14.7 * cells) / 6;
    this.put('chargeStarted', { step: this.current.key, currentA: capacityAh / 20 });
    this.wait(600)
      .read(heldV - 0.3, capacityAh * 0.022, 27)
      .wait(240)
      .read(heldV, capacityAh * 0.0073, 26);
    return this.wait(60)
      .read(heldV, capacityAh * 0.0055, 25)
      .wait(65)
      .read(heldV, capacityAh * 0.0051, 25);
  }

  /** By the slow charge to proven full, clips off, rested and read. */
  slowCharge(ocvV = 12.8, reason?: string): this {
    return this.route('slow-charge', reason)
      .toFull()
      .clipsOff('slow-clips')
      .closed('slow')
      .wait(60)
      .measure('after-charge', { ocvV, tempC: 21 });
  }

  /**
   * Through the proof up to the grade standing open: rested, tested, capacity drawn and charged again where it was,
   * held for a day, and a week where that was read.
   */
  prove(found: {
    readonly ocvV: number;
    readonly tempC?: number;
    readonly test?: Record<string, number | string>;
    readonly capacity?: Record<string, number | string>;
    readonly dayV?: number;
    readonly weekV?: number;
    readonly reason?: string;
  }): this {
    const { ocvV, tempC = 21, test, capacity, dayV = ocvV, weekV, reason } = found;
    const DAY = 24 * 60;
    this.route('prove', reason)
      .affirm('prove-off')
      .wait(7 * DAY)
      .measure('prove-ocv', { ocvV, tempC });
    if (test) this.measure('prove-load', test);
    else this.put('skipped', { step: this.current.key });
    if (capacity) {
      this.wait(180).measure('prove-capacity', capacity).toFull().clipsOff('prove-clips').closed('prove');
      this.wait(7 * DAY).measure('hold-ocv', { ocvV, tempC });
    } else this.put('skipped', { step: this.current.key });
    this.wait(DAY).measure('hold-read', { ocvV: dayV, tempC });
    if (weekV !== undefined) return this.wait(6 * DAY).measure('week-read', { ocvV: weekV, tempC });
    this.put('overridden', { step: this.current.key, reason: 'the ferry leaves on Friday' });
    return this.put('skipped', { step: this.current.key });
  }

  /** Proved as it is, passed and signed off. @param reserveMin of the analyser, where its capacity was counted */
  signedOff(testerA = 480, reserveMin?: number): this {
    this.prove({
      ocvV: 12.85,
      test: { method: 'tester', testerA },
      ...(reserveMin === undefined ? {} : { capacity: { method: 'reserve', reserveMin } }),
      dayV: 12.84,
      weekV: 12.83,
    }).decide('pass');
    while (this.job.state.outcome === undefined) this.affirm(this.current.stepId).wait(1);
    return this;
  }

  decide(verdict: 'pass' | 'repeat' | 'reject'): this {
    return this.put('decided', { step: this.current.key, verdict });
  }
}
