/**
 * Commissioning a dry-charged flooded battery, filled by hand: handbook 2.1, 2.2, 2.5 and 10, step by step.
 */
import { densityField } from '../definition/fields.ts';
import type { Procedure } from '../definition/step.ts';
import { charging } from './flooded/charge.ts';
import { filling } from './flooded/fill.ts';
import { backToSupplier } from './shared/backToSupplier.ts';
import { ACID_SAFETY, checkedIn } from './shared/checkIn.ts';
import { handingOver } from './shared/handOver.ts';
import { testing } from './shared/test.ts';

export const FLOODED_BY_HAND: Procedure = {
  id: 'flooded-by-hand',
  title: 'Flooded, filled by hand',
  steps: [
    ...checkedIn({
      alsoPrinted: [{ ...densityField('fillDensity', 'Electrolyte density on the sheet'), optional: true }],
      shows: ['chargeCurrentA', 'ceilingV', 'fillDensity', 'floodedSoakMin'],
      safetyDetail: 'Everything below is in place before a bottle is opened.',
      safetyClaims: ACID_SAFETY,
      safetyCautions: ['acid', 'acidSwallowed'],
      inspectTitle: 'Inspect case, posts and plug',
      inspectDetail:
        'Turn it in good light. A missing plug has let moisture and air at the plates. UPPER and LOWER lines can be read.',
      seals: ['Sealing plug on the vent spout', 'UPPER and LOWER lines can be read'],
      sealDenials: [
        backToSupplier(
          'plug-missing',
          'The plug is missing',
          'Plug missing: do not commission. Back to the supplier with the return note.',
        ),
      ],
    }),
    ...filling,
    ...charging,
    ...testing,
    ...handingOver(true),
  ],
  loop: { from: ['caps-loose-again', 'charge'], to: 'verdict', repeats: 2 },
};
