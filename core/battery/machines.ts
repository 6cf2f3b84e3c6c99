/** A machine that batteries work in: one, or several as a set. */

/** Batteries a machine may carry; a lift of twenty-four is the largest a bench sees. */
export const MOST_CARRIED = 24;

export interface Machine {
  /** Its own, stuck on it: "M-0007". */
  readonly tag: string;
  /** What people call it: "Scissor lift 3". */
  readonly name: string;
  /** A customer, or "stock" where the shop sells or lends it. */
  readonly owner: string;
  /** How many batteries work together in it. */
  readonly carries: number;
  /** What it wants. */
  readonly typeId: string;
}

const DIGITS = 4;

/** Letters of the machines' own row of tags: never those of the shop's batteries. */
const lettersOf = (shopLetters: string): string => (shopLetters === 'M' ? 'MM' : 'M');

/** @param number 1 for the first @param shopLetters what tags of batteries begin with */
export const machineTagOf = (shopLetters: string, number: number): string =>
  `${lettersOf(shopLetters)}-${String(number).padStart(DIGITS, '0')}`;
