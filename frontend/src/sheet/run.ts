/** The clock of a wave, or of a way of taking scores, as a value. */
import type { Schemas } from "../api/client";
import { offset } from "../parts/time/anchored";

export type Run = Schemas["RunRow"];

/** A clock that begins: of a wave, or of a way of taking scores that has its own. */
export function startRun(
  id: string,
  wave: number | null,
  at: number,
  more: Partial<Pick<Run, "way" | "try_number" | "go_ms">> = {},
): Run {
  return {
    id,
    way: "wave",
    wave,
    try_number: 1,
    go_ms: 0,
    revision: 1,
    anchor_ms: Math.round(at),
    paused_ms: null,
    pauses: [],
    ended: "",
    worked_seconds: null,
    ...more,
  };
}

/**
 * End a run: an early stop, and a clock without a length of its own, say how many whole seconds it
 * went.
 */
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
    worked_seconds: how === "early" || (how === "complete" && run.way !== "wave") ? worked : null,
  };
}

/**
 * The clock of a way of taking scores, of a wave or of everybody together: the newest that was not
 * started again.
 */
export function ownRun(
  runs: Run[],
  way: Run["way"],
  tryNumber = 1,
  wave: number | null = null,
): Run | null {
  const mine = runs.filter(
    (run) => run.way === way && run.try_number === tryNumber && (run.wave ?? null) === wave,
  );
  return mine.findLast((run) => run.ended !== "restarted") ?? null;
}

/** The clock that a time is taken by when it is typed: the newest that still runs, waves left out. */
export function openRun(runs: Run[]): Run | null {
  return runs.findLast((run) => run.way !== "wave" && run.ended === "") ?? null;
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
