/**
 * The clock of one wave as a value. It shows (now − anchor), or `paused_ms` while paused, so no
 * ticks are added up and a reload or another device takes it up where it is.
 */
import type { Schemas } from "../api/client";

export type Run = Schemas["Run"];
export type Cue = Schemas["Cue"];

export function startRun(id: string, wave: number, at: number): Run {
  const anchor_ms = Math.round(at);
  return { id, wave, revision: 1, anchor_ms, paused_ms: null, ended: "", worked_seconds: null };
}

/** Milliseconds into the cues. */
export function offset(run: Run, at: number): number {
  return run.paused_ms ?? at - run.anchor_ms;
}

export function pause(run: Run, at: number): Run {
  if (run.paused_ms != null || run.ended) return run;
  return { ...run, revision: run.revision + 1, paused_ms: Math.round(offset(run, at)) };
}

export function resume(run: Run, at: number): Run {
  if (run.paused_ms == null || run.ended) return run;
  const anchor_ms = Math.round(at - run.paused_ms);
  return { ...run, revision: run.revision + 1, anchor_ms, paused_ms: null };
}

/** End a run; an early stop says how many whole seconds were worked. */
export function end(
  run: Run,
  how: "complete" | "early" | "restarted",
  at: number,
  go: number,
): Run {
  const worked = Math.max(0, Math.floor((offset(run, at) - go) / 1000));
  return {
    ...run,
    revision: run.revision + 1,
    ended: how,
    worked_seconds: how === "early" ? worked : null,
  };
}

/** The cues passed in (from, to]. */
export function passed(cues: Cue[], from: number, to: number): Cue[] {
  return cues.filter((cue) => cue.at_ms > from && cue.at_ms <= to);
}

/** The whole seconds to show: down to go, then down to the stop. */
export function secondsShown(at: number, go: number, total: number): number {
  return Math.ceil(((at < go ? go : total) - at) / 1000);
}

/** What a wave's runs say: the one that counts, else the newest that was not started again. */
export function currentRun(runs: Run[], wave: number): Run | null {
  const mine = runs.filter((run) => run.wave === wave);
  return (
    mine.find((run) => run.ended === "complete" || run.ended === "early") ??
    mine.findLast((run) => run.ended === "") ??
    null
  );
}

/** Two lists of runs joined, the newer revision of each. */
export function joinRuns(one: Run[], other: Run[]): Run[] {
  const found = new Map(one.map((run) => [run.id, run]));
  for (const run of other) {
    const known = found.get(run.id);
    if (!known || known.revision < run.revision) found.set(run.id, run);
  }
  return [...found.values()].sort((a, b) => a.anchor_ms - b.anchor_ms);
}
