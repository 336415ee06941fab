/** A device that was let in by a code: what it opens, what it keeps, and how it goes. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, watch } from "vue";
import { answer, client, type ApiError } from "../api/client";
import { guestOf, type Guest } from "./guestHere";
import { forgetPages, startPages } from "./useKeptPages";
import { useSync } from "./useSync";

/**
 * @param kind who comes in
 * @param page what is open to them
 * @param idOf by what this device is known there
 * @param open lets it in
 * @param close ends it
 * @param everyMs how often the page is asked for again
 */
export function useGuest<Page, Given>(options: {
  kind: Guest;
  page: { queryKey: string[]; queryFn: () => Promise<Page> };
  idOf: (page: Page) => string;
  open: (given: Given) => Promise<Page>;
  close: () => Promise<unknown>;
  everyMs: () => number | false;
}) {
  const { page, idOf } = options;
  const guest = guestOf(options.kind);
  const queries = useQueryClient();
  const sync = useSync();
  const query = useQuery({
    ...page,
    staleTime: 0,
    refetchInterval: () => (sync.waiting.value ? false : options.everyMs()),
  });
  void startPages(queries, guest.here).catch(() => undefined);
  void sync.ready();

  function take(found: Page) {
    const before = guest.last();
    guest.remember(idOf(found));
    const now = guest.here();
    sync.signedIn(now);
    // Who comes in once more sends what is still here.
    if (before && now && before !== now) void sync.ready().then(() => sync.adopt(before, now));
  }
  watch(query.data, (found) => found && take(found as Page), { immediate: true });

  /** Nothing that was read stays here; what is not sent does. */
  async function forget() {
    guest.remember(null);
    queries.removeQueries({ queryKey: page.queryKey });
    await forgetPages();
    await query.refetch();
  }
  const opening = useMutation({
    mutationFn: async (given: Given) => {
      // Brings the token that a write needs.
      await answer(client.GET("/api/session"));
      return options.open(given);
    },
    onSuccess(found) {
      queries.setQueryData(page.queryKey, found);
      take(found);
    },
  });
  const closing = useMutation({ mutationFn: options.close, onSettled: forget });
  const status = computed(() => (query.error.value as ApiError | null)?.status ?? null);
  return {
    query,
    opening,
    closing,
    sync,
    /** It is not open just now: what is entered waits on this device. */
    isLocked: computed(() => status.value === 423),
    /** This device is let in no more. */
    isOut: computed(() => status.value === 401),
  };
}
