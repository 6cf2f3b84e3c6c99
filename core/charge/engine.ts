/**
 * Runs a charge plan: takes readings, gives commands. It knows nothing of what it drives; the same engine
 * charges the model and can charge a battery on a live supply. Pure: the next state comes from the last.
 */
import { ceilingsFor, type Ceilings } from './ceilings.ts';
import { ceilingAt, type HeldVoltage } from './compensation.ts';
import { averageA, ProfileError, type Exit, type Profile, type Stage, type Subject } from './profile.ts';
import { flatNow, tookAlmostNothing, type ChargeReading, type FullQuestion } from './proofOfFull.ts';
import { hasTapered, isRunningAway, type TaperLow } from './runaway.ts';

/** What the engine is told, at any interval. */
export interface EngineReading {
  readonly atS: number;
  readonly volts: number;
  readonly amps: number;
  readonly tempC: number;
  /** Mean density at 25 °C where it was taken, g/cm³. */
  readonly density?: number;
}

/** Readings since the source last went on, the latest first. */
interface Trail {
  readonly reading: ChargeReading;
  readonly before: Trail | undefined;
}

export type Ending = 'full' | 'stop' | 'runaway';

/** A quantity that has stayed within its band since a moment. */
interface Anchor {
  readonly sinceS: number;
  readonly value: number;
}

export interface EngineState {
  readonly stage: number;
  readonly stageSinceS: number;
  readonly stageAh: number;
  readonly isPaused: boolean;
  readonly pausedS: number;
  readonly hotPauses: number;
  readonly ended: Ending | undefined;
  /** What ended the plan or the last stage, in words. */
  readonly because: string;
  readonly last: EngineReading | undefined;
  readonly peakV: number;
  /** Put in since the plan began, Ah. */
  readonly totalAh: number;
  /** Lowest current since the voltage was reached: it must not rise from there. */
  readonly taperLow: TaperLow | undefined;
  /** Readings since the source last went on, thinned; what full is judged by. */
  readonly trail: Trail | undefined;
  readonly flatCurrent: Anchor | undefined;
  readonly flatDensity: Anchor | undefined;
  /** How far into the last interval the latest change fell, 0–1. */
  readonly crossedAt: number;
}

/** What the source is to do now. */
export interface Command {
  readonly isOn: boolean;
  readonly amps: number;
  readonly volts: number;
}

const OFF: Command = { isOn: false, amps: 0, volts: 0 };
const UNPROVEN = { taperLow: undefined, trail: undefined, flatCurrent: undefined, flatDensity: undefined };
const HOUR = 3600;
/** A held voltage counts as reached this close, V per cell. */
const HELD_WITHIN_V = 0.01;
/** A battery that has been too hot this often is not charged on (practice; handbook 3.5). */
export const MOST_HOT_PAUSES = 3;
/** Looks within the time something must stay flat. */
const LOOKS_WHILE_FLAT = 24;
const LOOKS_UNTIL_FULL = 8;

export class ChargeEngine {
  readonly profile: Profile;
  readonly ceilings: Ceilings;
  private readonly subject: Subject;
  /** What the label allows; it follows warmth. */
  private readonly label: HeldVoltage | undefined;

  /**
   * @throws ProfileError when the plan is not allowed for this battery or is not possible
   */
  constructor(profile: Profile, subject: Subject) {
    this.profile = profile;
    this.subject = subject;
    this.ceilings = ceilingsFor(subject, profile.purpose);
    const { chargingV } = this.ceilings;
    this.label = chargingV === undefined ? undefined : { volts: chargingV, isCompensated: true };
    const ids = new Set(profile.stages.map((stage) => stage.id));
    if (profile.stages.length === 0) throw new ProfileError(`“${profile.name}” has no stage.`);
    for (const stage of profile.stages) this.check(stage, ids);
  }

  private check(stage: Stage, ids: ReadonlySet<string>): void {
    if (!(stage.amps >= 0 && stage.volts > 0))
      throw new ProfileError(
        `Stage “${stage.name}” needs a current from 0 A and a voltage above 0 V; it has ${stage.amps} A and ${stage.volts} V.`,
      );
    for (const exit of stage.exits)
      if (exit.next !== 'full' && exit.next !== 'stop' && !ids.has(exit.next))
        throw new ProfileError(
          `Stage “${stage.name}” leads to “${exit.next}”, which the plan does not have.`,
        );
  }

  /** Cells in series of the battery it charges. */
  get cells(): number {
    return this.subject.cells;
  }

