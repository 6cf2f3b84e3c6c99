/** A simulated supply on a battery of the model: holds current and voltage as told, in the time of a clock. */
import type { Command, EngineReading } from './engine.ts';
import type { Supply } from './supervisor.ts';
import type { Clock } from '../clock/clock.ts';
import type { CellString } from '../model/cellString.ts';
import { postVolts } from '../model/discharge.ts';
import { stringDensity } from '../model/show.ts';
import { OPEN, type Source } from '../model/source.ts';
import { CASE_C, get } from '../model/state.ts';
import { Stepper } from '../model/stepper.ts';

/** Its regulator acts this often, s. */
const REGULATES_S = 5;
const LEAST_S = 1e-3;

export class ModelSupply implements Supply {
  private readonly cells: CellString;
  private readonly clock: Clock;
  private readonly stepper: Stepper;
  private readonly openedAt: number;
  private atS = 0;
  private command: Command = { isOn: false, amps: 0, volts: 0 };
  private offAtS = 0;

  constructor(cells: CellString, clock: Clock) {
    this.cells = cells;
    this.clock = clock;
    this.openedAt = clock.now();
    this.stepper = new Stepper(cells);
    this.stepper.step(OPEN, LEAST_S);
  }

  read(): Promise<EngineReading> {
    this.catchUp();
    const { cells } = this;
    const reading = {
      atS: this.atS,
      volts: postVolts(cells),
      amps: cells.currentA,
      tempC: get(cells.state.shared, CASE_C),
    };
    return Promise.resolve(
      cells.parameters.construction === 'flooded' ? { ...reading, density: stringDensity(cells) } : reading,
    );
  }

  set(command: Command, forS: number): Promise<void> {
    this.catchUp();
    this.command = command;
    this.offAtS = this.atS + forS;
    this.regulate(LEAST_S);
    return Promise.resolve();
  }

  /** Lives through the time that has passed on the clock. */
  private catchUp(): void {
    const nowS = (this.clock.now() - this.openedAt) / 1000;
    while (this.atS < nowS - LEAST_S) {
      const edgeS = this.atS < this.offAtS ? Math.min(nowS, this.offAtS) : nowS;
      const seconds = Math.min(REGULATES_S, edgeS - this.atS);
      this.regulate(seconds);
      this.atS += seconds;
    }
  }

  /** One turn of the regulator: the current asked for, or less where that would pass the voltage. */
  private regulate(seconds: number): void {
    const { command } = this;
    if (!command.isOn || this.atS >= this.offAtS) return this.hold(OPEN, seconds);
    this.hold({ hold: 'current', amps: command.amps }, seconds);
    if (postVolts(this.cells) <= command.volts) return;
    this.stepper.undo();
    this.hold({ hold: 'voltage', voltsAt: () => command.volts }, seconds);
    if (this.cells.currentA >= 0) return;
    this.stepper.undo();
    this.hold(OPEN, seconds);
  }

  private hold(source: Source, seconds: number): void {
    this.stepper.forget();
    if (this.stepper.step(source, seconds)) return;
    // A current the string cannot take in one turn: nothing flows until the next.
    this.stepper.step(OPEN, seconds);
  }
}
