/**
 * A mass start and taps, as values: the clock from its start, and each child's laps. One tap ends a
 * hold or a run of one lap; a run of several ends with the last.
 */
export interface Tap {
  /** null for somebody who crossed and is not named yet. */
  pupilId: string | null;
  /** Milliseconds since the start. */
  at: number;
  id: number;
}
export interface Taps {
  /** How many laps it is over, where that was set here; the course's otherwise. */
  laps?: number | null;
  /** When it began, in the time source's milliseconds; null before. */
  started: number | null;
  taps: Tap[];
}

export const NONE: Taps = { started: null, taps: [] };
/** Two taps on one child within this are one tap that bounced. */
const BOUNCE_MS = 700;

export function start(at: number, laps: number | null = null): Taps {
  return { started: at, taps: [], laps };
}
export function lapsOf(state: Taps, pupilId: string): readonly number[] {
  return byChild(state.taps).get(pupilId) ?? [];
}
/** Everybody's laps, found once for each state: near the end of a mile they are hundreds. */
const found = new WeakMap<Tap[], Map<string | null, number[]>>();
function byChild(all: Tap[]) {
  let laps = found.get(all);
  if (!laps) {
    laps = new Map();
    for (const { pupilId, at } of all) {
      const mine = laps.get(pupilId);
      if (mine) mine.push(at);
      else laps.set(pupilId, [at]);
    }
    for (const mine of laps.values()) mine.sort((a, b) => a - b);
    found.set(all, laps);
  }
  return laps;
}
/** How long the last lap of a child took; 0 before the first. */
export function lastLap(state: Taps, pupilId: string): number {
  const laps = lapsOf(state, pupilId);
  return (laps.at(-1) ?? 0) - (laps.at(-2) ?? 0);
}
export function finished(state: Taps, pupilId: string, laps: number): boolean {
  return lapsOf(state, pupilId).length >= laps;
}
/** A tap on a child (or on nobody yet); one that bounced, or one after the last lap, is no tap. */
export function tap(state: Taps, pupilId: string | null, laps: number, now: number): Taps {
  if (state.started === null) return state;
  const at = Math.round(now - state.started);
  if (pupilId !== null) {
    const mine = lapsOf(state, pupilId);
    if (mine.length >= laps || (mine.length && at - (mine.at(-1) ?? 0) < BOUNCE_MS)) return state;
  }
  const id = Math.max(0, ...state.taps.map((one) => one.id)) + 1;
  return { ...state, taps: [...state.taps, { pupilId, at, id }] };
}
/** The newest tap taken back; whose it was goes on as if it had not been. */
export function undo(state: Taps): Taps {
  return { ...state, taps: state.taps.slice(0, -1) };
}
/** The last tap of one child taken back: a wrong tap on somebody who still holds on. */
export function resume(state: Taps, pupilId: string): Taps {
  const last = state.taps.findLastIndex((one) => one.pupilId === pupilId);
  return last < 0 ? state : { ...state, taps: state.taps.filter((_, index) => index !== last) };
}
/** Somebody who crossed gets a name. */
export function name(state: Taps, id: number, pupilId: string): Taps {
  const taps = state.taps.map((one) => (one.id === id ? { ...one, pupilId } : one));
  return { ...state, taps };
}
/** A time as it is typed: 48.5, 1:05.3. */
export function asTyped(ms: number): string {
  const tenths = Math.round(ms / 100);
  const minutes = Math.floor(tenths / 600);
  const rest = ((tenths % 600) / 10).toFixed(1);
  return minutes ? `${minutes}:${rest.padStart(4, "0")}` : rest;
}
/** What is entered for a child: the time, or the clock at the end of every lap. */
export function entryOf(state: Taps, pupilId: string): string {
  const laps = lapsOf(state, pupilId);
  if (laps.length === 1) return asTyped(laps[0] ?? 0);
  // Lap times are written with their minutes, as the reader of lap times wants them.
  return laps.map(withMinutes).join(" ");
}
/** By what is written, not by the milliseconds: 59.96 s is written 1:00.0. */
function withMinutes(ms: number): string {
  const typed = asTyped(ms);
  return typed.includes(":") ? typed : `0:${typed.padStart(4, "0")}`;
}
