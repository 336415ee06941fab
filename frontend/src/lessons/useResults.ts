/** How far every test of a lesson is: asked anew after a score, and now and then for other devices. */
import { useQuery } from "@tanstack/vue-query";
import { useDebounceFn } from "@vueuse/core";
import { computed, onScopeDispose } from "vue";
import { answer, client, type Schemas } from "../api/client";
import type { Job } from "../sync/jobs";
import { unlessTold } from "../sync/live";
import { waitingIn } from "../sync/unsent";
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

/** Whose score is on its way from this device is missing to nobody. */
export function withUnsent(
  page: Schemas["LessonResults"],
  jobs: readonly Job[],
): Schemas["LessonResults"] {
  const tests = page.tests.map((one) => {
    const waiting = waitingIn(jobs, one.activity_id);
    const without = one.without.filter((id) => !waiting.has(id));
    const sent = one.without.length - without.length;
    return sent ? { ...one, without, missing: without.length, recorded: one.recorded + sent } : one;
  });
  return { ...page, tests, missing: tests.reduce((sum, one) => sum + one.missing, 0) };
}

/** What waits in a lesson: what the server knows, and what is on its way from here. */
export function useResults(lessonId: string) {
  const sync = useSync();
  const query = useQuery({
    ...resultsPage(lessonId),
    staleTime: 0,
    refetchInterval: () => (sync.waiting.value ? false : unlessTold(20_000)),
  });
  const refresh = useDebounceFn(() => query.refetch(), AFTER_MS);
  const stop = sync.onSaved((job) => {
    if (job.kind === "attempt") void refresh();
  });
  onScopeDispose(stop);
  const page = computed(() => query.data.value && withUnsent(query.data.value, sync.mine.value));
  return { query, page };
}
