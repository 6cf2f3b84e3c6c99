/** Runs a charge plan on a battery of the model, as a supply would on a real one, and keeps the trace. */
import { StepControl, type StepOptions } from '../model/adaptive.ts';
import type { CellString } from '../model/cellString.ts';
import { chargeShare, hydrogenL, stringDensity, waterLostG } from '../model/show.ts';
import type { Source } from '../model/source.ts';
import { CASE_C } from '../model/state.ts';
import { Stepper } from '../model/stepper.ts';
import type { ChargeEngine, EngineReading, EngineState } from './engine.ts';
import { NO_PROBE_C } from './compensation.ts';
import { heatingRatio } from './profile.ts';
import { Trace } from './trace.ts';

/** A held voltage is met this close, V. */
const VOLTAGE_MET_V = 2e-4;
/** And a current limit this close, as a share. */
const CURRENT_MET_SHARE = 3e-4;
/** A change of stage is placed this close, s. */
const PLACED_S = 2;
const MOST_TRIES = 24;
/** Tries of one step after which both limits are taken to be met at once, and how much wider they then are. */
const AT_BOTH_AFTER = 8;
const AT_BOTH_SLACK = 40;
/** A limit met sooner than this is met at once, s. */
const AT_ONCE_S = 0.2;

/** How the supply's terminals look to the battery. */
export interface SupplyShape {
  /** A taper charger falls off along a resistance; a regulated one holds. */
  readonly taperOhm?: number;
  readonly taperV?: number;
  readonly mostA: number;
  readonly mostV: number;
}

const NOTHING: Source = { hold: 'current', amps: 0 };
const IDEAL: SupplyShape = { mostA: Number.POSITIVE_INFINITY, mostV: Number.POSITIVE_INFINITY };

export interface RunOptions {
  readonly supply?: SupplyShape;
  /** Follow pulses one by one where none is shorter than a second; otherwise their average is run. */
  readonly resolvesPulses?: boolean;
  readonly ambientC?: number;
  /** Without a probe on the case the supply takes it to be at 25 °C: no pause when hot. */
  readonly hasProbe?: boolean;
  /** A longest step of a second gives the reference other runs are held against. */
  readonly steps?: StepOptions;
}

/**
 * How a supply meets its limits: holds current, holds voltage, or, when the battery stands higher than the
 * voltage asked for, gives nothing until it has come down.
 */
type Hold = 'current' | 'voltage' | 'nothing';

export class ModelRun {
  readonly cells: CellString;
  readonly engine: ChargeEngine;
  readonly trace = new Trace();
  engineState: EngineState;
  atS = 0;
  /** Stage of the plan by moment it began, s. */
  readonly stages: { readonly atS: number; readonly name: string; readonly because: string }[] = [];
  private readonly stepper: Stepper;
  private readonly control: StepControl;
  private readonly supply: SupplyShape;
  private readonly resolvesPulses: boolean;
  private readonly hasProbe: boolean;
  private readonly lostAtStartG: number;
  private hold: Hold = 'current';
  private isOn = false;
  private commandA = 0;
  private readonly heldSource: Source;

  constructor(cells: CellString, engine: ChargeEngine, options: RunOptions = {}) {
    this.cells = cells;
    this.engine = engine;
    this.supply = options.supply ?? IDEAL;
    this.resolvesPulses = options.resolvesPulses ?? false;
    this.hasProbe = options.hasProbe ?? true;
    if (options.ambientC !== undefined) cells.ambientC = options.ambientC;
    this.stepper = new Stepper(cells);
    this.control = new StepControl(cells, options.steps);
    this.lostAtStartG = waterLostG(cells);
    this.heldSource = { hold: 'voltage', voltsAt: this.voltsAt };
    this.settleOpen();
    this.engineState = engine.next(engine.begin(), this.reading());
    this.obey();
    this.record();
    this.noteStage('');
    this.restartPulse();
  }

  get hasEnded(): boolean {
    return this.engineState.ended !== undefined;
  }

  /** Volts at rest before anything is connected. */
  private settleOpen(): void {
    this.stepper.step({ hold: 'current', amps: 0 }, 1e-3);
    this.control.begin(0);
  }

  /**
   * Runs until a moment or the plan's end.
   * @param untilS seconds since the run began
   */
  runUntil(untilS: number): void {
    while (!this.hasEnded && this.atS < untilS - 1e-9) this.advance(untilS);
  }

