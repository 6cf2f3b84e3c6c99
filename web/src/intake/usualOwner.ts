import type { Whose } from '@cork-ember/core/advice/worth.ts';

/** Whose it is where nobody said: what is meant for stock is to be sold. */
export const usualOwner = (owner = ''): Whose => (/^stock$/i.test(owner.trim()) ? 'stock' : 'customer');
