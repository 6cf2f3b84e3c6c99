/**
 * The shop's one clock: real in a working shop, paced and jumped in a demo. In a working shop it goes on by the time that
 * has passed and takes the machine's clock over while the two agree; when that is set otherwise (a wrong battery clock, a
 * machine that slept) it says so and goes on by its own, until somebody says which is right. A wait is never ended by a
 * clock that jumped.
 */
import {
  jumpedTo,
  repaced,
  shopTimeAt,
  type Clock,
  type ClockFace,
  type Pace,
} from '@cork-ember/core/clock/clock.ts';
import type { ClockAnswer } from '@cork-ember/core/contract/answers.ts';
import { elapsedNow, realNow } from './realTime.ts';

/** What the machine tells of time. */
export interface Machine {
  /** Its clock, which can be set, ms. */
  readonly wall: () => number;
  /** Time that has passed, which cannot, ms. */
  readonly elapsed: () => number;
}

const THIS_MACHINE: Machine = { wall: realNow, elapsed: elapsedNow };

/** Apart no further than this, the machine's clock is followed: a network sets it by so much and no more, ms. */
export const FOLLOWED_MS = 60_000;

export class ShopClock implements Clock {
  readonly isPaced: boolean;
  private readonly machine: Machine;
  private face: ClockFace;

  /** @param startMs shop time to begin at; without it the shop lives in real time and cannot be paced */
  constructor(startMs?: number, pace: Pace = 1, machine: Machine = THIS_MACHINE) {
    this.isPaced = startMs !== undefined;
    this.machine = machine;
    this.face = { realMs: machine.elapsed(), shopMs: startMs ?? machine.wall(), pace };
  }

  now(): number {
    const elapsed = this.machine.elapsed();
    const own = shopTimeAt(this.face, elapsed);
    if (this.isPaced) return Math.floor(own);
    const wall = this.machine.wall();
    // Never back: a clock a little behind is waited for.
    if (wall > own && wall - own <= FOLLOWED_MS) this.face = { ...this.face, realMs: elapsed, shopMs: wall };
    return Math.floor(shopTimeAt(this.face, elapsed));
  }

  /** How far the machine's clock is ahead of the shop's, ms; none while they agree. */
  apart(): number | undefined {
    if (this.isPaced) return undefined;
    const ahead = this.machine.wall() - this.now();
    return Math.abs(ahead) > FOLLOWED_MS ? Math.round(ahead) : undefined;
  }

  /**
   * Takes the machine's clock over, because somebody says that it is right.
   * @param notBefore latest moment of the record, ms
   * @throws RangeError where it lies before that
   */
  follow(notBefore: number): void {
    const wall = this.machine.wall();
    if (wall < notBefore)
      throw new RangeError(
        'The machine’s clock lies before what was recorded last: set the machine right first.',
      );
    this.face = { ...this.face, realMs: this.machine.elapsed(), shopMs: wall };
  }

  setPace(pace: Pace): void {
    this.face = repaced(this.face, this.machine.elapsed(), pace);
  }

  /** Moves on to a moment; one that has passed while it was being asked for changes nothing. */
  jumpTo(shopMs: number): void {
    const elapsed = this.machine.elapsed();
    if (shopMs >= shopTimeAt(this.face, elapsed)) this.face = jumpedTo(this.face, elapsed, shopMs);
  }

  answer(): ClockAnswer {
    const machineAheadMs = this.apart();
    return {
      shopMs: this.now(),
      pace: this.face.pace,
      isPaced: this.isPaced,
      saidAt: this.machine.elapsed(),
      ...(machineAheadMs === undefined ? {} : { machineAheadMs }),
    };
  }
}
