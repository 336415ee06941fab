/** The shuttle run: who misses two lines in a row is out with what was completed before them. */
import { t } from "../../../messages/sheet";
import { beforeEach, expect, it, vi } from "vitest";
import { activity, board, ClassServer, type Board } from "../../../testing/hall";
import { heldClock, leave, onPage, sent, settled, until } from "../../../testing/page";
import { useBeeps } from "./useBeeps";

/** Beeps every 9 s after the start: two shuttles in the first stage, then one a stage. */
const BEEPS = [1, 2, 3, 4].map((at) => ({
  at_ms: 9_000 * at,
  stage: at < 3 ? 1 : at - 1,
  shuttle: at < 3 ? at : 1,
  speed: 8,
  if_missed: `1.${at - 1}`,
  so_far: `1.${at}`,
}));
const READY_MS = 5_000;

/** Every tone that was asked for, with the milliseconds until it sounds; how many were taken back. */
const tones: [string, number][] = [];
let takenBack = 0;
vi.mock("../../../parts/sound/sound", () => ({
  wake: () => undefined,
  playIn: (kind: string, ms: number) => {
    tones.push([kind, ms]);
    return () => (takenBack += 1);
  },
}));

let clock = heldClock();
beforeEach(() => {
  tones.length = takenBack = 0;
  clock = heldClock();
});

async function begin(more: Partial<Board> = {}, server = new ClassServer(board(shuttles(more)))) {
  server.on("GET", "/api/activities/{activity_id}/beeps", () => ({ beeps: BEEPS }));
  const page = await onPage(() => useBeeps(() => activity({ kind: "shuttles" })));
  const run = page.it;
  const row = (name: string) => run.test.rows.value.find((one) => one.child.name === name)!;
  /** So many milliseconds into the run. */
  const at = async (ms: number) => {
    clock.ahead(READY_MS + ms);
    await new Promise((done) => setTimeout(done, 150)); // the clock is looked at by then
  };
  return { server, run, row, at, page };
}
const shuttles = (more: Partial<Board>) => ({
  ...{ kind: "shuttles", waves: 1, seconds: null },
  quick_check: { pattern: ".*", lowest: null, highest: null },
  ...more,
});

it("warns at the first line missed and ends at the next, with what was completed before", async () => {
  const { server, run, row, at } = await begin();
  run.start();
  await at(-3_000);
  expect([run.begun.value, run.countdown.value]).toEqual([false, 3]);
  await at(9_100);
  run.tap(row("Ada"));
  run.tap(row("Ada")); // twice for one line is one line
  expect(run.warned(row("Ada"))).toBe(true);
  await at(18_100);
  run.tap(row("Ada"));
  run.tap(row("Ben"));
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 1.0"]);
  await at(36_100); // Ben made the line between: the warning is gone
  expect(run.warned(row("Ben"))).toBe(false);
  run.tap(row("Ben"));
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 1.0"]);
  expect(run.running.value).toBe(3);
});

it("keeps for who stops the last line made, and takes back a wrong tap", async () => {
  const { server, run, row, at } = await begin();
  run.start();
  await at(18_100);
  run.stops(row("Cy"));
  run.stops(row("Dot"));
  await sent();
  expect(server.counts()).toEqual(["Cy 1: 1.2", "Dot 1: 1.2"]);
  run.goesOn(row("Cy"));
  await sent();
  expect(server.counts()).toEqual(["Dot 1: 1.2"]);
  expect(server.kept.at(-1)?.why).toBe("wrong tap");
  run.undo(); // Cy had stopped after all
  await sent();
  expect(server.counts()).toEqual(["Cy 1: 1.2", "Dot 1: 1.2"]);
});

it("ends for everybody at once, and one undo has them run again", async () => {
  const { server, run, at } = await begin();
  run.start();
  await at(9_100);
  run.endAll();
  await sent();
  expect(run.ended.value).toBe(true);
  expect(server.counts()).toEqual(["Ada 1: 1.1", "Ben 1: 1.1", "Cy 1: 1.1", "Dot 1: 1.1"]);
  expect(server.runs.at(-1)?.ended).toBe("complete");
  run.undo();
  await sent();
  expect([server.counts(), run.running.value]).toEqual([[], 4]);
});

it("does not run who has a reason, in this go and in the next, which is kept beside the first", async () => {
  const { server, run, row, at } = await begin({ most_tries: 2 });
  run.start();
  run.why.value = "a";
  run.tap(row("Ada"));
  expect([run.scoreWords(row("Ada")), run.why.value]).toEqual(["absent", ""]);
  await at(9_100);
  run.endAll();
  await sent();
  run.start();
  await sent();
  expect([run.go.value, run.running.value]).toEqual([2, 3]);
  await at(18_100);
  run.endAll();
  await sent();
  expect(server.counts()).toContain("Ben 1: 1.1");
  expect(server.counts().filter((one) => one.startsWith("Ada"))).toEqual(["Ada 1: a"]);
  run.start();
  expect(run.problem.value).toContain("There is no room for another go");
});

it("goes on after a reload, and each wave has a run of its own", async () => {
  const { server, run, row, at } = await begin({ waves: 2 });
  run.start();
  await at(9_100);
  run.tap(row("Ada"));
  await sent();
  run.toWave(2);
  await settled();
  expect([run.run.value.startedAt, run.shown.value.map((one) => one.child.name)]).toEqual([
    null,
    ["Ben", "Dot"],
  ]);
  run.toWave(1);
  await settled();
  leave();
  const again = await begin({}, server);
  expect(again.run.warned(again.row("Ada"))).toBe(true);
  await again.at(18_100);
  again.run.tap(again.row("Ada"));
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 1.0"]);
});

it("sounds three counts and the start, and each beep once, a moment ahead of it", async () => {
  const { run, at } = await begin();
  expect(run.problem.value).toBe("");
  run.undo();
  expect(run.test.sheet.announcement.value).toBe(t("nothingToUndoInThisGo"));
  run.start();
  expect(tones.splice(0)).toEqual([
    ["count", 2_000],
    ["count", 3_000],
    ["count", 4_000],
    ["go", 5_000],
  ]);
  await at(8_000);
  expect(tones).toEqual([]); // not so early that it could not be taken back
  await at(8_100);
  await at(8_500);
  expect(tones).toEqual([["beep", 900]]);
  await at(17_200);
  expect(tones.splice(0)).toEqual([
    ["beep", 900],
    ["next_stage", 800],
  ]);
  run.endAll();
  await at(26_500);
  expect([tones, takenBack]).toEqual([[], 2]);
});

it("sounds no beep again after a reload, and takes a warning back without a score", async () => {
  const { server, run, row, at } = await begin();
  run.start();
  await at(9_100);
  run.tap(row("Ada"));
  run.undo();
  expect([run.warned(row("Ada")), run.test.sheet.announcement.value]).toEqual([
    false,
    t("theLastTapIsUndone"),
  ]);
  run.tap(row("Ada"));
  await sent();
  leave();
  tones.length = 0;
  clock.ahead(READY_MS + 17_500);
  const again = await begin({}, server);
  await until(() => tones.length > 0);
  expect(tones).toEqual([["next_stage", 500]]);
  expect(again.run.warned(again.row("Ada"))).toBe(true);
});
