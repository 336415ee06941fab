/** The engine of a page: each kind of write goes to its address, with a new token where the old one
 * has grown old. */
import { BroadcastChannel } from "node:worker_threads";
import { expect, it, vi } from "vitest";
import { onPage, sent, until } from "../testing/page";
import { Refused, TestServer } from "../testing/server";
import type { Told } from "./engine";
import type { Job, NewAttempt } from "./jobs";
import { useSync } from "./useSync";

// This browser's tabs hear of each other as any do; it has no word for it itself.
vi.stubGlobal("BroadcastChannel", BroadcastChannel);

async function begin() {
  const server = new TestServer();
  server.on("GET", "/api/session", () => ({}));
  for (const [method, path] of [
    ["POST", "/api/activities/{activity_id}/attempts"],
    ["POST", "/api/lessons/{lesson_id}/pulses"],
    ["PUT", "/api/activities/{activity_id}/runs/{run_id}"],
    ["PUT", "/api/lessons/{lesson_id}/conduct"],
  ] as const) {
    server.on(method, path, () => ({}));
  }
  const page = await onPage(() => useSync());
  const put = (kind: Job["kind"], id: string, body: object = { id }) =>
    page.it.put({ kind, id, at: "place", lane: id, body } as never);
  return { server, sync: page.it, put };
}

it("sends each kind of write to its own address", async () => {
  const { server, put } = await begin();
  for (const kind of ["attempt", "pulse", "run", "conduct"] as const) void put(kind, kind);
  await sent();
  expect(server.asked.map((one) => `${one.method} ${one.path}`).sort()).toEqual([
    "POST /api/activities/place/attempts",
    "POST /api/lessons/place/pulses",
    "PUT /api/activities/place/runs/run",
    "PUT /api/lessons/place/conduct",
  ]);
  // A clock's id stands in its address alone.
  expect(server.of("PUT", "runs")[0]?.body).toEqual({});
});

it("gets a new token and sends once more where the old one has grown old", async () => {
  const { server, put, sync } = await begin();
  let old = true;
  server.on("POST", "/api/activities/{activity_id}/attempts", () => {
    if (!old) return {};
    old = false;
    throw new Refused(403);
  });
  void put("attempt", "one");
  await sent();
  expect(server.asked.map((one) => one.path)).toEqual([
    "/api/activities/place/attempts",
    "/api/session",
    "/api/activities/place/attempts",
  ]);
  expect(sync.waiting.value).toBe(0);
});

it("keeps without a network what it sends once that is back", async () => {
  const { server, put, sync } = await begin();
  server.down = true;
  await put("attempt", "one");
  expect([sync.unsent.value, sync.notYetKept()]).toEqual([1, []]);
  server.down = false;
  window.dispatchEvent(new Event("online"));
  await sent();
  expect([sync.unsent.value, server.asked.length]).toEqual([0, 1]);
});

it("is one for all screens", async () => {
  const { sync } = await begin();
  expect(useSync()).toBe(sync);
});

it("shows what another tab kept, until that has sent it", async () => {
  const { sync } = await begin();
  const other = new BroadcastChannel("lauf.sync");
  const body = { id: "theirs", pupil_id: "ada", typed: "18" } as NewAttempt;
  const job = { kind: "attempt", id: "theirs", at: "place", lane: "theirs", body } as Job;
  other.postMessage({ what: "kept", job: { ...job, by: "robin", order: 1 } } satisfies Told);
  await until(() => sync.unsent.value === 1);
  expect(sync.mine.value.map((one) => one.id)).toEqual(["theirs"]);
  other.postMessage({ what: "gone", id: "theirs" } satisfies Told);
  await until(() => sync.unsent.value === 0);
  other.close();
});
