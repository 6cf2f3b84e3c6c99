import type { Denial } from '../../definition/step.ts';

/** A no that ends the job with a note to the supplier. */
export const backToSupplier = (id: string, label: string, say: string): Denial => ({
  id,
  label,
  say,
  leads: 'end',
  outcome: 'returned',
});
