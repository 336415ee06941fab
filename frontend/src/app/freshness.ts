/**
 * What was acknowledged after its screen was left is old in the cache: a page that is opened again
 * asks anew, so that nothing that is kept looks as if it were not.
 */
import type { QueryClient } from "@tanstack/vue-query";
import { useSync } from "../sync/useSync";

export function keepFresh(queries: QueryClient): () => void {
  return useSync().onSaved(({ kind, at }) => {
    const pages: Record<typeof kind, string[][]> = {
      attempt: [["lanes", at], ["grid"], ["check", at], ["today"]],
      pulse: [["pulse", at]],
      run: [],
      conduct: [],
    };
    // A screen that is open puts the answer in by itself, and is fresh with that.
    for (const queryKey of pages[kind]) {
      void queries.invalidateQueries({ queryKey, refetchType: "none" });
    }
  });
}
