/**
 * Milliseconds since 1970 by the server's clock, so that a clock started on one device is right on
 * all of them. While the page is open they go on by the monotonic clock. A test may put another
 * source in `window.laufTimeSource`.
 */
declare global {
  interface Window {
    laufTimeSource?: () => number;
  }
}

const KEY = "lauf.clock-is-off";
/** A difference this small is left alone: measuring it again would only make clocks twitch. */
const LEFT_ALONE_MS = 250;
/** An answer that took longer says too little. */
const SLOW_MS = 1_000;
/** How far this device's clock is behind the server's, as last found. */
let behind = Number(localStorage.getItem(KEY)) || 0;

export function now(): number {
  return window.laufTimeSource?.() ?? ownTime() + behind;
}

/** This device's own clock. */
export function ownTime(): number {
  return performance.timeOrigin + performance.now();
}

/** Keep to the server's clock from now on: what it showed while a question was on its way. */
export function keepTo(serverMs: number, askedAt: number, answeredAt: number) {
  const took = answeredAt - askedAt;
  if (took > SLOW_MS) return;
  const found = serverMs - (askedAt + answeredAt) / 2;
  if (Math.abs(found - behind) <= LEFT_ALONE_MS + took / 2) return;
  behind = Math.round(found);
  localStorage.setItem(KEY, String(behind));
}
