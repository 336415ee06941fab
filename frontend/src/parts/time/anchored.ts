/**
 * A clock as a value: it shows (now − anchor), or `paused_ms` while paused. No ticks are added up, so
 * it cannot drift, and a reload or another device takes it up where it is.
 */
export interface Anchored {
  anchor_ms: number;
  paused_ms?: number | null;
  /** The pauses that are over: what the clock showed at any moment follows from them. */
  pauses?: { from_ms: number; to_ms: number }[];
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
  // Never a part of a millisecond before where it stood.
  const anchor_ms = Math.floor(at - one.paused_ms);
  const stood = { from_ms: one.anchor_ms + one.paused_ms, to_ms: Math.round(at) };
  const pauses = [...(one.pauses ?? []), stood];
  return { ...one, revision: one.revision + 1, anchor_ms, paused_ms: null, pauses };
}

/** What lies in (from, to]: every cue once, whatever the gaps between two looks. */
export function passed<T extends { at_ms: number }>(cues: T[], from: number, to: number): T[] {
  return cues.filter((cue) => cue.at_ms > from && cue.at_ms <= to);
}
