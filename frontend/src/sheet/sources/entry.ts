/** The body of one score, as every source of scores sends it. */
import { now } from "../../parts/timeSource";
import type { NewAttempt } from "../../sync/device";
import type { Entry, Place } from "../types";

/** `runId` is the clock that is open for a time that is typed. */
export function attemptBody(place: Place, entry: Entry, runId: string | null): NewAttempt {
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

/** A time is sent after the clock it was taken by. */
export function clockLane(runId: string | null | undefined): string | undefined {
  return runId ? `run ${runId}` : undefined;
}
