/** A battery's resistance by a step of an electronic load: a small current until it has settled, then a larger one for a second. What the bench runs on a load. */
import type { Command, EngineReading } from '../../charge/engine.ts';
import { MOST_REST_CELL_V, type BayRun } from './run.ts';

export interface StepPlan {
  /** The small current, and the large one, A. */
  readonly firstA: number;
  readonly secondA: number;
  readonly cells: number;
}

export interface StepState extends BayRun {
  readonly beganS: number;
  readonly lastS: number;
  /** How it stood under the small current once that was over; undefined before. */
  readonly first: { readonly atS: number; readonly volts: number; readonly amps: number } | undefined;
  readonly ended: 'measured' | 'low' | 'unsteady' | undefined;
  /** Between the posts, Ω. */
  readonly ohms?: number;
}

/** So long the small current flows, and so long the large one at least, s. @see IEC 61960-3:2017, 7.7.3, measurement of the d.c. resistance */
const FIRST_S = 10;
const SECOND_S = 1;
/** The load has so long to come to the large current, s. */
const LATEST_S = 4;
/** A load draws what it is told this exactly. */
const DRAWS_WITHIN = 0.05;
/** Under the large current it never has to stand lower, V a cell (as a load test's floor, handbook 3.2); lower it is let go. */
const LEAST_CELL_V = 1.6;
const HOUR_S = 3600;

export class StepEngine {
  readonly plan: StepPlan;

  constructor(plan: StepPlan) {
    this.plan = plan;
  }

  /** Where a load is to let go by itself, V. */
  static endV({ cells }: StepPlan): number {
    return LEAST_CELL_V * cells;
  }

  get cells(): number {
    return this.plan.cells;
  }

  get ceilings(): { readonly volts: number; readonly amps: number } {
    return { volts: MOST_REST_CELL_V * this.plan.cells, amps: this.plan.secondA };
  }

  begin(atS = 0): StepState {
    return { beganS: atS, lastS: atS, first: undefined, totalAh: 0, ended: undefined, because: '' };
  }

  stageOf(): { readonly name: string } {
    const { firstA, secondA } = this.plan;
    return { name: `resistance, by a step from ${firstA.toFixed(2)} to ${secondA.toFixed(2)} A` };
  }

  command({ first, ended }: StepState): Command {
    const { firstA, secondA } = this.plan;
    return ended === undefined
      ? { isOn: true, amps: first ? secondA : firstA, volts: this.ceilings.volts }
      : { isOn: false, amps: 0, volts: 0 };
  }

  pulseA(state: StepState): { readonly amps: number } {
    return { amps: this.command(state).amps };
  }

  next(state: StepState, { atS, volts, amps }: EngineReading): StepState {
    if (state.ended !== undefined) return state;
    const { first, beganS, lastS } = state;
    const totalAh = state.totalAh + (amps * (atS - lastS)) / HOUR_S;
    const now: StepState = { ...state, lastS: atS, totalAh };
    if (volts < StepEngine.endV(this.plan))
      return {
        ...now,
        ended: 'low',
        because: `${volts.toFixed(2)} V under ${amps.toFixed(2)} A: it falls too far for a step.`,
      };
    if (!first) return atS - beganS < FIRST_S ? now : { ...now, first: { atS, volts, amps } };
    return this.afterStep(now, first, { atS, volts, amps });
  }

  /** Ohm's law over the step. @see IEC 61960-3:2017, 7.7.3: R = (U₁ − U₂) ⁄ (I₂ − I₁) */
  private afterStep(
    now: StepState,
    first: NonNullable<StepState['first']>,
    { atS, volts, amps }: Omit<EngineReading, 'tempC'>,
  ): StepState {
    const { secondA } = this.plan;
    const seconds = atS - first.atS;
    const isThere = Math.abs(amps - secondA) <= secondA * DRAWS_WITHIN;
    const fallV = first.volts - volts;
    if (isThere && seconds >= SECOND_S && fallV > 0) {
      const ohms = fallV / (amps - first.amps);
      return {
        ...now,
        ended: 'measured',
        ohms,
        because: `${(ohms * 1000).toFixed(1)} mΩ between its posts.`,
      };
    }
    return seconds < LATEST_S
      ? now
      : {
          ...now,
          ended: 'unsteady',
          because: `The load drew ${amps.toFixed(2)} of ${secondA.toFixed(2)} A: no step came of it.`,
        };
  }
}
