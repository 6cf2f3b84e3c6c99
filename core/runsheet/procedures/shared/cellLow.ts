import type { Denial } from '../../definition/step.ts';

/** A low cell before any charge ends the job. */
export const CELL_LOW: Denial = {
  id: 'dead-cell',
  label: 'Reject: a cell is low',
  say: 'A cell stayed low after the soak: rejected before charge.',
  leads: 'end',
  outcome: 'rejected',
};
