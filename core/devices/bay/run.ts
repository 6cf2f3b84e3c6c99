/** What a bay is run by, look by look: the engine that charges, the one that draws down, or the one that steps. */
import type { Command, EngineReading } from '../../charge/engine.ts';

/** At rest no cell stands higher, V (handbook 3.2; off charge for a minute): a load never sees more, and in a battery of twice the cells none stands lower. */
export const MOST_REST_CELL_V = 2.35;

export interface BayRun {
  /** Why it is over; undefined while it is not. */
  readonly ended: string | undefined;
  /** That in words. */
  readonly because: string;
  /** Put in, or drawn, Ah. */
  readonly totalAh: number;
  /** What a step of current showed between the posts, Ω. */
  readonly ohms?: number;
}

export interface BayEngine<S extends BayRun> {
  readonly cells: number;
  /** Never passed at the posts, V and A. */
  readonly ceilings: { readonly volts: number; readonly amps: number };
  begin(atS?: number): S;
  stageOf(state: S): { readonly name: string };
  command(state: S): Command;
  /** Current at a moment of a plan that pulses, A. */
  pulseA(state: S, atS: number): { readonly amps: number };
  next(state: S, reading: EngineReading): S;
}
