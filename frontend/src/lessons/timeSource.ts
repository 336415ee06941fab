/**
 * Milliseconds since 1970 that never step back while the page is open: the page's start plus the
 * monotonic clock. A timing gate or a test may put another source in `window.laufTimeSource`.
 */
declare global {
  interface Window {
    laufTimeSource?: () => number;
  }
}

export function now(): number {
  return window.laufTimeSource?.() ?? performance.timeOrigin + performance.now();
}
