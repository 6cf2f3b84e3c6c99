/** Lets the page draw, or somebody press something, before work goes on. */

/** A page that is not shown draws no frames, ms. */
const LONGEST_FRAME_MS = 100;

/** Goes on once what was pressed is seen to be pressed. */
export function painted(): Promise<void> {
  if (typeof requestAnimationFrame === 'undefined') return Promise.resolve();
  return new Promise((resolve) => {
    const late = setTimeout(resolve, LONGEST_FRAME_MS);
    requestAnimationFrame(() => {
      clearTimeout(late);
      setTimeout(resolve);
    });
  });
}

/** So long a page that is never idle is waited for, ms. */
const LONGEST_WAIT_MS = 2000;

/** Goes on once nobody wants anything of the page. */
export function idle(): Promise<void> {
  return new Promise((resolve) => {
    if ('requestIdleCallback' in window) requestIdleCallback(() => resolve(), { timeout: LONGEST_WAIT_MS });
    else setTimeout(resolve, LONGEST_FRAME_MS);
  });
}
