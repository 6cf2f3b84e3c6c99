/** Tags of the shop's own row: its letters and four digits, "SK-0150" after "SK-0149". */

const DIGITS = 4;

export const tagOf = (letters: string, number: number): string =>
  `${letters}-${String(number).padStart(DIGITS, '0')}`;
