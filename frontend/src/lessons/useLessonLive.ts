/** The pages of a lesson kept up with what its other devices write. */
import { useQueryClient, type QueryKey } from "@tanstack/vue-query";
import { useDebounceFn } from "@vueuse/core";
import { onScopeDispose } from "vue";
import { answer, client, type Schemas } from "../api/client";
import { putChild } from "../sheet/sources/pages";
import { useLive, type LiveEvent } from "../sync/live";
import { useSync } from "../sync/useSync";

/** Scores that come together are asked for together. */
const TOGETHER_MS = 40;
/** Sums over a class are not worked out with every score. */
const SUMS_MS = 1_000;
/** More children than so many, and the whole class is asked for. */
const ONE_BY_ONE = 3;

export function useLessonLive(lessonId: string) {
  const queries = useQueryClient();
  const sync = useSync();
  /** By activity, whose scores have changed elsewhere. */
  const changed = new Map<string, Set<string>>();
  const isShown = (queryKey: QueryKey) => queries.getQueryData(queryKey) !== undefined;
  const refresh = (queryKey: QueryKey) => void queries.invalidateQueries({ queryKey });

  async function fetchChild(activityId: string, pupilId: string) {
    const path = { activity_id: activityId, pupil_id: pupilId };
    const child = await answer(
      client.GET("/api/activities/{activity_id}/lanes/{pupil_id}", { params: { path } }),
    );
    putChild(queries, activityId, child);
  }
  const fetchScores = useDebounceFn(() => {
    for (const [activityId, pupils] of changed) {
      changed.delete(activityId);
      const key = ["lanes", activityId];
      if (!isShown(key)) continue;
      if (pupils.size > ONE_BY_ONE) refresh(key);
      else for (const one of pupils) fetchChild(activityId, one).catch(() => refresh(key));
    }
  }, TOGETHER_MS);
  const fetchSums = useDebounceFn(() => {
    for (const page of ["grid", "results"]) refresh([page, lessonId]);
    for (const page of ["check", "wall", "target", "lesson-summary"]) refresh([page]);
  }, SUMS_MS);

  function heard(event: LiveEvent) {
    switch (event.what) {
      case "score": {
        // What this device wrote it is answered itself.
        const isOwn = event.entry ? sync.wrote(event.entry) : false;
        if (event.activity && event.pupil && !isOwn) {
          const there = changed.get(event.activity) ?? new Set();
          changed.set(event.activity, there.add(event.pupil));
          void fetchScores();
        }
        void fetchSums();
        break;
      }
      case "pulse":
        if (!event.entry || !sync.wrote(event.entry)) refresh(["pulse", lessonId]);
        break;
      case "clock":
        refresh(["lesson", lessonId]);
        refresh(["conduct", lessonId]);
        break;
      case "plan":
        refresh(["lesson", lessonId]);
        refresh(["plan", lessonId]);
        break;
      case "helpers":
        refresh(["helpers", lessonId]);
        break;
      case "goes":
        refresh(["waiting-goes", lessonId]);
        break;
      default:
        for (const page of ["lesson", "conduct", "pulse", "helpers", "waiting-goes"])
          refresh([page, lessonId]);
        refresh(["lanes"]);
        void fetchSums();
    }
  }
  // What this device sends is in its sheets also where they are not open just then.
  const stop = sync.onSaved((job, saved) => {
    if (job.kind === "attempt") putChild(queries, job.at, saved as Schemas["Child"]);
  });
  onScopeDispose(stop);
  return useLive(`/api/lessons/${lessonId}/live`, heard);
}
