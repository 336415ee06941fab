/**
 * The clock's runs of one activity: kept on this device at once, and told to the server as soon as
 * it can be reached. Whichever knows the newer state of a run is believed.
 */
import { ref, watch, type Ref } from "vue";
import { answer, ApiError, client } from "../api/client";
import { joinRuns, type Run } from "./clock";
import { keptRuns, keyOf } from "./keptRuns";

export function useRuns(activityId: string, fromServer: Ref<Run[]>) {
  const key = keyOf(activityId);
  const runs = ref<Run[]>(joinRuns(fromServer.value, keptRuns(activityId)));
  const told = new Map<string, number>();
  const problem = ref("");
  let timer = 0;
  let telling = false;

  function note(found: Run[]) {
    for (const run of found) told.set(run.id, Math.max(run.revision, told.get(run.id) ?? 0));
  }

  function keep(run: Run) {
    runs.value = joinRuns(runs.value, [run]);
    localStorage.setItem(key, JSON.stringify(runs.value));
    void tell();
  }

  async function tell() {
    if (telling) return;
    telling = true;
    window.clearTimeout(timer);
    try {
      let run: Run | undefined;
      while ((run = runs.value.find((one) => one.revision > (told.get(one.id) ?? 0)))) {
        const { id, ...body } = run;
        const path = { activity_id: activityId, run_id: id };
        await answer(
          client.PUT("/api/activities/{activity_id}/runs/{run_id}", { params: { path }, body }),
        );
        note([run]);
      }
      problem.value = "";
    } catch (error) {
      if (error instanceof ApiError && error.status === 422) {
        // Another device's run counts: take over what the server knows.
        problem.value = error.message;
        localStorage.removeItem(key);
        runs.value = fromServer.value;
      } else {
        timer = window.setTimeout(() => void tell(), 3000);
      }
    } finally {
      telling = false;
    }
  }

  note(fromServer.value);
  watch(fromServer, (found) => {
    note(found);
    runs.value = joinRuns(runs.value, found);
  });
  void tell();
  return { runs, keep, problem, end: () => window.clearTimeout(timer) };
}
