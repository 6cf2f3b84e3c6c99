/** Where a battery is read at rest after something was done to it. */

/** Steps whose voltage is a rested one, within a round the latest first. */
export const READ_RESTED: readonly string[] = [
  'hold-read',
  'hold-ocv',
  'prove-ocv',
  'donor-read-late',
  'supply-read-late',
  'forced-read-late',
  'pulse-read',
  'cycle-read',
  'after-charge',
];
