/** What is on this device only: to the teacher it is recorded, to the server it is missing. */
import type { Job } from "./jobs";

/** Children who have an entry in a test that is on its way: neither refused nor undone. */
export function waitingIn(jobs: readonly Job[], activityId: string): Set<string> {
  const found = new Set<string>();
  for (const job of jobs) {
    if (job.kind !== "attempt" || job.at !== activityId || job.refusal) continue;
    if (job.body.withdrawn) found.delete(job.body.pupil_id);
    else found.add(job.body.pupil_id);
  }
  return found;
}
