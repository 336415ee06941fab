/** The table of all tests: an entry shows in its cell, and a reason in every test of the lesson. */
import { expect, it } from "vitest";
import { ref } from "vue";
import type { Schemas } from "../../api/client";
import { board, child, ClassServer, NAMES } from "../../testing/hall";
import { onPage, sent, settled, until } from "../../testing/page";
import { useSheet } from "../useSheet";
import { useBattery } from "./battery";

/** Two tests of four children; `asked` counts how often the whole table was read. */
async function begin() {
  const server = new ClassServer(board());
  const at = (activity_id: string, kind: string, more: Partial<Schemas["GridTest"]> = {}) =>
    ({ ...board(), activity_id, kind, ...more }) as unknown as Schemas["GridTest"];
  const tests = [at("reps", "count"), at("mile", "time"), at("weight", "mass", { private: true })];
  const cells = tests.map(({ activity_id }) => ({
    ...{ activity_id, head: null, variant: "full", score: null },
    ...{ rung: "", change: "", verdict: "", then: "", care: null },
  }));
  const children = NAMES.map((name, place) => ({ ...child(name, place + 1), cells }));
  server.on("GET", "/api/lessons/{lesson_id}/grid", () => ({ tests, children }));
  const compared = ref<string | undefined>(undefined);
  const page = await onPage(() => {
    const battery = useBattery(
      "lesson",
      () => ["reps", "mile", "weight"],
      compared,
      () => "run",
    );
    return { ...battery, sheet: useSheet(battery.source) };
  });
  const place = (pupilId: string, where: string) => ({ pupilId, at: where, slot: 1 });
  const typed = (pupilId: string) =>
    ["reps", "mile", "weight"].map((one) => page.it.sheet.cell(place(pupilId, one)).typed);
  return { server, compared, place, typed, queries: page.queries, ...page.it };
}

it("shows an entry in its own cell at once, and reads the sums again a moment later", async () => {
  const { server, sheet, place, typed } = await begin();
  sheet.write([{ place: place("ada", "reps"), entry: { typed: "18" } }]);
  expect(typed("ada")).toEqual(["18", "", ""]);
  await sent();
  expect([typed("ada"), typed("ben")]).toEqual([
    ["18", "", ""],
    ["", "", ""],
  ]);
  await until(() => server.of("GET", "grid").length >= 2);
});

it("says a reason at every open test of the lesson, in words, and takes all back in one", async () => {
  const { server, sheet, place } = await begin();
  sheet.write([{ place: place("ada", "reps"), entry: { typed: "a" } }]);
  await sent();
  expect(server.kept.map((one) => one.typed)).toEqual(["a", "absent"]);
  expect(sheet.announcement.value).toBe("Ada: absent, for all 2 tests");
  sheet.takeBack();
  await sent();
  expect(server.kept.slice(2).map((one) => one.withdrawn)).toEqual([true, true]);
});

it("puts an answer into the sheet of its test, where that is on the device", async () => {
  const { sheet, place, queries } = await begin();
  queries.setQueryData(["lanes", "reps"], board());
  sheet.write([{ place: place("ada", "reps"), entry: { typed: "18" } }]);
  await sent();
  const lanes = queries.getQueryData<Schemas["ClassLanes"]>(["lanes", "reps"]);
  expect(lanes?.children[0]?.score?.typed).toBe("18");
  expect(queries.getQueryData(["lanes", "mile"])).toBeUndefined();
});

it("takes only a time by the clock that runs, and knows whose a write is", async () => {
  const { source, place } = await begin();
  const run = (where: string) => {
    const { body } = source.job(place("ada", where), { typed: "9" });
    return (body as Schemas["NewAttempt"]).run_id;
  };
  expect([run("reps"), run("mile")]).toEqual([null, "run"]);
  const job = { kind: "attempt", at: "mile", body: { pupil_id: "ben", try_number: 1 } };
  expect(source.placeOf(job as never)).toEqual(place("ben", "mile"));
  expect(source.placeOf({ ...job, at: "elsewhere" } as never)).toBeNull();
  expect(source.placeOf({ ...job, body: { ...job.body, try_number: 2 } } as never)).toBeNull();
});

it("puts the table beside another sitting, and keeps the old one on screen until it is there", async () => {
  const { server, compared, grid } = await begin();
  compared.value = "autumn";
  expect(grid.value?.tests).toHaveLength(3);
  await settled();
  expect(server.of("GET", "grid").map((one) => one.query.get("compared_with"))).toEqual([
    null,
    "autumn",
  ]);
});