  begin(atS = 0): EngineState {
    return {
      stage: 0,
      stageSinceS: atS,
      stageAh: 0,
      isPaused: false,
      pausedS: 0,
      hotPauses: 0,
      ended: undefined,
      because: '',
      last: undefined,
      peakV: 0,
      totalAh: 0,
      taperLow: undefined,
      trail: undefined,
      flatCurrent: undefined,
      flatDensity: undefined,
      crossedAt: 1,
    };
  }

  stageOf(state: EngineState): Stage {
    const stage = this.profile.stages[state.stage];
    if (!stage) throw new ProfileError(`“${this.profile.name}” has no stage ${state.stage + 1}.`);
    return stage;
  }

  /** Voltage a stage holds at a temperature, ceilings applied, V. */
  heldVolts(stage: Stage, tempC: number): number {
    const { cells } = this.subject;
    const { volts } = this.ceilings;
    const held = ceilingAt(stage, volts, cells, tempC);
    return this.label ? Math.min(held, ceilingAt(this.label, volts, cells, tempC)) : held;
  }

  /** What the source is to do, never above a ceiling whatever the plan says. */
  command(state: EngineState): Command {
    if (state.ended !== undefined || state.isPaused) return OFF;
    const stage = this.stageOf(state);
    const asked = stage.pulse ? averageA(stage.pulse) : stage.amps;
    const amps = Math.min(asked, this.ceilings.amps);
    return { isOn: amps > 0, amps, volts: this.heldVolts(stage, state.last?.tempC ?? 25) };
  }

  /** Current of a pulse plan at a moment of its stage, A: for a source that can follow pulses. */
  pulseA(state: EngineState, atS: number): { amps: number; untilS: number } {
    const { pulse } = this.stageOf(state);
    const steady = this.command(state);
    if (!pulse || !steady.isOn) return { amps: steady.amps, untilS: Number.POSITIVE_INFINITY };
    const period = pulse.spikeS + pulse.settleS + pulse.offS;
    const begun = atS - ((atS - state.stageSinceS) % period);
    const parts = [
      [pulse.spikeS, pulse.spikeA],
      [pulse.settleS, pulse.settleA],
      [pulse.offS, 0],
    ] as const;
    let untilS = begun;
    for (const [seconds, amps] of parts) {
      untilS += seconds;
      if (atS < untilS - 1e-6) return { amps: Math.min(amps, this.ceilings.amps), untilS };
    }
    return { amps: 0, untilS };
  }

  /** Seconds until the clock alone ends the stage. */
  secondsLeft(state: EngineState): number {
    const spent = (state.last?.atS ?? state.stageSinceS) - state.stageSinceS - state.pausedS;
    let left = Number.POSITIVE_INFINITY;
    for (const exit of this.stageOf(state).exits)
      if (exit.on === 'time') left = Math.min(left, exit.seconds - spent);
    return left;
  }

  /** Longest time between readings that still judges flatness fairly, s. */
  lookEveryS(state: EngineState): number {
    let seconds = Number.POSITIVE_INFINITY;
    for (const exit of this.stageOf(state).exits)
      if (exit.on === 'current-flat' || exit.on === 'density-flat')
        seconds = Math.min(seconds, exit.forS / LOOKS_WHILE_FLAT);
      else if (exit.on === 'full') seconds = Math.min(seconds, exit.forS / LOOKS_UNTIL_FULL);
    return seconds;
  }

  /** Takes a reading into account. */
  next(state: EngineState, reading: EngineReading): EngineState {
    if (state.ended !== undefined) return state;
    const stage = this.stageOf(state);
    const elapsedS = state.last ? reading.atS - state.last.atS : 0;
    if (state.isPaused) {
      const isCool = reading.tempC < this.ceilings.resumeC;
      const crossedAt = isCool ? crossing(state.last?.tempC, reading.tempC, this.ceilings.resumeC) : 1;
      const pausedS = state.pausedS + elapsedS;
      // What was flat before it went off proves nothing afterwards.
      return { ...state, last: reading, pausedS, isPaused: !isCool, crossedAt, ...UNPROVEN };
    }
    const isHeld = reading.volts >= this.heldVolts(stage, reading.tempC) - HELD_WITHIN_V * this.subject.cells;
    // Written out in full: it is made at every reading, and copying by spread would cost most of the engine's time.
    const seen: EngineState = {
      stage: state.stage,
      stageSinceS: state.stageSinceS,
      stageAh: state.stageAh + (reading.amps * elapsedS) / HOUR,
      isPaused: false,
      pausedS: state.pausedS,
      hotPauses: state.hotPauses,
      ended: undefined,
      because: state.because,
      last: reading,
      peakV: Math.max(state.peakV, reading.volts),
      totalAh: state.totalAh + (reading.amps * elapsedS) / HOUR,
      taperLow: isHeld ? this.lowOf(state, reading) : undefined,
      trail: trailAfter(state.trail, reading, this.secondsApart(stage)),
      flatCurrent: flatCurrentAfter(state, stage, reading),
      flatDensity: flatDensityAfter(state, stage, reading),
      crossedAt: 1,
    };
    if (reading.tempC > this.ceilings.pauseC) return this.pause(seen, state.last?.tempC, reading.tempC);
    if (state.taperLow && isHeld && isRunningAway(state.taperLow, reading, this.subject.capacityAh))
      return {
        ...seen,
        ended: 'runaway',
        because: 'The current rises again after its taper, at held voltage: thermal runaway.',
      };
    for (const exit of stage.exits) {
      const met = this.meets(exit, stage, state, seen, reading);
      if (met !== undefined) return this.leave(seen, exit, met, reading);
    }
    return seen;
  }

