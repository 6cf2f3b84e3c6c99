/** What goes into a filled battery: distilled water, and nothing else (handbook 2 and 3.2). */
import type { Hold } from '../../definition/step.ts';

/**
 * Acid or tap water that was put in, each held until it is drawn off or a reason stands on the record.
 * @param added what is said to have gone in
 * @param ofAcid what acid does to this battery, in a sentence
 */
export function notWater(added: unknown, ofAcid: string): Hold | undefined {
  if (added === 'acid') return { why: ofAcid, canOverride: true };
  return added === 'tap'
    ? {
        why: 'Tap water carries iron and chlorine that discharge the plates for good. Draw it off and use distilled water; or record why it stays.',
        canOverride: true,
      }
    : undefined;
}
