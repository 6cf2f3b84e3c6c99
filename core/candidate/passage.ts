/** What was done to a battery between two readings. */

export interface Passage {
  /** Into the battery; below 0 drawn, 0 rests, A. */
  readonly amps: number;
  /** Ceiling of a charge, V. */
  readonly volts: number;
  readonly minutes: number;
  /** Distilled water put in before it, cell by cell from the positive post, mL. */
  readonly waterMl?: readonly number[];
}

/** Whether it changes the battery: charged, drawn or given water, not only rested. */
export const isChange = ({ amps, waterMl }: Passage): boolean => amps !== 0 || waterMl !== undefined;
