/**
 * Commissioning a dry-charged AGM battery from its own acid pack: handbook 2.1, 2.3, 2.5 and 10, step by
 * step. This file is data: it says what is asked, in which order and where a "no" leads.
 */
import { backToSupplier } from './shared/backToSupplier.ts';
import { ACID_SAFETY, checkedIn } from './shared/checkIn.ts';
import { filling } from './agm/fill.ts';
import { charging } from './agm/charge.ts';
import { testing } from './shared/test.ts';
import { handingOver } from './shared/handOver.ts';
import type { Procedure } from '../definition/step.ts';

export const AGM_FROM_PACK: Procedure = {
  id: 'agm-from-pack',
  title: 'AGM from its own pack',
  steps: [
    ...checkedIn({
      shows: ['chargeCurrentA', 'ceilingV', 'packDwellMin', 'soakMin'],
      safetyDetail: 'Everything below is in place before a pack is touched.',
      safetyClaims: ACID_SAFETY,
      safetyCautions: ['acid', 'acidSwallowed'],
      inspectTitle: 'Inspect case, posts and foil',
      inspectDetail: 'Turn it in good light. Plates behind a broken foil have taken up moisture and air.',
      seals: ['Foil whole over every port'],
      sealDenials: [
        backToSupplier(
          'foil-broken',
          'The foil is broken',
          'Foil broken: do not commission. Back to the supplier with the return note.',
        ),
      ],
    }),
    ...filling,
    ...charging,
    ...testing,
    ...handingOver(false),
  ],
  loop: { from: ['charge'], to: 'verdict', repeats: 2 },
};
