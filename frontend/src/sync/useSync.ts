/** The engine of this page: one for all screens, with this device's store and the other tabs. */
import { useBroadcastChannel, useEventListener } from "@vueuse/core";
import { effectScope, watch } from "vue";
import { answer, ApiError, client } from "../api/client";
import { Device, takeOver, type Job } from "./device";
import { createEngine, type Engine, type Told } from "./engine";

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
  ready: Promise<void>;
};
let engine: Sync | null = null;

export function useSync(): Sync {
  engine ??= effectScope(true).run(begin)!;
  return engine;
}

function begin(): Sync {
  const { data, post: tell } = useBroadcastChannel<Told, Told>({ name: "lauf.sync" });
  const store = new Device();
  const made = createEngine({ store, send, alone, tell });
  watch(data, (told) => told && made.told(told), { flush: "sync" });
  useEventListener(window, "online", () => made.wake());
  const ready = takeOver(store).then(() => made.load());
  return { ...made, ready };
}
