/** One bay as it is wired: a supply, a contact that can part it, clips, and a battery of the model that lives through the clock's time. */
import type { Clock } from '../../clock/clock.ts';
import type { CellString } from '../../model/cellString.ts';
import { postVolts } from '../../model/discharge.ts';
import { OPEN, type Source } from '../../model/source.ts';
import { CASE_C, get } from '../../model/state.ts';
import { Stepper } from '../../model/stepper.ts';
import type { Clips } from './failings.ts';

/** A supply's regulator acts this often, s. */
const REGULATES_S = 5;
const LEAST_S = 1e-3;

/** What a supply would give. */
export interface Drive {
  readonly amps: number;
  readonly volts: number;
}

export class Circuit {
  private readonly clock: Clock;
  private cells: CellString;
  private stepper: Stepper;
  private lastMs: number;
  private driven: Drive | undefined;
  /** Taken by a load, A. */
  private drawnA = 0;
  private isParted = false;
  private clipped: Clips = 'on';

  constructor(cells: CellString, clock: Clock) {
    this.cells = cells;
    this.clock = clock;
    this.lastMs = clock.now();
    this.stepper = new Stepper(cells);
    this.stepper.step(OPEN, LEAST_S);
  }

  /** Another battery stands there now. */
  stand(cells: CellString): void {
    this.catchUp();
    this.cells = cells;
    this.stepper = new Stepper(cells);
    this.stepper.step(OPEN, LEAST_S);
  }

  /** @param drive none where the supply is off */
  drive(drive: Drive | undefined): void {
    this.change(() => (this.driven = drive));
  }

  /** @param amps 0 where the load is off */
  draw(amps: number): void {
    this.change(() => (this.drawnA = amps));
  }

  /** Whether the contact lets current through. */
  part(isParted: boolean): void {
    this.change(() => (this.isParted = isParted));
  }

  get clips(): Clips {
    return this.clipped;
  }

  clip(clips: Clips): void {
    this.change(() => (this.clipped = clips));
  }

  /** Into the battery, A. */
  get batteryA(): number {
    this.catchUp();
    return this.cells.currentA;
  }

  /** Out of the supply, A: clips that touch take what it gives. */
  get supplyA(): number {
    if (this.clipped === 'touching' && !this.isParted) return this.driven?.amps ?? 0;
    return this.batteryA;
  }

  /** Between the battery's posts, V. */
  get postV(): number {
    this.catchUp();
    return postVolts(this.cells);
  }

  /** Into a load, A. */
  get loadA(): number {
    return Math.max(0, -this.batteryA);
  }

  /** What a supply finds at its own terminals, V. */
  get supplyV(): number {
    const alone = this.driven?.volts ?? 0;
    if (this.isParted || this.clipped === 'off') return alone;
    if (this.clipped === 'touching') return 0;
    return this.clipped === 'reversed' ? -this.postV : this.postV;
  }

  get caseC(): number {
    this.catchUp();
    return get(this.cells.state.shared, CASE_C);
  }

  private change(how: () => void): void {
    this.catchUp();
    how();
    this.regulate(LEAST_S);
  }

  /** Lives through the time that has passed on the clock. */
  private catchUp(): void {
    const nowMs = this.clock.now();
    let left = (nowMs - this.lastMs) / 1000;
    this.lastMs = nowMs;
    while (left > LEAST_S) {
      const seconds = Math.min(REGULATES_S, left);
      this.regulate(seconds);
      left -= seconds;
    }
  }

  /** One turn of the regulator: the current asked for, or less where that would pass the voltage. */
  private regulate(seconds: number): void {
    const { driven, drawnA } = this;
    const isWhole = !this.isParted && this.clipped === 'on';
    if (drawnA > 0 && isWhole) return this.hold({ hold: 'current', amps: -drawnA }, seconds);
    if (!driven || driven.amps <= 0 || !isWhole) return this.hold(OPEN, seconds);
    this.hold({ hold: 'current', amps: driven.amps }, seconds);
    if (postVolts(this.cells) <= driven.volts) return;
    this.stepper.undo();
    this.hold({ hold: 'voltage', voltsAt: () => driven.volts }, seconds);
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
