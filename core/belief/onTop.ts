/** What a battery has on top of what it suffers from most: "worn out, and sulfated on top". */
import { CAUSE_IDS, isSulfated, type CauseId } from '../candidate/causes.ts';
import type { Sample } from './sample.ts';
import type { Traits } from '../candidate/traits.ts';

export const ON_TOP = {
  sulfated: 'sulfated',
  worn: 'worn',
  dry: 'dry',
  layered: 'its acid layered',
  'low-cell': 'one cell behind the others',
  'second-cell': 'a second bad cell',
} as const;
export type OnTopId = keyof typeof ON_TOP;
export const ON_TOP_IDS = Object.keys(ON_TOP) as OnTopId[];

/** From here on each is an illness and not only what any battery has (handbook 3.2 and 4; a fifth of capacity or of water's reserve). */
const FROM = { hardShare: 0.15, worn: 0.2, dryShare: 0.08, layering: 0.05, low: 0.05 } as const;

/** What a candidate has beside its cause. */
export function onTopOf({ cause, hardShare, left, dryShare, layering, low, second }: Traits): OnTopId[] {
  const has: Readonly<Record<OnTopId, boolean>> = {
    sulfated: !isSulfated(cause) && hardShare > FROM.hardShare,
    worn: cause !== 'worn' && 1 - left > FROM.worn,
    dry: cause !== 'dry' && dryShare > FROM.dryShare,
    layered: cause !== 'layered' && layering > FROM.layering,
    'low-cell': cause !== 'weak-cell' && low > FROM.low,
    'second-cell': second !== undefined,
  };
  return ON_TOP_IDS.filter((id) => has[id]);
}

/** How likely each is beside each cause: both together, 0–1. */
export type Together = Readonly<Record<CauseId, Readonly<Record<OnTopId, number>>>>;

export function togetherOf(sample: Sample): Together {
  const weights = sample.weights();
  const none = (): Record<OnTopId, number> =>
    Object.fromEntries(ON_TOP_IDS.map((id) => [id, 0])) as Record<OnTopId, number>;
  const together = Object.fromEntries(CAUSE_IDS.map((cause) => [cause, none()])) as Record<
    CauseId,
    Record<OnTopId, number>
  >;
  sample.candidates.forEach(({ traits }, index) => {
    for (const id of onTopOf(traits)) together[traits.cause][id] += weights[index] as number;
  });
  return together;
}
