/**
 * Devices that are not there: they hear and answer the very bytes real ones would, over a bay of the model, and fail on demand. They know nothing of
 * sockets or of the drivers that speak to them.
 */
import type { Clock } from '../../clock/clock.ts';
import type { Circuit } from './circuit.ts';
import { bytesOf } from '../scpi.ts';
import type { DeviceFault } from './failings.ts';

export interface Answered {
  readonly bytes: Uint8Array;
  /** So late, ms. */
  readonly afterMs: number;
}

export interface SimulatedDevice {
  readonly fault: DeviceFault | undefined;
  fail(fault: DeviceFault | undefined): void;
  /** @returns nothing where it does not answer */
  hear(message: Uint8Array): Answered | undefined;
}

const USUAL_MS = 15;
const SLOW_MS = 5000;
/** It takes a volt for so much less. */
const READS_LOW = 0.95;
const GARBAGE = Uint8Array.from([7, 255, 63, 13, 10]);

/** Hears lines, answers questions, keeps a list of complaints. @see IEEE 488.2 */
abstract class ScpiDevice implements SimulatedDevice {
  fault: DeviceFault | undefined;
  protected readonly clock: Clock;
  private readonly name: string;
  private complaint = '';
  private heardAt = 0;
  private watchdogS = 0;
  private shown = new Map<string, string>();

  constructor(name: string, clock: Clock) {
    this.name = name;
    this.clock = clock;
  }

  fail(fault: DeviceFault | undefined): void {
    this.fault = fault;
    this.failed();
  }

  hear(message: Uint8Array): Answered | undefined {
    if (this.fault === 'silent') return undefined;
    this.liveUntil(this.clock.now());
    this.heardAt = this.clock.now();
    const answers = String.fromCharCode(...message)
      .trim()
      .split(';')
      .flatMap((part) => this.unit(part.trim().replace(/^:/, '').toUpperCase()) ?? []);
    if (answers.length === 0) return undefined;
    const afterMs = this.fault === 'slow' ? SLOW_MS : USUAL_MS;
    return { bytes: this.fault === 'garbage' ? GARBAGE : bytesOf(`${answers.join(';')}\n`), afterMs };
  }

  /** Its own watchdog acts whether it is spoken to or not. @param now shop time, ms */
  liveUntil(now: number): void {
    if (this.watchdogS > 0 && now - this.heardAt > this.watchdogS * 1000) this.bark();
  }

  private unit(unit: string): string | undefined {
    if (unit === '*IDN?') return this.name;
    if (unit === 'SYST:ERR?') {
      const said = this.complaint === '' ? '0,"No error"' : `-113,"${this.complaint}"`;
      this.complaint = '';
      return said;
    }
    // A channel may stand behind a question: these have one each.
    const [header = '', figure] = unit.split(/\s+/);
    if (header.endsWith('?')) {
      const answer =
        (this.fault === 'frozen' && header.startsWith('MEAS') ? this.shown.get(header) : undefined) ??
        this.answer(header);
      if (answer === undefined) this.complaint = 'Undefined header';
      else this.shown.set(header, answer);
      return answer;
    }
    if (header === 'SYST:WDOG') this.watchdogS = Number(figure);
    else if (!this.obey(header, figure)) this.complaint = 'Undefined header';
    return undefined;
  }

  protected abstract answer(question: string): string | undefined;
  protected abstract obey(header: string, figure: string | undefined): boolean;
  protected abstract bark(): void;
  protected abstract failed(): void;
}

const shownAs = (value: number, digits: number): string => value.toFixed(digits);

/** What gives or takes a current: an output, or an input, that is on or off, and figures it is set to, each under a header of its own. */
abstract class SimulatedSource extends ScpiDevice {
  protected readonly circuit: Circuit;
  protected isOn = false;
  private readonly switchedBy: string;
  private readonly set: Map<string, number>;

  /**
   * @param switchedBy header that switches it
   * @param set what it is set to before anybody says, by header
   */
  constructor(
    name: string,
    circuit: Circuit,
    clock: Clock,
    switchedBy: string,
    set: Readonly<Record<string, number>>,
  ) {
    super(name, clock);
    this.circuit = circuit;
    this.switchedBy = switchedBy;
    this.set = new Map(Object.entries(set));
  }

  protected setTo(header: string): number {
    return this.set.get(header) ?? 0;
  }

  protected abstract apply(): void;
  protected abstract measured(question: string): number | undefined;

  protected bark(): void {
    if (this.fault === 'stuck-on') return;
    this.isOn = false;
    this.apply();
  }

  protected answer(question: string): string | undefined {
    if (question === `${this.switchedBy}?`) return this.isOn ? '1' : '0';
    const value = this.measured(question) ?? this.set.get(question.slice(0, -1));
    return value === undefined ? undefined : shownAs(value, 3);
  }

