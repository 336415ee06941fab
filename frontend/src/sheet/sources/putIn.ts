/**
 * Put an answer into a page that is shown. What is being fetched for it was asked before the entry
 * was kept: it would take the entry off the screen again, so it is not waited for.
 */
import type { QueryClient, QueryKey } from "@tanstack/vue-query";

export function putIn<T>(queries: QueryClient, queryKey: QueryKey, change: (page: T) => T) {
  if (queries.getQueryData(queryKey) === undefined) {
    // Its first answer is on the way, and may be older too. Asking again would only wait for that
    // one: it is let go of, and another one asked for.
    void queries
      .cancelQueries({ queryKey, exact: true }, { silent: true })
      .then(() => queries.refetchQueries({ queryKey, exact: true }));
    return;
  }
  void queries.cancelQueries({ queryKey, exact: true }, { revert: false, silent: true });
  queries.setQueryData<T>(queryKey, (old) => old && change(old));
}
