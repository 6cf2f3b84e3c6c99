/**
 * Tells a scanner that types (a keyboard wedge) from a person: its letters come within a few milliseconds of
 * each other and end with Enter.
 */

/** A person never types this fast, ms between letters. */
const FASTEST_HAND_MS = 35;
const SHORTEST = 3;
const LONGEST = 40;

export class ScanCatcher {
  private letters = '';
  private isBegun = false;
  private lastMs = Number.NEGATIVE_INFINITY;

  /**
   * Takes a key as it comes.
   * @param key as the keyboard event names it
   * @param atMs real time, ms
   * @returns the scanned text with the Enter that ends it, otherwise undefined
   */
  feed(key: string, atMs: number): string | undefined {
    const isQuick = atMs - this.lastMs <= FASTEST_HAND_MS;
    this.lastMs = atMs;
    this.isBegun = !isQuick;
    if (!isQuick) this.letters = '';
    if (key === 'Enter') {
      const scanned = this.letters;
      this.letters = '';
      return isQuick && scanned.length >= SHORTEST ? scanned : undefined;
    }
    if (key.length === 1 && this.letters.length < LONGEST) this.letters += key;
    return undefined;
  }

  /** Whether the key just fed may be the first of a scan: what stands in a field now is what stood there before it. */
  mayBegin(): boolean {
    return this.isBegun;
  }
}

/** What a label's code holds: the tag itself, or an address that ends in it. */
export function tagOf(scanned: string): string {
  return (scanned.trim().split('/').pop() ?? '').toUpperCase();
}
