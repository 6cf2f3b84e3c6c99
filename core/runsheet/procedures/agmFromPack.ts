/**
 * Commissioning a dry-charged AGM battery from its own acid pack: handbook 2.1, 2.3, 2.5 and 10, step by
 * step. This file is data: it says what is asked, in which order and where a "no" leads.
 */
import { checkedIn } from './agm/checkIn.ts';
import { filling } from './agm/fill.ts';
import { charging } from './agm/charge.ts';
import { testing } from './agm/test.ts';
import { handingOver } from './agm/handOver.ts';
import type { Procedure } from '../step.ts';

export const AGM_FROM_PACK: Procedure = {
  id: 'agm-from-pack',
  title: 'AGM from its own pack',
  steps: [...checkedIn, ...filling, ...charging, ...testing, ...handingOver],
  loop: { from: 'charge', to: 'verdict', repeats: 2 },
};
