/**
 * What was acknowledged after its screen was left is old in the cache: a page that is opened again
 * asks anew, so that nothing that is kept looks as if it were not.
 */
import type { QueryClient } from "@tanstack/vue-query";
import { useOutbox } from "./outbox";

export function keepFresh(queries: QueryClient): () => void {
  return useOutbox().onSaved(({ kind, at }) => {
    const pages = kind === "pulse" ? [["pulse", at]] : [["lanes", at], ["grid"]];
    // A screen that is open puts the answer in by itself, and is fresh with that.
    for (const queryKey of pages) void queries.invalidateQueries({ queryKey, refetchType: "none" });
  });
}
