/** As a ref: takes the keyboard when it appears, without scrolling the caution above it out of sight. */
export function focusQuietly(element: HTMLElement | null): void {
  element?.focus({ preventScroll: true });
}
