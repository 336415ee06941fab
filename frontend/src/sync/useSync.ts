/** The engine of this page: one for all screens, with this device's store and the other tabs. */
import {
  promiseTimeout,
  useBroadcastChannel,
  useEventListener,
  useMemoize,
  watchDebounced,
} from "@vueuse/core";
import { effectScope, watch } from "vue";
import { answer, ApiError, client } from "../api/client";
import { alone } from "./alone";
import { setAside } from "./aside";
import { TAG } from "./tag";
import type { Job, Store } from "./jobs";
import { createEngine, type Engine, type Told } from "./engine";
import { post } from "./routes";

const LONGEST_OPENING_MS = 3_000;
/** What is not sent by then waits for a network. */
const ASK_MS = 5_000;

/** Sends; where the page's token has grown old, once more with a new one. */
async function send(job: Job): Promise<unknown> {
  try {
    return await answer(post(client, job));
  } catch (error) {
    if (!(error instanceof ApiError) || error.status !== 403) throw error;
    // Asked by guests too: it answers everybody, and brings the token.
    await answer(client.GET("/api/session"));
    return answer(post(client, job));
  }
}

/** The browser tells the service worker when there is a network again; not every one does. */
async function askForBackground(): Promise<void> {
  if (!("serviceWorker" in navigator)) return;
  const worker: WithSync | undefined = await navigator.serviceWorker.getRegistration();
  await worker?.sync?.register(TAG).catch(() => undefined);
}
interface WithSync extends ServiceWorkerRegistration {
  sync?: { register(tag: string): Promise<void> };
}

type Sync = Engine & {
  /** Done when what was kept before this page was opened is there. */
  ready(): Promise<void>;
};
let engine: Sync | null = null;

export function useSync(): Sync {
  engine ??= effectScope(true).run(begin) ?? begin();
  return engine;
}

function begin(): Sync {
  const { data, post: tell } = useBroadcastChannel<Told, Told>({ name: "lauf.sync" });
  // The database is fetched once somebody is signed in, beside the page and not before it.
  const device = useMemoize(async () => {
    const { Device, takeOver } = await import("./device");
    const opened = new Device();
    await takeOver(opened);
    return opened;
  });
  const store: Store = {
    all: async () => (await device()).all(),
    put: async (job) => (await device()).put(job),
    remove: async (id) => (await device()).remove(id),
  };
  const made = createEngine({ store, send, alone, tell });
  watch(data, (told: Told | undefined) => told && made.told(told), { flush: "sync" });
  useEventListener(window, "online", () => made.wake());
  // What is still here when this page has gone is sent by the service worker, where there is one.
  watchDebounced(made.unsent, (some) => some && void askForBackground(), { debounce: ASK_MS });
  useEventListener(window, "pagehide", () => setAside(made.notYetKept()));
  // A database that does not open keeps nobody from working.
  const ready = useMemoize(() => Promise.race([made.load(), promiseTimeout(LONGEST_OPENING_MS)]));
  return { ...made, ready };
}