  private pause(seen: EngineState, beforeC: number | undefined, nowC: number): EngineState {
    const { pauseC, resumeC } = this.ceilings;
    const crossedAt = crossing(beforeC, nowC, pauseC);
    const hotPauses = seen.hotPauses + 1;
    if (hotPauses >= MOST_HOT_PAUSES)
      return {
        ...seen,
        crossedAt,
        hotPauses,
        ended: 'stop',
        because: `Above ${pauseC} °C for the third time: suspect a shorted cell.`,
      };
    const because = `Too hot: above ${pauseC} °C. Off until below ${resumeC} °C.`;
    return { ...seen, hotPauses, isPaused: true, because, crossedAt };
  }

  /** The lowest current of the taper so far, once it is one. */
  private lowOf(state: EngineState, { amps, tempC }: EngineReading): TaperLow | undefined {
    const { capacityAh, missingAh = 0 } = this.subject;
    if (!hasTapered(state.totalAh, missingAh, capacityAh)) return undefined;
    const { taperLow } = state;
    return taperLow === undefined || amps < taperLow.amps ? { amps, tempC } : taperLow;
  }

  private secondsApart(stage: Stage): number | undefined {
    for (const exit of stage.exits) if (exit.on === 'full') return exit.forS / LOOKS_WHILE_FLAT;
    return undefined;
  }

  /** What the one judge of full is asked about a stage. */
  fullQuestion(stage: Stage, windowS: number): FullQuestion {
    const { construction, cells, capacityAh } = this.subject;
    return {
      construction,
      cells,
      capacityAh,
      ceilingV: Math.min(stage.volts, this.ceilings.chargingV ?? Number.POSITIVE_INFINITY),
      isCompensated: stage.isCompensated,
      setA: Math.min(stage.amps, this.ceilings.amps),
      windowMin: windowS / 60,
    };
  }

  private isFull(stage: Stage, seen: EngineState, forS: number): boolean {
    const { missingAh = 0 } = this.subject;
    if (tookAlmostNothing(seen.totalAh, missingAh)) return false;
    return flatNow(along(seen.trail), this.fullQuestion(stage, forS)).isProven;
  }

  /** How far into the interval an exit was met, or undefined. */
  private meets(
    exit: Exit,
    stage: Stage,
    before: EngineState,
    seen: EngineState,
    reading: EngineReading,
  ): number | undefined {
    const { last } = before;
    switch (exit.on) {
      case 'voltage-above':
        return reading.volts >= exit.volts ? crossing(last?.volts, reading.volts, exit.volts) : undefined;
      case 'current-below': {
        const isHeld =
          reading.volts >= this.heldVolts(stage, reading.tempC) - HELD_WITHIN_V * this.subject.cells;
        return isHeld && reading.amps <= exit.amps
          ? crossing(last?.amps, reading.amps, exit.amps)
          : undefined;
      }
      case 'current-flat':
        return isFlat(seen.flatCurrent, reading.atS, exit.forS) ? 1 : undefined;
      case 'density-flat':
        return isFlat(seen.flatDensity, reading.atS, exit.forS) ? 1 : undefined;
      case 'full':
        return this.isFull(stage, seen, exit.forS) ? 1 : undefined;
      case 'voltage-drop':
        return reading.volts <= seen.peakV - exit.volts
          ? crossing(last?.volts, reading.volts, seen.peakV - exit.volts)
          : undefined;
      case 'time': {
        const spent = reading.atS - seen.stageSinceS - seen.pausedS;
        return spent >= exit.seconds - 1e-6 ? 1 : undefined;
      }
      case 'charge':
        return seen.stageAh >= exit.ah ? crossing(before.stageAh, seen.stageAh, exit.ah) : undefined;
      case 'temperature-above':
        return reading.tempC > exit.tempC ? crossing(last?.tempC, reading.tempC, exit.tempC) : undefined;
      case 'accepts':
        return reading.amps >= exit.amps * 0.98 && reading.volts <= exit.belowV ? 1 : undefined;
    }
  }

