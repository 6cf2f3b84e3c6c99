import type { Outcome } from '@cork-ember/core/runsheet/step.ts';

/** How each ending is said and shown. */
export const OUTCOME_WORDS: Record<Outcome, { word: string; title: string; tone: string; paper: string }> = {
  certified: {
    word: 'certified',
    title: 'Certified, ready to hand over',
    tone: 'text-verdigris',
    paper: 'Certificate',
  },
  returned: { word: 'returned', title: 'Back to the supplier', tone: 'text-clay', paper: 'Return note' },
  rejected: { word: 'rejected', title: 'Rejected', tone: 'text-clay', paper: 'Rejection note' },
  withdrawn: { word: 'withdrawn', title: 'Withdrawn', tone: 'text-brass-ink', paper: 'Note' },
};
