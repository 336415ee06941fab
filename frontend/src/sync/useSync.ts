/** The engine of this page: one for all screens, with this device's store and the other tabs. */
import { promiseTimeout, useBroadcastChannel, useEventListener, useMemoize } from "@vueuse/core";
import { effectScope, watch } from "vue";
import { answer, ApiError, client } from "../api/client";
import { setAside } from "./aside";
import type { Job, Store } from "./jobs";
import { createEngine, type Engine, type Told } from "./engine";

const LONGEST_OPENING_MS = 3_000;

type Paths = { path: Record<string, string> };

function post(job: Job): Promise<unknown> {
  const activity = { path: { activity_id: job.at } };
  const lesson = { path: { lesson_id: job.at } };
  switch (job.kind) {
    case "attempt":
      return answer(
        client.POST("/api/activities/{activity_id}/attempts", {
          params: activity,
          body: job.body,
        }),
      );
    case "pulse":
      return answer(
        client.POST("/api/lessons/{lesson_id}/pulses", { params: lesson, body: job.body }),
      );
    case "helped":
      return answer(
        client.POST("/api/help/activities/{activity_id}/attempts", {
          params: activity,
          body: job.body,
        }),
      );
    case "go":
      return answer(client.POST("/api/mine/goes", { body: job.body }));
    case "run": {
      const { id, ...body } = job.body;
      const params = { path: { activity_id: job.at, run_id: id } } satisfies Paths;
      return answer(client.PUT("/api/activities/{activity_id}/runs/{run_id}", { params, body }));
    }
    case "conduct":
      return answer(
        client.PUT("/api/lessons/{lesson_id}/conduct", { params: lesson, body: job.body }),
      );
  }
}

/** Sends; where the page's token has grown old, once more with a new one. */
async function send(job: Job): Promise<unknown> {
  try {
    return await post(job);
  } catch (error) {
    if (!(error instanceof ApiError) || error.status !== 403) throw error;
    // Asked by guests too: it answers everybody, and brings the token.
    await answer(client.GET("/api/session"));
    return post(job);
  }
}

/** Only pages from a safe origin have locks; elsewhere sending twice stores once all the same. */
async function alone<T>(lane: string, work: () => Promise<T>): Promise<T> {
  if (!("locks" in navigator)) return work();
  const done = await navigator.locks.request(`lauf.${lane}`, async () => ({ it: await work() }));
  return done.it;
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
  useEventListener(window, "pagehide", () => setAside(made.notYetKept()));
  // A database that does not open keeps nobody from working.
  const ready = useMemoize(() => Promise.race([made.load(), promiseTimeout(LONGEST_OPENING_MS)]));
  return { ...made, ready };
}
