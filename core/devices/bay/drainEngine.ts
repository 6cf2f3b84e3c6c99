/** A battery drawn down at a steady current to its end: a capacity test, or a cycle. What the bench runs on an electronic load. */
import type { Command, EngineReading } from '../../charge/engine.ts';
import { MOST_REST_CELL_V, type BayRun } from './run.ts';

export interface DrainPlan {
  readonly amps: number;
  /** Where it ends, at the posts, V. */
  readonly endV: number;
  /** It is over by then, whatever the voltage, s: a battery that gives more than any such can is not the one on the label. */
  readonly mostS: number;
  readonly cells: number;
}

export interface DrainState extends BayRun {
  readonly lastS: number;
  readonly lastV: number | undefined;
  readonly ended: 'low' | 'time' | undefined;
}

/** Not below, V a cell: nothing is clipped there, or a cell is reversed. */
const NOTHING_CELL_V = 1;
const HOUR_S = 3600;

export class DrainEngine {
  readonly plan: DrainPlan;

  constructor(plan: DrainPlan) {
    this.plan = plan;
  }

  get cells(): number {
    return this.plan.cells;
  }

  get ceilings(): { readonly volts: number; readonly amps: number } {
    return { volts: MOST_REST_CELL_V * this.plan.cells, amps: this.plan.amps };
  }

  begin(atS = 0): DrainState {
    return { lastS: atS, lastV: undefined, totalAh: 0, ended: undefined, because: '' };
  }

  stageOf(): { readonly name: string } {
    const { amps, endV } = this.plan;
    return { name: `${amps.toFixed(2)} A down to ${endV.toFixed(2)} V` };
  }

  command(state: DrainState): Command {
    return state.ended === undefined
      ? { isOn: true, amps: this.plan.amps, volts: this.ceilings.volts }
      : { isOn: false, amps: 0, volts: 0 };
  }

  pulseA(): { readonly amps: number } {
    return { amps: this.plan.amps };
  }

  /** Ah by what the load shows. */
  next(state: DrainState, { atS, volts, amps }: EngineReading): DrainState {
    if (state.ended !== undefined) return state;
    const { endV, mostS, cells } = this.plan;
    const totalAh = state.totalAh + (state.lastV === undefined ? 0 : (amps * (atS - state.lastS)) / HOUR_S);
    const now: DrainState = { ...state, lastS: atS, lastV: volts, totalAh };
    const minutes = (totalAh / this.plan.amps) * 60;
    if (volts <= endV && volts > NOTHING_CELL_V * cells)
      return {
        ...now,
        ended: 'low',
        because: `${volts.toFixed(2)} V after ${minutes.toFixed(0)} min: it gave ${totalAh.toFixed(2)} Ah.`,
      };
    return minutes * 60 >= mostS
      ? { ...now, ended: 'time', because: `Still ${volts.toFixed(2)} V after ${minutes.toFixed(0)} min.` }
      : now;
  }
}
