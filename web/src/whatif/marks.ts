/** How each of four plans is told from the others: a letter, a colour and a stroke. */
export interface Mark {
  readonly letter: string;
  readonly colour: string;
  readonly dash: string;
}

export const MARKS: readonly Mark[] = [
  { letter: 'A', colour: 'var(--ember)', dash: '' },
  { letter: 'B', colour: 'var(--verdigris)', dash: '7 4' },
  { letter: 'C', colour: 'var(--cork-dark)', dash: '2 3' },
  { letter: 'D', colour: 'var(--char)', dash: '12 4 2 4' },
];

export function markOf(index: number): Mark {
  return MARKS[index] ?? { letter: '?', colour: 'var(--char)', dash: '' };
}
