/** Clocks of a way: known to the server, taken up after a reload, and never two for one go. */
import { beforeEach, expect, it } from "vitest";
import { ref } from "vue";
import { activity, board, ClassServer } from "../testing/hall";
import { heldClock, leave, onPage, sent, settled } from "../testing/page";
import { Refused } from "../testing/server";
import type { Schemas } from "../api/client";
import { useSync } from "../sync/useSync";
import type { Run } from "./run";
import { latestRun, openRunOf, useOwnRun } from "./useRun";

let clock = heldClock();
beforeEach(() => {
  clock = heldClock();
});

async function begin(runs: Run[] = [], server = new ClassServer(board())) {
  const go = ref(1);
  const wave = ref<number | null>(null);
  const known = activity({ runs });
  const page = await onPage(() => useOwnRun(() => known, "taps", go, wave));
  return { server, go, wave, own: page.it, page };
}

it("is told to the server as it begins, and as it ends", async () => {
  const { server, own, page } = await begin();
  expect([own.run.value, own.goAt.value]).toEqual([null, null]);
  const at = own.start(5_000);
  expect([at, own.goAt.value]).toEqual([clock.start + 5_000, clock.start + 5_000]);
  await sent();
  expect(openRunOf("reps", [])).toBe(own.run.value?.id);
  clock.ahead(65_000);
  own.stop();
  own.stop(); // a second press changes nothing
  await sent();
  expect(server.runs.map((one) => [one.revision, one.ended, one.worked_seconds])).toEqual([
    [1, "", null],
    [2, "complete", 60],
  ]);
  expect([openRunOf("reps", []), page.clocks()]).toEqual([null, 1]);
});

it("is begun again as another one: the first is said to have been", async () => {
  const { server, own } = await begin();
  own.start();
  await sent();
  const first = own.run.value?.id;
  clock.ahead(3_000);
  own.start();
  await sent();
  expect(own.run.value?.id).not.toBe(first);
  expect(server.runs.map((one) => one.ended)).toEqual(["", "restarted", ""]);
});

it("has one for each go and wave", async () => {
  const { own, go, wave } = await begin();
  own.start();
  const first = own.run.value?.id;
  go.value = 2;
  expect(own.run.value).toBeNull();
  wave.value = 2;
  own.start();
  await settled();
  expect(latestRun("reps", [], "taps", 2)?.try_number).toBe(2);
  expect(latestRun("reps", [], "beeps")).toBeUndefined();
  [go.value, wave.value] = [1, null];
  expect(own.run.value?.id).toBe(first);
});

it("is taken up after a reload, and what the server had not heard is told again", async () => {
  const server = new ClassServer(board());
  server.down = true;
  const first = await begin([], server);
  first.own.start();
  await settled();
  const { id } = first.own.run.value!;
  leave();
  server.down = false;
  const again = await begin([], server);
  expect(again.own.run.value?.id).toBe(id);
  await sent();
  expect(server.runs.map((one) => one.id)).toContain(id);
});

it("gives way to another device's where the server says that one counts", async () => {
  const server = new ClassServer(board());
  server.on("PUT", "/api/activities/{activity_id}/runs/{run_id}", () => {
    throw new Refused(409, { message: "Another device has started this clock." });
  });
  const { own } = await begin([], server);
  own.start();
  await sent();
  expect([own.run.value, own.problem.value]).toEqual([
    null,
    "Another device has started this clock.",
  ]);
});

it("follows one that was begun elsewhere, once", async () => {
  const theirs: Run = {
    ...{ id: "theirs", way: "taps", wave: null, try_number: 1, revision: 1, ended: "" },
    ...{ anchor_ms: clock.start - 4_000, go_ms: 1_000, pauses: [], paused_ms: null },
  };
  const { own } = await begin([theirs]);
  const taken: number[] = [];
  const page = await onPage(() => {
    const here = useOwnRun(() => activity({ runs: [theirs] }), "taps");
    here.follow(
      () => taken.at(-1) ?? null,
      (at) => void taken.push(at),
    );
    return here;
  });
  await settled();
  expect([own.goAt.value, taken]).toEqual([clock.start - 3_000, [clock.start - 3_000]]);
  page.leave();
});

it("gives way where its own clock is refused, and not where something else is", async () => {
  const server = new ClassServer(board());
  const no = () => {
    throw new Refused(409, { message: "No." });
  };
  server.on("POST", "/api/activities/{activity_id}/attempts", no);
  server.on("PUT", "/api/activities/{activity_id}/runs/{run_id}", ({ at, body }) => {
    if (at[0] === "other") no();
    return { ...(body as Run), id: at[1] };
  });
  const { own } = await begin([], server);
  own.start();
  const mine = own.run.value!;
  const sync = useSync();
  const attempt = { id: "score", pupil_id: "ada", typed: "9" } as Schemas["NewAttempt"];
  void sync.put({ kind: "attempt", id: "score", lane: "score", at: "reps", body: attempt });
  // The same clock's id, of another activity: what was copied in a form can be so.
  void sync.put({ kind: "run", id: "other", lane: "other", at: "other", body: mine });
  await sent();
  expect(sync.refused.value).toBeGreaterThan(0);
  expect([own.run.value?.id, own.problem.value]).toEqual([mine.id, ""]);
});
