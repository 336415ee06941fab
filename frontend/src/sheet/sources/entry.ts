/** The body of one score, as every source of scores sends it. */
import { now } from "../../parts/time/timeSource";
import type { Job, NewAttempt } from "../../sync/jobs";
import { runLane } from "../../sync/lane";
import type { Entry, Place } from "../types";

/** One score as a job; a time is sent after the clock it was taken by. */
export function attemptJob(
  place: Place,
  entry: Entry,
  runId: string | null,
): Pick<Job, "kind" | "body" | "after"> {
  const body = attemptBody(place, entry, runId);
  return { kind: "attempt", body, after: body.run_id ? runLane(body.run_id) : undefined };
}

/** `runId` is the clock that is open for a time that is typed. */
function attemptBody(place: Place, entry: Entry, runId: string | null): NewAttempt {
  return {
    id: "",
    pupil_id: place.pupilId,
    try_number: place.slot,
    typed: entry.typed,
    variant: entry.variant ?? "",
    wave: entry.wave ?? null,
    conditions: entry.conditions ?? {},
    counted_by: entry.counted_by ?? null,
    run_id: entry.run_id ?? runId,
    sure: entry.sure ?? false,
    why: entry.why ?? "",
    withdrawn: false,
    recorded_at: entry.recorded_at ?? new Date(now()).toISOString(),
  };
}
