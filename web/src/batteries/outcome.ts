import type { Outcome } from '@cork-ember/core/runsheet/step.ts';

/** How each ending is said and shown. */
export const OUTCOME_WORDS: Record<Outcome, { word: string; tone: string; paper: string }> = {
  certified: { word: 'certified', tone: 'text-verdigris', paper: 'Certificate' },
  returned: { word: 'returned', tone: 'text-clay', paper: 'Return note' },
  rejected: { word: 'rejected', tone: 'text-clay', paper: 'Rejection note' },
  withdrawn: { word: 'withdrawn', tone: 'text-brass-ink', paper: 'Note' },
};
