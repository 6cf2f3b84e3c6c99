/** What a PIN and a passphrase must be: enough that nobody guesses one in the few tries there are. */

export const PIN = { least: 4, most: 8 } as const;
export const PASSPHRASE = { least: 12, most: 128 } as const;

/** "7777", "2345", "8642": what is tried first. */
function isRun(digits: readonly number[]): boolean {
  const steps = digits.slice(1).map((digit, index) => digit - (digits[index] ?? 0));
  return steps.every((step) => step === steps[0] && Math.abs(step) <= 2);
}

/** "1212", and years of a birth or of the shop's own time. */
const isYear = (pin: string): boolean => /^(19|20)\d\d$/.test(pin);
const isRepeated = (pin: string): boolean => /^(\d\d?)\1+$/.test(pin);

/** The same before it is entered. */
export const PIN_HINT = `${PIN.least} to ${PIN.most} digits; no run, no repetition, no year.`;

/** What is wrong with a PIN; nothing where it will do. */
export function pinTrouble(pin: string): string | undefined {
  if (!new RegExp(`^\\d{${PIN.least},${PIN.most}}$`).test(pin))
    return `PIN: ${PIN.least} to ${PIN.most} digits.`;
  if (isRun([...pin].map(Number)) || isRepeated(pin) || isYear(pin))
    return 'PIN: one that is not tried first: no run, no repetition, no year.';
  return undefined;
}

/** What is wrong with a passphrase; nothing where it will do. */
export function passphraseTrouble(passphrase: string, name: string): string | undefined {
  const length = [...passphrase.trim()].length;
  if (length < PASSPHRASE.least || length > PASSPHRASE.most)
    return `Passphrase: ${PASSPHRASE.least} to ${PASSPHRASE.most} letters, some words in a row.`;
  const letters = new Set(passphrase.toLowerCase().replace(/[^\p{L}\p{N}]/gu, ''));
  if (letters.size < 5 || passphrase.trim().toLowerCase() === name.trim().toLowerCase())
    return 'Passphrase: one that is not tried first: some words nobody would put together.';
  return undefined;
}

/** Wrong PINs in a row that are taken as slips of the finger. */
const SLIPS = 3;
/** And from this many on nobody may try any more until a lead has looked at it. */
export const LOCKED_FROM = 10;
const FIRST_WAIT_S = 5;

/**
 * How long the next try has to wait after so many wrong ones in a row, s: twice as long each time.
 * @param wrong tries in a row, 0 or more
 */
export const waitAfter = (wrong: number): number => (wrong < SLIPS ? 0 : FIRST_WAIT_S * 2 ** (wrong - SLIPS));

/** How long somebody stays at the bench while nothing is done, min, unless the shop says otherwise. */
export const LOCKS_AFTER_MIN = 10;

/** What every badge's code begins with: a scanner's reading of one is no tag of a battery. */
export const BADGE = 'EMBER';

/** Whether what was scanned is somebody's badge. */
export const isBadge = (scanned: string): boolean => /^EMBER[0-9A-F]{32}$/i.test(scanned.trim());
