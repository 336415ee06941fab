/**
 * What was acknowledged makes every page that was read before it old: one that is opened again asks
 * anew, so that nothing that is kept looks as if it were not.
 */
import type { QueryClient } from "@tanstack/vue-query";
import { useSync } from "../sync/useSync";

export function keepFresh(queries: QueryClient): () => void {
  // A screen that is open puts the answer in by itself, and is fresh with that.
  return useSync().onSaved(() => void queries.invalidateQueries({ refetchType: "none" }));
}
