/** A lesson that is begun without a network: its pages under its own ids, and in its turn. */
import { expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { activity, board, ClassServer } from "../testing/hall";
import { onPage, sent, settled } from "../testing/page";
import type { BegunLesson } from "../sync/jobs";
import { startPages } from "../sync/useKeptPages";
import { useSync } from "../sync/useSync";
import { asBegun, beginHere, fetchSpares, sparesHere } from "./spares";

const SPARE = {
  lesson: {
    id: "spare-lesson",
    class_name: "4 Heron",
    activities: [activity({ id: "spare-test" })],
  },
  timeline: { lesson_id: "spare-lesson", blocks: [{ activity_id: "spare-test" }] },
  plan: { revision: 0 },
  results: { tests: [{ activity_id: "spare-test" }] },
  pulse: { children: [] },
  lanes: board({ activity_id: "spare-test", lesson_id: "spare-lesson" }),
  ...{ aims: {}, rivals: [], check: {}, beeps: null, target: null },
} as unknown as Schemas["SpareLesson"];
const BEGUN: BegunLesson = {
  ...{ id: "own-lesson", class_id: "class", test_ids: ["press-ups"], activity_ids: ["own-test"] },
  ...{ starts_at: "2026-03-10T09:00:00Z", minutes: 40, place: "field", pulses: false },
};

async function begin() {
  const server = new ClassServer(board());
  const row = { class_id: "class", class_name: "4 Heron", test_id: "press-ups", test: "Press-ups" };
  server.on("GET", "/api/spares", () => [row]);
  server.on("GET", "/api/spares/{class_id}/{test_id}", () => SPARE);
  server.on("POST", "/api/lessons", ({ body }) => ({ id: (body as BegunLesson).id }));
  const page = await onPage(() => useSync());
  await startPages(page.queries, () => "robin");
  return { server, queries: page.queries, sync: page.it };
}

it("is the spare one under its own ids, at its own time and place", () => {
  const { lesson, timeline, results, lanes } = asBegun(SPARE, BEGUN);
  expect(lesson).toMatchObject({
    ...{ id: "own-lesson", minutes: 40, place: "field", class_name: "4 Heron" },
    activities: [{ id: "own-test" }],
  });
  expect([timeline.lesson_id, timeline.blocks[0]?.activity_id]).toEqual(["own-lesson", "own-test"]);
  expect([results.tests[0]?.activity_id, lanes.activity_id]).toEqual(["own-test", "own-test"]);
  expect(SPARE.lesson.id).toBe("spare-lesson");
});

it("is begun of what is on the device, and sent before its first score", async () => {
  const { server, queries, sync } = await begin();
  await fetchSpares(queries);
  await fetchSpares(queries); // what is here is not read again
  expect(server.of("GET", "/api/spares/")).toHaveLength(1);
  expect((await sparesHere()).map((one) => one.test)).toEqual(["Press-ups"]);
  server.down = true;
  expect(await beginHere(queries, { ...BEGUN, class_id: "another" })).toBe(false);
  expect(await beginHere(queries, { ...BEGUN, test_ids: ["press-ups", "plank"] })).toBe(false);
  expect(await beginHere(queries, BEGUN)).toBe(true);
  expect(queries.getQueryData(["lanes", "own-test"])).toMatchObject({ lesson_id: "own-lesson" });
  expect(queries.getQueryData(["beeps", "own-test"])).toBeUndefined();
  const body = { id: "score", pupil_id: "ada", try_number: 1, typed: "18" } as never;
  void sync.put({ kind: "attempt", id: "score", lane: "ada", at: "own-test", body });
  void sync.put({ kind: "conduct", id: "clock", lane: "c", at: "own-lesson", body: {} as never });
  await settled();
  expect([sync.unsent.value, sync.waiting.value]).toEqual([1, 3]);
  server.down = false;
  server.on("PUT", "/api/lessons/{lesson_id}/conduct", () => ({}));
  sync.wake();
  await sent();
  const asked = server.asked.slice(-3).map((one) => `${one.method} ${one.path}`);
  expect([asked[0], asked.slice(1).sort()]).toEqual([
    "POST /api/lessons",
    ["POST /api/activities/own-test/attempts", "PUT /api/lessons/own-lesson/conduct"],
  ]);
});
