/** Symbols a battery's label carries, explained once (handbook 8). */
export const LABEL_SYMBOLS = [
  { id: 'read', means: 'Read the instructions that came with it before anything else.' },
  { id: 'goggles', means: 'Wear goggles: acid and splinters go for the eyes.' },
  { id: 'children', means: 'Keep children away from acid and batteries.' },
  { id: 'corrosive', means: 'Corrosive: the acid burns skin, eyes and cloth.' },
  { id: 'flame', means: 'No flame, no spark, no smoking.' },
  { id: 'explosive', means: 'Explosive gas: charging gives off hydrogen.' },
  { id: 'bin', means: 'Not into household waste.' },
  { id: 'recycle', means: 'Lead and acid are recycled: back to a licensed collector.' },
  {
    id: 'firstAid',
    means:
      'First aid: running water for 15 minutes, contaminated clothes off and rinsed, a doctor at once for eyes.',
  },
] as const;

export type LabelSymbolId = (typeof LABEL_SYMBOLS)[number]['id'];
