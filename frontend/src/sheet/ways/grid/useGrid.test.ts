/** All tests of a lesson in one table: typed down a test or along a child. */
import { expect, it } from "vitest";
import type { Schemas } from "../../../api/client";
import { activity, board, child, ClassServer, NAMES, score } from "../../../testing/hall";
import { onPage, sent, type } from "../../../testing/page";
import type { Run } from "../../run";
import { useGrid } from "./useGrid";

type Grid = Schemas["GridTest"];

async function begin(jump: Partial<Schemas["GridTest"]> = {}, runs: Run[] = []) {
  const server = new ClassServer(board());
  const tests = ["reps", "jump"].map(
    (activity_id) =>
      ({ ...board(), activity_id, ...(activity_id === "jump" && jump) }) as unknown as Grid,
  );
  const cellOf = (activity_id: string, typed: string) => ({
    ...{ activity_id, head: typed && "x", variant: "full" },
    score: typed ? score("x", typed, { conditions: { box_mm: 300 } }) : null,
  });
  const children = NAMES.map((name, at) => ({
    ...child(name, at + 1),
    cells: [cellOf("reps", at ? "" : "12"), cellOf("jump", "")],
  }));
  server.on("GET", "/api/lessons/{lesson_id}/grid", () => ({ tests, children }));
  const lesson = {
    id: "lesson",
    activities: [activity(), activity({ id: "jump", test: "Long jump", runs })],
  };
  const page = await onPage(() => useGrid(() => lesson));
  const at = () => `${page.it.child.value?.name} ${page.it.test.value?.activity_id}`;
  return { server, grid: page.it, at };
}

it("begins at the first empty cell and goes down the test, then to the next one", async () => {
  const { server, grid, at } = await begin();
  expect([at(), grid.filled.value]).toEqual(["Ben reps", 1]);
  type(grid, "14⏎15⏎16⏎");
  await sent();
  expect(server.kept.map((one) => one.typed)).toEqual(["14", "15", "16"]);
  expect([at(), grid.filled.value]).toEqual(["Ada jump", 4]);
});

it("goes along a child where that is how the class comes by", async () => {
  const { server, grid, at } = await begin();
  grid.along.value = true;
  type(grid, "14⏎150⏎");
  expect(grid.hold.matter.value).toMatchObject({ kind: "local" }); // over the most of this test
  type(grid, "<");
  grid.entry.typed.value = "50";
  type(grid, "⏎");
  await sent();
  expect([server.kept.map((one) => one.pupil_id), at()]).toEqual([["ben", "ben"], "Cy reps"]);
});

it("turns a form for one child in one test, and keeps a correction's conditions", async () => {
  const { server, grid, at } = await begin();
  grid.press(0, 0, new Event("click"));
  expect(at()).toBe("Ada reps");
  type(grid, "*13⏎");
  await sent();
  expect(server.kept).toMatchObject([
    { typed: "13", variant: "knees", conditions: { box_mm: 300 }, why: "typed again" },
  ]);
  expect(grid.doers.value.every((one) => one.at === grid.test.value?.activity_id)).toBe(true);
});

it("takes a time by the clock of its own test, and says whose turn it is", async () => {
  const clock: Run = {
    ...{ id: "clock", way: "taps", wave: null, try_number: 1, revision: 1, ended: "" },
    ...{ anchor_ms: 1_000, go_ms: 0, pauses: [], paused_ms: null },
  };
  const { server, grid } = await begin({ kind: "time" }, [clock]);
  expect(grid.nextName()).toBe("Ben");
  type(grid, "14⏎");
  grid.press(2, 1, new Event("click"));
  expect(grid.nextName()).toBe("Cy");
  type(grid, "15⏎");
  await sent();
  expect(server.kept.map((one) => [one.typed, one.run_id ?? null])).toEqual([
    ["14", null],
    ["15", "clock"],
  ]);
});
