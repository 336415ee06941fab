/** How far every test of a lesson is: asked anew after a score, and now and then for other devices. */
import { useQuery } from "@tanstack/vue-query";
import { useDebounceFn } from "@vueuse/core";
import { onScopeDispose } from "vue";
import { answer, client } from "../api/client";
import { useSync } from "../sync/useSync";

/** All scores of the class are judged for it: not with every entry. */
const AFTER_MS = 1_000;

export const resultsPage = (lessonId: string) => ({
  queryKey: ["results", lessonId],
  queryFn: () =>
    answer(
      client.GET("/api/lessons/{lesson_id}/results", { params: { path: { lesson_id: lessonId } } }),
    ),
});

export function useResults(lessonId: string) {
  const sync = useSync();
  const query = useQuery({
    ...resultsPage(lessonId),
    staleTime: 0,
    refetchInterval: () => (sync.waiting.value ? false : 20_000),
  });
  const refresh = useDebounceFn(() => query.refetch(), AFTER_MS);
  const stop = sync.onSaved((job) => {
    if (job.kind === "attempt") void refresh();
  });
  onScopeDispose(stop);
  return query;
}
