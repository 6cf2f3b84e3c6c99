/** The colour of a word that says how a battery stands: all is well, it wants care, hands stop for it. */
export const TONES = { calm: 'text-verdigris', care: 'text-brass-ink', stop: 'text-clay' } as const;
