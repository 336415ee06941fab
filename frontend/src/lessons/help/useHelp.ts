/** Who helps on this device, and the lesson they help in. */
import { useDebounceFn } from "@vueuse/core";
import { effectScope, onScopeDispose, watch } from "vue";
import { answer, client } from "../../api/client";
import { helpPage, type HelpedLesson } from "../../sheet/sources/helped";
import { unlessTold, useLive, type LiveEvent } from "../../sync/live";
import { useGuest } from "../../sync/useGuest";

/** How often a lesson is asked for again: the tests of it change, and it ends. */
const ASK_AGAIN_MS = 15_000;

/** What others enter is asked for together. */
const TOGETHER_MS = 500;

export function useHelp() {
  const { query, opening, closing, sync, isLocked, isOut } = useGuest({
    kind: "helper",
    page: helpPage(),
    idOf: (lesson: HelpedLesson) => lesson.helper_id,
    open: (given: { code: string; name: string }) =>
      answer(client.POST("/api/help", { body: given })),
    close: () => answer(client.DELETE("/api/help")),
    everyMs: () => unlessTold(ASK_AGAIN_MS),
  });
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
    if (what === "pulse" || what === "clock" || what === "goes") return;
    if (entry && sync.wrote(entry)) return;
    void refresh();
  }
  return {
    query,
    lesson: query.data,
    joining: opening,
    leaving: closing,
    sync,
    isLocked,
    isOut,
  };
}