  /** Follows the engine's state: what the source is to do until it changes again. */
  private obey(): void {
    const { isOn, amps } = this.engine.command(this.engineState);
    this.isOn = isOn;
    this.commandA = Math.min(amps, this.supply.mostA);
  }

  private source(): Source {
    if (!this.isOn) return NOTHING;
    const { taperOhm, taperV } = this.supply;
    if (this.hold === 'nothing') return NOTHING;
    if (this.hold === 'voltage') return this.heldSource;
    if (taperOhm !== undefined && taperV !== undefined)
      return { hold: 'resistance', volts: taperV, ohms: taperOhm };
    return { hold: 'current', amps: this.mostA };
  }

  /** The longest step allowed from here by clocks, pulses and pauses. */
  private stepLimit(untilS: number): number {
    let limit = Math.min(this.control.nextS, untilS - this.atS);
    if (this.engineState.isPaused) return limit;
    limit = Math.min(
      limit,
      this.engine.lookEveryS(this.engineState),
      Math.max(1e-3, this.engine.secondsLeft(this.engineState)),
    );
    if (this.resolvesPulses) {
      const { untilS: edge } = this.engine.pulseA(this.engineState, this.atS);
      limit = Math.min(limit, Math.max(1e-3, edge - this.atS));
    }
    return limit;
  }

  /** One accepted step. */
  private advance(untilS: number): void {
    let seconds = this.stepLimit(untilS);
    const beforeV = this.volts();
    const beforeA = this.cells.currentA;
    for (let tries = 0; tries < MOST_TRIES; tries++) {
      const source = this.source();
      if (!this.stepper.step(source, seconds)) {
        if (this.hold === 'current' && this.isOn) this.take('voltage');
        else this.control.shorten(seconds);
        seconds = Math.min(seconds, this.control.nextS);
        continue;
      }
      const shorter = this.overrun(beforeV, beforeA, seconds, tries);
      if (shorter !== undefined) {
        this.stepper.undo();
        if (shorter < AT_ONCE_S) this.take(this.hold === 'voltage' ? 'current' : 'voltage');
        else seconds = shorter;
        continue;
      }
      if (!this.control.accepts(this.atS + seconds, seconds)) {
        this.stepper.undo();
        seconds = this.control.nextS;
        continue;
      }
      const next = this.engine.next(this.engineState, this.reading(seconds));
      const placed = this.place(next, seconds);
      if (placed !== undefined) {
        this.stepper.undo();
        seconds = placed;
        continue;
      }
      this.atS += seconds;
      this.adopt(next, source);
      return;
    }
    throw new Error('The charge run found no step that satisfies the plan and the battery.');
  }

  /** A shorter step when the other limit was passed on the way, or undefined. */
  private overrun(beforeV: number, beforeA: number, seconds: number, tries: number): number | undefined {
    if (this.hold === 'nothing' || !this.isOn) return undefined;
    const isHeldV = this.hold === 'voltage';
    const now = isHeldV ? this.cells.currentA : this.volts();
    const before = isHeldV ? beforeA : beforeV;
    const limit = isHeldV ? this.mostA : this.limitV();
    // Where both limits are met at once, either hold passes the other by a hair: then that hair is allowed for a step.
    const slack = tries < AT_BOTH_AFTER ? 1 : AT_BOTH_SLACK;
    const allowance = slack * (isHeldV ? CURRENT_MET_SHARE * limit : VOLTAGE_MET_V);
    if (now <= limit + allowance) return undefined;
    // A limit jumped over at the very start is not found by proportion; then the steps shrink faster.
    const most = tries < 3 ? 0.95 : 0.3;
    return seconds * Math.min(most, Math.max(0, (limit - before) / (now - before)));
  }

  /** A shorter step when a stage ended on the way, or undefined when it may stand. */
  private place(next: EngineState, seconds: number): number | undefined {
    const isChange =
      next.ended !== this.engineState.ended ||
      next.stage !== this.engineState.stage ||
      next.isPaused !== this.engineState.isPaused;
    if (!isChange) return undefined;
    const late = seconds * (1 - next.crossedAt);
    if (late <= PLACED_S || next.crossedAt >= 1) return undefined;
    return Math.max(PLACED_S, seconds - late * 0.98);
  }

