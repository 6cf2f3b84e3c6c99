/** The shop's one clock: real in a working shop, paced and jumped in a demo. */
import {
  jumpedTo,
  repaced,
  shopTimeAt,
  type Clock,
  type ClockFace,
  type Pace,
} from '@cork-ember/core/clock/clock.ts';
import type { ClockAnswer } from '@cork-ember/core/contract/answers.ts';
import { realNow } from './realTime.ts';

export class ShopClock implements Clock {
  readonly isPaced: boolean;
  private face: ClockFace;

  /** @param startMs shop time to begin at; without it the shop lives in real time and cannot be paced */
  constructor(startMs?: number, pace: Pace = 1) {
    this.isPaced = startMs !== undefined;
    const realMs = realNow();
    this.face = { realMs, shopMs: startMs ?? realMs, pace };
  }

  now(): number {
    return Math.floor(shopTimeAt(this.face, realNow()));
  }

  setPace(pace: Pace): void {
    this.face = repaced(this.face, realNow(), pace);
  }

  /** @throws RangeError when asked to go back */
  jumpTo(shopMs: number): void {
    this.face = jumpedTo(this.face, realNow(), shopMs);
  }

  answer(): ClockAnswer {
    return { shopMs: this.now(), pace: this.face.pace, isPaced: this.isPaced, saidAt: realNow() };
  }
}
