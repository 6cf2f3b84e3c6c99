import type { Outcome } from '@cork-ember/core/runsheet/definition/step.ts';

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
  recovered: {
    word: 'recovered',
    title: 'Recovered, as used',
    tone: 'text-verdigris',
    paper: 'Recovery certificate',
  },
  retired: { word: 'retired', title: 'To the recycler', tone: 'text-clay', paper: 'Disposal record' },
  charged: {
    word: 'charged',
    title: 'Charged and proven full',
    tone: 'text-verdigris',
    paper: 'Charge record',
  },
  withdrawn: { word: 'withdrawn', title: 'Withdrawn', tone: 'text-brass-ink', paper: 'Note' },
};
