/** Whether the keyboard came to it by itself: nobody reached for it, so nothing is scrolled for it. */
const quiet = new WeakSet<Element>();

/** Somebody types there: the digits that follow belong to it. */
const isTypedIn = (element: Element | null): boolean =>
  element instanceof HTMLElement && element.matches('input:not([type=checkbox], [type=radio]), textarea');

/**
 * As a ref: takes the keyboard when it appears, without scrolling the caution above it out of sight, and never from a field
 * that is typed in: what comes up late, or by the clock, must not swallow the next digit.
 */
export function focusQuietly(element: HTMLElement | null): void {
  if (!element || isTypedIn(document.activeElement)) return;
  quiet.add(element);
  element.focus({ preventScroll: true });
}

/** Whether it has the keyboard only because it came up; asked once. */
export const cameQuietly = (element: Element): boolean => quiet.delete(element);
