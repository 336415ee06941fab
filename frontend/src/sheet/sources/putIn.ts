/**
 * Put an answer into a page that is shown. What is being fetched for it was asked before the entry
 * was kept: it would take the entry off the screen again, so it is not waited for.
 */
import { notifyManager, type QueryClient, type QueryKey } from "@tanstack/vue-query";

// What is put in is on the screen in the same moment: else there is one, longer on a busy device,
// in which an entry is neither on its way nor kept, and an undo takes it for somebody else's.
notifyManager.setScheduler((tell) => tell());

export function putIn<T>(queries: QueryClient, queryKey: QueryKey, change: (page: T) => T) {
  if (queries.getQueryData(queryKey) === undefined) {
    // Its first answer is on the way, and may be older too: it is asked for again.
    void queries.invalidateQueries({ queryKey, exact: true });
    return;
  }
  void queries.cancelQueries({ queryKey, exact: true }, { revert: false, silent: true });
  queries.setQueryData<T>(queryKey, (old) => old && change(old));
}
