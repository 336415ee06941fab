/**
 * A progressive run as a value: who missed which line. The beeps, and what a runner has scored who
 * misses one, are the rules'; here it is only kept who is warned and who is out.
 */
import type { Schemas } from "../../../api/client";

export type Beep = Schemas["Beep"];
export interface Runner {
  /** The beep (from 0) whose line was missed last; null while none was. */
  warned: number | null;
  /** What is entered once the run is over for this child. */
  score: string | null;
}
export interface Run {
  startedAt: number | null;
  runners: Record<string, Runner>;
}
export const NONE: Run = { startedAt: null, runners: {} };
const FRESH: Runner = { warned: null, score: null };

export function runner(run: Run, pupilId: string): Runner {
  return run.runners[pupilId] ?? FRESH;
}
/** The beep that sounded last, −1 before the first. */
export function lastBeep(beeps: Beep[], ms: number): number {
  let low = 0;
  let high = beeps.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((beeps[middle]?.at_ms ?? 0) <= ms) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}
/** The shuttle that is being run: at the end, the last. */
export function current(beeps: Beep[], ms: number): Beep | undefined {
  return beeps[Math.min(beeps.length - 1, lastBeep(beeps, ms) + 1)];
}
/** Whether a warning still stands: the next line has not been reached yet. */
export function isWarned(one: Runner, beep: number): boolean {
  return one.score === null && one.warned !== null && beep <= one.warned + 1;
}
function put(run: Run, pupilId: string, one: Runner): Run {
  return { ...run, runners: { ...run.runners, [pupilId]: one } };
}
/**
 * A line missed at the last beep. The first is a warning; one at the very next beep ends the run
 * with what was completed before the two. A second tap for the same beep changes nothing.
 */
export function miss(run: Run, beeps: Beep[], pupilId: string, ms: number): Run {
  const at = lastBeep(beeps, ms);
  const one = runner(run, pupilId);
  if (run.startedAt === null || at < 0 || one.score !== null || one.warned === at) return run;
  if (one.warned === at - 1) {
    const score = beeps[one.warned]?.if_missed ?? "1.0";
    return put(run, pupilId, { ...one, score });
  }
  return put(run, pupilId, { warned: at, score: null });
}
/** Somebody does not run, for a reason: it stands as the score does. */
export function out(run: Run, pupilId: string, reason: string): Run {
  return put(run, pupilId, { warned: null, score: reason });
}
/** Somebody stops of their own accord: the last line made counts. */
export function stop(run: Run, beeps: Beep[], pupilId: string, ms: number): Run {
  const at = lastBeep(beeps, ms);
  const one = runner(run, pupilId);
  if (run.startedAt === null || one.score !== null) return run;
  const missed = one.warned === at && at >= 0;
  const score = missed ? beeps[at]?.if_missed : beeps[at]?.so_far;
  return put(run, pupilId, { ...one, score: score ?? "1.0" });
}
/** A wrong tap: runs on, without the warning. */
export function goesOn(run: Run, pupilId: string): Run {
  return put(run, pupilId, FRESH);
}
