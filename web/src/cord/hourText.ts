/** Times along a cord as the shop writes them, and the room they take. */
import { axisText } from '@cork-ember/core/clock/clockText.ts';
import { inShop, shopRegion } from '../region/shopRegion.ts';

/** "14:00", or "2 pm": a whole hour needs no minutes where the half of the day stands beside it. */
export const hourText = (at: number, timeZone: string): string =>
  inShop(axisText(at, timeZone)).replace(/:00(?=\u00a0[ap]m)/, '');

/** Px that "14:06" or "2:06 pm" takes along a cord. */
export const clockWidth = (): number => (shopRegion().clock === '12 h' ? 58 : 38);
