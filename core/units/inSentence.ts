/**
 * A title or label as it stands within a sentence: its first letter small, unless it is a figure or an abbreviation.
 * @example inSentence('Load tester') // "load tester"; "25 A, minutes" and "AGM programme" stay as they are
 */
export function inSentence(title: string): string {
  return /^\p{Lu}(?!\p{Lu})/u.test(title) ? `${title.charAt(0).toLowerCase()}${title.slice(1)}` : title;
}

/** The other way round: what stands within a sentence, at the head of a line. */
export const sentenceCase = (words: string): string => `${words.charAt(0).toUpperCase()}${words.slice(1)}`;
