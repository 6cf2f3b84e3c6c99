/** Whether the keyboard came to it by itself: nobody reached for it, so nothing is scrolled for it. */
const quiet = new WeakSet<Element>();

/** As a ref: takes the keyboard when it appears, without scrolling the caution above it out of sight. */
export function focusQuietly(element: HTMLElement | null): void {
  if (!element) return;
  quiet.add(element);
  element.focus({ preventScroll: true });
}

/** Whether it has the keyboard only because it came up; asked once. */
export const cameQuietly = (element: Element): boolean => quiet.delete(element);