  private leave(
    seen: EngineState,
    exit: Stage['exits'][number],
    crossedAt: number,
    reading: EngineReading,
  ): EngineState {
    const because = describeExit(exit);
    if (exit.next === 'full' || exit.next === 'stop')
      return { ...seen, ended: exit.next, because, crossedAt };
    const stage = this.profile.stages.findIndex((each) => each.id === exit.next);
    const begun = {
      ...this.begin(reading.atS),
      hotPauses: seen.hotPauses,
      totalAh: seen.totalAh,
      trail: seen.trail,
      stage,
      because,
      last: reading,
      crossedAt,
    };
    const next = this.stageOf(begun);
    return {
      ...begun,
      flatCurrent: flatCurrentAfter(begun, next, reading),
      flatDensity: flatDensityAfter(begun, next, reading),
    };
  }
}

function crossing(before: number | undefined, now: number, level: number): number {
  if (before === undefined || now === before) return 1;
  return Math.min(1, Math.max(0, (level - before) / (now - before)));
}

/** The trail with one reading more: kept only so far apart, but the latest always. */
function trailAfter(
  trail: Trail | undefined,
  { atS, volts, amps, tempC, density }: EngineReading,
  apartS: number | undefined,
): Trail | undefined {
  if (apartS === undefined) return undefined;
  const reading: ChargeReading = {
    at: atS * 1000,
    voltageV: volts,
    currentA: amps,
    tempC,
    ...(density === undefined ? {} : { density }),
  };
  const isClose = trail?.before !== undefined && reading.at - trail.before.reading.at < apartS * 1000;
  return { reading, before: isClose ? trail.before : trail };
}

function* along(trail: Trail | undefined): Generator<ChargeReading> {
  for (let link = trail; link; link = link.before) yield link.reading;
}

function isFlat(anchor: Anchor | undefined, atS: number, forS: number): boolean {
  return anchor !== undefined && atS - anchor.sinceS >= forS - 1e-6;
}

function held(anchor: Anchor | undefined, value: number, atS: number, band: number): Anchor {
  return anchor && Math.abs(value - anchor.value) <= band ? anchor : { sinceS: atS, value };
}

function flatCurrentAfter(state: EngineState, stage: Stage, reading: EngineReading): Anchor | undefined {
  let anchor = state.flatCurrent;
  for (const exit of stage.exits)
    if (exit.on === 'current-flat') anchor = held(anchor, reading.amps, reading.atS, exit.bandA);
  return anchor;
}

function flatDensityAfter(state: EngineState, stage: Stage, reading: EngineReading): Anchor | undefined {
  let anchor = state.flatDensity;
  if (reading.density === undefined) return anchor;
  for (const exit of stage.exits)
    if (exit.on === 'density-flat') anchor = held(anchor, reading.density, reading.atS, exit.band);
  return anchor;
}

const hours = (seconds: number): string => `${Number((seconds / HOUR).toFixed(2))} h`;

/** An exit in words: "current below 0.4 A". */
export function describeExit(exit: Exit): string {
  switch (exit.on) {
    case 'voltage-above':
      return `${exit.volts.toFixed(2)} V reached`;
    case 'current-below':
      return `current below ${exit.amps.toFixed(2)} A`;
    case 'current-flat':
      return `current flat for ${hours(exit.forS)}`;
    case 'density-flat':
      return `density flat for ${hours(exit.forS)}`;
    case 'full':
      return `proven full over ${hours(exit.forS)}`;
    case 'voltage-drop':
      return `voltage fell by ${exit.volts.toFixed(2)} V from its peak`;
    case 'time':
      return `${hours(exit.seconds)} are over`;
    case 'charge':
      return `${exit.ah.toFixed(1)} Ah are in`;
    case 'temperature-above':
      return `above ${exit.tempC} °C`;
    case 'accepts':
      return `takes ${exit.amps.toFixed(2)} A below ${exit.belowV.toFixed(1)} V`;
  }
}
