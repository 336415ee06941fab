/** The waves that the conductor's clock has worked, as the runs that are put on record. */
import { v5 as namedId } from "uuid";
import { end, startRun, type Run } from "../../../sheet/run";
import type { Conduct, Timeline } from "./conductor";

/** By run of the conductor and segment: the run that stands for it, and how many did before. */
export type Told = Record<string, { run: Run | null; times: number }>;

/** What is to be told now, after what was told before. A wave that was not worked is none. */
export function wavesToTell(plan: Timeline, state: Conduct, before: Told) {
  const told = { ...before };
  const runs: { activity: string; run: Run }[] = [];
  const nameOf = (segment: string) => `${state.run_id} ${segment}`;
  const done = new Map((state.done ?? []).map((one) => [one.segment, one]));
  for (const segment of plan.segments) {
    const activity = plan.blocks[segment.block]?.activity_id;
    // The clock of a wave is the same for every try; what has no waves (a target, a beat) has no run.
    if (!activity || segment.phase !== "work" || !segment.wave || segment.try_number > 1) continue;
    const name = nameOf(segment.id);
    const { run, times } = told[name] ?? { run: null, times: 0 };
    const worked = done.get(segment.id);
    if (run && !worked) {
      // A go that is done again does not count as it was.
      told[name] = { run: null, times: times + 1 };
      runs.push({ activity, run: end(run, "restarted", run.anchor_ms, 0) });
    } else if (!run && worked?.seconds) {
      // The clock stands at the segment's end now, however it came there.
      const begun = Math.max(0, state.anchor_ms + segment.to_ms - worked.seconds * 1000);
      // The same wave told twice is one run.
      const id = namedId(times ? `${name} ${times}` : name, namedId.URL);
      const seconds = Math.min(worked.planned, worked.seconds);
      const made: Run = {
        ...startRun(id, segment.wave, begun),
        ended: seconds >= worked.planned ? "complete" : "early",
        worked_seconds: seconds,
      };
      told[name] = { run: made, times };
      runs.push({ activity, run: made });
    }
  }
  return { told, runs };
}