  private adopt(next: EngineState, source: Source): void {
    const before = this.engineState;
    this.engineState = next;
    const isNewStage = next.stage !== before.stage || next.stageSinceS !== before.stageSinceS;
    if (isNewStage && next.ended === undefined) this.noteStage(next.because);
    this.record();
    const isFresh = isNewStage || next.isPaused !== before.isPaused || next.ended !== undefined;
    if (isFresh) {
      this.obey();
      this.restartPulse();
      this.take(this.volts() > this.limitV() + VOLTAGE_MET_V ? 'nothing' : 'current');
    } else this.changeHold(source);
  }

  /** Voltage the supply may not exceed at a temperature, V. */
  private readonly voltsAt = (caseC: number): number =>
    Math.min(this.engine.heldVolts(this.engine.stageOf(this.engineState), caseC), this.supply.mostV);

  /** Current the supply may not exceed now, A. */
  private get mostA(): number {
    const { engine, engineState, supply, atS } = this;
    return this.resolvesPulses ? Math.min(engine.pulseA(engineState, atS).amps, supply.mostA) : this.commandA;
  }

  private limitV(): number {
    return this.voltsAt(this.cells.state.shared[CASE_C] as number);
  }

  private take(hold: Hold): void {
    this.hold = hold;
    this.stepper.forget();
    this.control.restart();
    this.control.begin(this.atS);
  }

  /** Goes over from one hold to another as current and voltage demand it. */
  private changeHold(source: Source): void {
    if (!this.isOn) return;
    const { mostA } = this;
    const over = this.volts() - this.limitV();
    if (this.hold === 'current' && over >= -VOLTAGE_MET_V) this.take('voltage');
    else if (this.hold === 'voltage' && this.cells.currentA > mostA) this.take('current');
    else if (this.hold === 'voltage' && this.cells.currentA < -1e-3) this.take('nothing');
    else if (this.hold === 'nothing' && over <= 0) this.take('voltage');
    else if (source.hold === 'current' && this.hold === 'current' && Math.abs(mostA - source.amps) > 1e-9)
      this.take('current');
  }

  private restartPulse(): void {
    const stage = this.engine.stageOf(this.engineState);
    this.cells.pulsing = stage.pulse ? 1 : 0;
    this.cells.squareRatio = stage.pulse && !this.resolvesPulses ? heatingRatio(stage.pulse) : 1;
  }

  private noteStage(because: string): void {
    this.stages.push({ atS: this.atS, name: this.engine.stageOf(this.engineState).name, because });
  }

  /** Voltage at the posts now. */
  volts(): number {
    const { cells } = this;
    let sum = cells.parameters.leadsOhm * cells.currentA;
    for (let g = 0; g < cells.groups; g++)
      sum += (cells.counts[g] as number) * (cells.shown.cellV[g] as number);
    return sum;
  }

  private reading(afterS = 0): EngineReading {
    const { cells } = this;
    const atS = this.atS + afterS;
    const volts = this.volts();
    const amps = cells.currentA;
    const tempC = this.hasProbe ? (cells.state.shared[CASE_C] as number) : NO_PROBE_C;
    if (cells.parameters.construction !== 'flooded') return { atS, volts, amps, tempC };
    return { atS, volts, amps, tempC, density: stringDensity(cells) };
  }

  private record(): void {
    const { cells, trace } = this;
    trace.open(this.atS);
    let hottest = -100;
    let least = 1;
    const density = stringDensity(cells);
    let low = 100;
    let high = -100;
    let lowest = 0;
    for (let g = 0; g < cells.groups; g++) {
      hottest = Math.max(hottest, cells.tempOf(g));
      least = Math.min(least, chargeShare(cells, g));
      const cellV = cells.shown.cellV[g] as number;
      if (cellV < low) {
        low = cellV;
        lowest = g;
      }
      high = Math.max(high, cellV);
    }
    trace.set(0, this.volts());
    trace.set(1, cells.currentA);
    trace.set(2, cells.state.shared[0] as number);
    trace.set(3, hottest);
    trace.set(4, least);
    trace.set(5, density);
    trace.set(6, hydrogenL(cells, this.lostAtStartG));
    trace.set(7, waterLostG(cells) - this.lostAtStartG);
    trace.set(8, low);
    trace.set(9, high);
    trace.set(10, cells.groupOf.indexOf(lowest) + 1);
  }
}
