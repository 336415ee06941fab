/** Who helps on this device, and the lesson they help in. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { useDebounceFn } from "@vueuse/core";
import { computed, effectScope, onScopeDispose, watch } from "vue";
import { answer, ApiError, client } from "../../api/client";
import { helpPage, type HelpedLesson } from "../../sheet/sources/helped";
import { helperHere, lastHelper, rememberHelper } from "../../sync/helperHere";
import { forgetPages, startPages } from "../../sync/useKeptPages";
import { unlessTold, useLive, type LiveEvent } from "../../sync/live";
import { useSync } from "../../sync/useSync";

/** How often a lesson is asked for again: the tests of it change, and it ends. */
const ASK_AGAIN_MS = 15_000;

/** What others enter is asked for together. */
const TOGETHER_MS = 500;

export function useHelp() {
  const queries = useQueryClient();
  const sync = useSync();
  const query = useQuery({
    ...helpPage(),
    staleTime: 0,
    refetchInterval: () => (sync.waiting.value ? false : unlessTold(ASK_AGAIN_MS)),
  });
  void startPages(queries, helperHere).catch(() => undefined);
  void sync.ready();

  function take(lesson: HelpedLesson) {
    const before = lastHelper();
    rememberHelper(lesson.helper_id);
    const now = helperHere();
    sync.signedIn(now);
    // Who comes in once more sends what is still here.
    if (before && now && before !== now) void sync.ready().then(() => sync.adopt(before, now));
  }
  watch(query.data, (lesson) => lesson && take(lesson), { immediate: true });
  // A stream is for who was let in.
  let stream = effectScope();
  watch(
    () => query.data.value?.helper_id,
    (id) => {
      stream.stop();
      stream = effectScope();
      if (id) stream.run(() => useLive("/api/help/live", heard));
    },
    { immediate: true },
  );
  onScopeDispose(() => stream.stop());
  const refresh = useDebounceFn(() => query.refetch(), TOGETHER_MS);
  function heard({ what, entry }: LiveEvent) {
    if (what === "pulse" || what === "clock" || (entry && sync.wrote(entry))) return;
    void refresh();
  }

  /** Nothing that was read stays here; what is not sent does. */
  async function forget() {
    rememberHelper(null);
    queries.removeQueries({ queryKey: helpPage().queryKey });
    await forgetPages();
    await query.refetch();
  }
  const joining = useMutation({
    mutationFn: async (given: { code: string; name: string }) => {
      // Brings the token that a write needs.
      await answer(client.GET("/api/session"));
      return answer(client.POST("/api/help", { body: given }));
    },
    onSuccess(lesson) {
      queries.setQueryData(helpPage().queryKey, lesson);
      take(lesson);
    },
  });
  const leaving = useMutation({
    mutationFn: () => answer(client.DELETE("/api/help")),
    onSettled: forget,
  });
  const status = computed(() => (query.error.value as ApiError | null)?.status ?? null);
  return {
    query,
    lesson: query.data,
    joining,
    leaving,
    sync,
    /** The lesson is not open to helpers now: what is entered waits on this device. */
    isLocked: computed(() => status.value === 423),
    /** This device is let in no more. */
    isOut: computed(() => status.value === 401),
  };
}
