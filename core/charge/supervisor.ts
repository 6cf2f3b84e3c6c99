/** Runs a plan on a live supply: reads, asks the engine, commands. The same engine that charges the model. */
import type { ChargeEngine, Command, EngineReading, EngineState } from './engine.ts';

/** What the supervisor needs of a supply, its probe included; a real one answers over its cable. */
export interface Supply {
  /** What terminals and probe show now; its seconds may begin anywhere but only grow. */
  read(): Promise<EngineReading>;
  /**
   * Takes effect at once.
   * @param forS the supply switches itself off unless told again within this time
   */
  set(command: Command, forS: number): Promise<void>;
}

/** A supply that cannot be read or told; the message is for the technician. */
export class SupplyError extends Error {
  constructor(message: string, options?: ErrorOptions) {
    super(message, options);
    this.name = 'SupplyError';
  }
}

const OFF: Command = { isOn: false, amps: 0, volts: 0 };
/** A command outlives this many looks; then the supply is on its own and goes off. */
const LOOKS_COVERED = 3;
/** A supply may overshoot by this share before it counts as not obeying (practice: regulation and meter). */
const OBEYS_WITHIN = 0.05;
/** And a small current by this much, A. */
const OBEYS_WITHIN_A = 0.05;

/** Beyond its setting a supply's voltage may show this much, V a cell (regulation, leads and meter). */
const OVER_CELL_V = 0.05;
/** Longer than so many looks without one, and nobody knows what it did meanwhile. */
const MOST_GAP_LOOKS = 5;
/** A probe that shows less or more is not on a battery, °C. */
const PROBE_FROM_C = -30;
const PROBE_TO_C = 80;
/** No battery warms or cools faster, K/min (practice: a dead short at C/2 warms by half a kelvin). */
const FASTEST_K_PER_MIN = 5;
const PROBE_NOISE_K = 2;

export class Supervisor {
  private readonly engine: ChargeEngine;
  private readonly supply: Supply;
  private readonly everyS: number;
  private command: Command = OFF;
  private known: EngineState | undefined;

  /** @param everyS how often {@link look} will be called, s */
  constructor(engine: ChargeEngine, supply: Supply, everyS: number) {
    this.engine = engine;
    this.supply = supply;
    this.everyS = everyS;
  }

  /** Where the plan stands; undefined before the first look. */
  get state(): EngineState | undefined {
    return this.known;
  }

  /**
   * One look: a reading in, a command out. Whatever goes wrong, the supply is told to switch off.
   * @throws SupplyError when the supply does not answer, shows nonsense or gives more than it was told
   */
  async look(): Promise<EngineState> {
    try {
      const reading = await this.supply.read();
      this.mustBeSane(reading);
      this.mustFollow(reading, this.known?.last);
      const before = this.known ?? this.engine.begin(reading.atS);
      this.known = this.engine.next(before, reading);
      this.command = this.engine.command(this.known);
      await this.supply.set(this.command, this.everyS * LOOKS_COVERED);
      return this.known;
    } catch (error) {
      await this.stop();
      if (error instanceof SupplyError) throw error;
      throw new SupplyError('The supply does not answer: charger off at the mains by hand.', {
        cause: error,
      });
    }
  }

  /** Off, now. A supply that does not hear it goes off by itself when its last command runs out. */
  async stop(): Promise<void> {
    this.command = OFF;
    await this.supply.set(OFF, 0).catch(() => undefined);
  }

  /** Time goes on, looks come when they should, and warmth moves as warmth does. */
  private mustFollow({ atS, tempC }: EngineReading, before: EngineReading | undefined): void {
    if (!before) return;
    const seconds = atS - before.atS;
    if (!(seconds > 0))
      throw new SupplyError(
        'The clock of the supply stands still: its readings are not of now; switched off.',
      );
    if (seconds > this.everyS * MOST_GAP_LOOKS)
      throw new SupplyError(
        `No reading for ${Math.round(seconds / 60)} min: what the supply did meanwhile is not known; switched off.`,
      );
    const jumpK = Math.abs(tempC - before.tempC);
    if (jumpK > PROBE_NOISE_K + (FASTEST_K_PER_MIN * seconds) / 60)
      throw new SupplyError(
        `The probe went from ${before.tempC.toFixed(0)} to ${tempC.toFixed(0)} °C within ${Math.round(seconds)} s: it has come off; switched off.`,
      );
  }

  private mustBeSane({ volts, amps, tempC }: EngineReading): void {
    if (![volts, amps, tempC].every(Number.isFinite))
      throw new SupplyError('The supply shows no number for volts, amperes or warmth: switched off.');
    if (tempC < PROBE_FROM_C || tempC > PROBE_TO_C)
      throw new SupplyError(`The probe shows ${tempC.toFixed(0)} °C: it is not on a battery; switched off.`);
    const { isOn, amps: asked, volts: askedV } = this.command;
    const mostV = askedV + OVER_CELL_V * this.engine.cells;
    if (isOn && amps > OBEYS_WITHIN_A && volts > mostV)
      throw new SupplyError(
        `The supply shows ${volts.toFixed(2)} V where ${askedV.toFixed(2)} V were asked: switched off.`,
      );
    const mostA = (isOn ? asked * (1 + OBEYS_WITHIN) : 0) + OBEYS_WITHIN_A;
    if (amps > mostA)
      throw new SupplyError(
        `The supply gives ${amps.toFixed(2)} A where ${isOn ? asked.toFixed(2) : '0'} A were asked: switched off.`,
      );
  }
}
