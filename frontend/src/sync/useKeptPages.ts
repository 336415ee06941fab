/** The pages that this device keeps: started once somebody is known, wiped when nobody is. */
import type { QueryClient, QueryKey } from "@tanstack/vue-query";
import type { KeptPages, Pages } from "./pages";

let opened: Promise<Pages> | null = null;
let kept: KeptPages | null = null;

async function open(): Promise<Pages> {
  const { Pages } = await import("./pages");
  return new Pages();
}

/** Answers are kept from now on, and put in where the server cannot be reached. */
export async function startPages(queries: QueryClient, person: () => string | null): Promise<void> {
  if (kept) return;
  opened ??= open();
  const { keepPages, surplus } = await import("./pages");
  const store = await opened;
  kept ??= keepPages(queries, store, person);
  // A database that does not open keeps nobody from working with a network.
  void store
    .all()
    .then((all) => store.remove(surplus(all, person() ?? "", Date.now())))
    .catch(() => undefined);
}

/** Done when what was read so far is on this device. */
export async function flushPages(): Promise<void> {
  await kept?.flush();
}

/** What is on this device of a page, and since when; undefined for nothing. */
export async function keptPage(key: QueryKey) {
  return kept?.find(key);
}

/** Nothing that was read stays on this device. */
export async function forgetPages(): Promise<void> {
  for (const key of [READY, SPARES]) localStorage.removeItem(key);
  kept?.forget();
  opened ??= open();
  await (await opened).clear().catch(() => undefined);
}

/** Where the lessons stand that are on this device, by id, and the classes one can be begun with. */
export const READY = "lauf.ready";
export const SPARES = "lauf.spares";