  protected obey(header: string, figure: string | undefined): boolean {
    const value = Number(figure);
    if (header === this.switchedBy) {
      if (figure === 'OFF' && this.fault === 'stuck-on') return true;
      this.isOn = figure === 'ON';
    } else if (Number.isFinite(value) && this.set.has(header)) this.set.set(header, value);
    else return false;
    this.apply();
    return true;
  }
}

export class SimulatedSupply extends SimulatedSource {
  constructor(circuit: Circuit, clock: Clock) {
    super('EMBER SIMULATED,SUPPLY 32-20,0,1.0', circuit, clock, 'OUTP', {
      VOLT: 0,
      CURR: 0,
      'VOLT:PROT': 33,
      'CURR:PROT': 21,
    });
  }

  private get gain(): number {
    return this.fault === 'reads-low' ? READS_LOW : 1;
  }

  protected apply(): void {
    const drive = { volts: this.setTo('VOLT') / this.gain, amps: this.setTo('CURR') };
    this.circuit.drive(this.isOn ? drive : undefined);
  }

  protected failed(): void {
    this.apply();
  }

  protected measured(question: string): number | undefined {
    if (question === 'MEAS:VOLT?') return this.circuit.supplyV * this.gain;
    return question === 'MEAS:CURR?' ? this.circuit.supplyA : undefined;
  }
}

/** An electronic load that holds its current, and lets go below its own limit. */
export class SimulatedLoad extends SimulatedSource {
  constructor(circuit: Circuit, clock: Clock) {
    super('EMBER SIMULATED,LOAD 60-30,0,1.0', circuit, clock, 'INP', {
      CURR: 0,
      'CURR:PROT': 31,
      'VOLT:PROT:LOW': 0,
    });
  }

  override liveUntil(now: number): void {
    super.liveUntil(now);
    if (this.isOn && this.circuit.postV < this.setTo('VOLT:PROT:LOW')) this.bark();
  }

  protected apply(): void {
    this.circuit.draw(this.isOn ? Math.min(this.setTo('CURR'), this.setTo('CURR:PROT')) : 0);
  }

  protected failed(): void {
    // It fails as it stands.
  }

  protected measured(question: string): number | undefined {
    if (question === 'MEAS:VOLT?') return this.circuit.supplyV;
    return question === 'MEAS:CURR?' ? this.circuit.loadA : undefined;
  }
}

/** A contact in the lead that opens by itself unless it is told again in time. */
export class SimulatedCutOff extends ScpiDevice {
  private readonly circuit: Circuit;
  private isClosed = false;

  constructor(circuit: Circuit, clock: Clock) {
    super('EMBER SIMULATED,CONTACTOR,0,1.0', clock);
    this.circuit = circuit;
    circuit.part(true);
  }

  private close(isClosed: boolean): void {
    this.isClosed = isClosed;
    this.circuit.part(!isClosed);
  }

  protected failed(): void {
    // It fails as it stands.
  }

  protected bark(): void {
    this.close(false);
  }

  protected answer(question: string): string | undefined {
    return question === 'OUTP?' ? (this.isClosed ? '1' : '0') : undefined;
  }

  protected obey(header: string, figure: string | undefined): boolean {
    if (header !== 'OUTP') return false;
    this.close(figure === 'ON');
    return true;
  }
}

/** A meter at the battery's posts, with a probe on its case. */
export class SimulatedMeter extends ScpiDevice {
  private readonly circuit: Circuit;

  constructor(circuit: Circuit, clock: Clock) {
    super('EMBER SIMULATED,SCANNER,0,1.0', clock);
    this.circuit = circuit;
  }

  protected failed(): void {
    // It only reads.
  }

  protected bark(): void {
    // It has nothing to switch.
  }

  protected answer(question: string): string | undefined {
    if (question === 'MEAS:VOLT?') return shownAs(this.circuit.postV, 3);
    return question === 'MEAS:TEMP?' ? shownAs(this.circuit.caseC, 1) : undefined;
  }

  protected obey(): boolean {
    return false;
  }
}

/** A stop button's loop on a digital input: closed as long as nobody presses it. */
export class SimulatedStop extends ScpiDevice {
  constructor(clock: Clock) {
    super('EMBER SIMULATED,DIGITAL INPUT,0,1.0', clock);
  }

  protected failed(): void {
    // Pressed or not is all it knows.
  }

  protected bark(): void {
    // It has nothing to switch.
  }

  protected answer(question: string): string | undefined {
    if (question !== 'INP:LEV?') return undefined;
    return this.fault === 'pressed' ? '0' : '1';
  }

  protected obey(): boolean {
    return false;
  }
}
