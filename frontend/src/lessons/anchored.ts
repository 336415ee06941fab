/**
 * A clock as a value: it shows (now − anchor), or `paused_ms` while paused. No ticks are added up, so
 * it cannot drift, and a reload or another device takes it up where it is.
 */
export interface Anchored {
  anchor_ms: number;
  paused_ms?: number | null;
  /** Grows by one with every change. */
  revision: number;
}

/** Milliseconds into what the clock runs over. */
export function offset(one: Anchored, at: number): number {
  return one.paused_ms ?? at - one.anchor_ms;
}

export function stand<T extends Anchored>(one: T, at: number): T {
  if (one.paused_ms != null) return one;
  return { ...one, revision: one.revision + 1, paused_ms: Math.round(offset(one, at)) };
}

export function goOn<T extends Anchored>(one: T, at: number): T {
  if (one.paused_ms == null) return one;
  const anchor_ms = Math.round(at - one.paused_ms);
  return { ...one, revision: one.revision + 1, anchor_ms, paused_ms: null };
}

/** What lies in (from, to]: every cue once, whatever the gaps between two looks. */
export function passed<T extends { at_ms: number }>(cues: T[], from: number, to: number): T[] {
  return cues.filter((cue) => cue.at_ms > from && cue.at_ms <= to);
}
