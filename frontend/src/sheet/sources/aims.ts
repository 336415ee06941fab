/** A class's targets of its own in one test: what was said before, and how it went. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { useDebounceFn } from "@vueuse/core";
import { computed, onScopeDispose } from "vue";
import { answer, client } from "../../api/client";
import { useSync } from "../../sync/useSync";

const JUDGED_AFTER_MS = 400;

export const aimsPage = (activityId: string) => ({
  queryKey: ["aims", activityId],
  queryFn: () =>
    answer(
      client.GET("/api/activities/{activity_id}/aims", {
        params: { path: { activity_id: activityId } },
      }),
    ),
});

/** `may` says whether the test takes targets: body measurements do not. */
export function useAims(activityId: string, may: () => boolean) {
  const queries = useQueryClient();
  const sync = useSync();
  const key = aimsPage(activityId).queryKey;
  const path = { activity_id: activityId };
  const query = useQuery({ ...aimsPage(activityId), enabled: computed(may) });
  const page = query.data;
  // What was said is judged once there is a score.
  const judged = useDebounceFn(() => query.refetch(), JUDGED_AFTER_MS);
  onScopeDispose(
    sync.onSaved((job) => {
      if (job.kind === "attempt" && job.at === activityId && someone.value) void judged();
    }),
  );
  const someone = computed(
    () =>
      page.value?.children.some((one) => one.said) ||
      page.value?.groups.some((one) => one.said !== null) ||
      false,
  );
  const saying = useMutation({
    mutationFn: ({
      pupilId,
      typed,
      variant,
    }: {
      pupilId: string;
      typed: string;
      variant: string;
    }) =>
      answer(
        client.PUT("/api/activities/{activity_id}/aims/{pupil_id}", {
          params: { path: { ...path, pupil_id: pupilId } },
          body: { typed, variant },
        }),
      ),
    onSuccess: (found) => queries.setQueryData(key, found),
  });
  const together = useMutation({
    mutationFn: (body: { group: string; typed: string }) =>
      answer(client.PUT("/api/activities/{activity_id}/group-aims", { params: { path }, body })),
    onSuccess: (found) => queries.setQueryData(key, found),
  });
  const accepting = useMutation({
    mutationFn: () =>
      answer(client.POST("/api/activities/{activity_id}/aims", { params: { path } })),
    onSuccess: (found) => queries.setQueryData(key, found),
  });
  return {
    page,
    someone,
    saying,
    together,
    accepting,
    of: (pupilId: string) => page.value?.children.find((one) => one.pupil_id === pupilId) ?? null,
  };
}
export type Aims = ReturnType<typeof useAims>;
