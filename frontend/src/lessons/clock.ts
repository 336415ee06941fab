/** The clock of one wave as a value. */
import type { Schemas } from "../api/client";
import { goOn, offset, stand } from "./anchored";

export { offset, passed } from "./anchored";

export type Run = Schemas["Run"];
export type Cue = Schemas["Cue"];

export function startRun(id: string, wave: number, at: number): Run {
  const anchor_ms = Math.round(at);
  return { id, wave, revision: 1, anchor_ms, paused_ms: null, ended: "", worked_seconds: null };
}

export function pause(run: Run, at: number): Run {
  return run.ended ? run : stand(run, at);
}

export function resume(run: Run, at: number): Run {
  return run.ended ? run : goOn(run, at);
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
