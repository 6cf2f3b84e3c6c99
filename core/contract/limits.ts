/** How much may cross the wire at once; whoever counts beforehand needs no schema for it. */

/** Batteries of one delivery, at most. */
export const MOST_DELIVERED = 30;
