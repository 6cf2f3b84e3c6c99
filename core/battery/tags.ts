/** Tags of the shop's own row: its letters and four digits, "SK-0150" after "SK-0149". */

const DIGITS = 4;

/** The highest number of the row so far; 0 where it has none. */
export function lastOfRow(tags: readonly string[], letters: string): number {
  const numbers = tags.flatMap((tag) => {
    const rest = tag.startsWith(`${letters}-`) ? tag.slice(letters.length + 1) : '';
    return /^\d{4,}$/.test(rest) ? [Number(rest)] : [];
  });
  return Math.max(0, ...numbers);
}

export const tagOf = (letters: string, number: number): string =>
  `${letters}-${String(number).padStart(DIGITS, '0')}`;

export const nextTag = (tags: readonly string[], letters: string): string =>
  tagOf(letters, lastOfRow(tags, letters) + 1);
