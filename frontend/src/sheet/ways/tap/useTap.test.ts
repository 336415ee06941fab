/** A mass start and its taps: times of who finishes, laps of who does not, and each press undone. */
import { t } from "../../../messages/sheet";
import { beforeEach, expect, it, vi } from "vitest";
import { nextTick } from "vue";
import { activity, board, ClassServer, type Board } from "../../../testing/hall";
import { heldClock, leave, onPage, sent, settled } from "../../../testing/page";
import { useTap } from "./useTap";

const sounds: string[] = [];
vi.mock("../../../parts/sound/sound", () => ({
  wake: () => undefined,
  play: (kind: string) => sounds.push(kind),
}));

let clock = heldClock();
beforeEach(() => {
  sounds.length = 0;
  clock = heldClock();
});

async function begin(more: Partial<Board> = {}, server = new ClassServer(board(run(more)))) {
  const page = await onPage(() => useTap(() => activity({ kind: "time" })));
  const tap = page.it;
  const row = (name: string) => tap.test.rows.value.find((one) => one.child.name === name)!;
  const at = (ms: number, pupil: string | null) => {
    clock.ahead(ms);
    tap.tap(pupil);
  };
  return { server, tap, row, at, page };
}
const run = (more: Partial<Board>) => ({
  ...{ kind: "time", better: "down", waves: 1, laps: null, unit: "s" },
  quick_check: { pattern: ".*", lowest: null, highest: null },
  ...more,
});
const holding = { better: "up", cap: 60_000, cap_typed: "1:00" };

it("keeps the time of who is tapped, by the clock that was started, which is known to the server", async () => {
  const { server, tap, at, page } = await begin();
  at(500, "ada"); // nothing runs yet
  tap.start();
  const started = tap.state.value.started!;
  expect(started).toBe(clock.start + 500);
  at(10_600, "ada");
  at(12_000, "cy");
  at(12_300, "cy"); // bounced
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 10.1", "Cy 1: 11.5"]);
  expect(server.runs.map((one) => [one.way, one.ended, one.anchor_ms])).toEqual([
    ["taps", "", started],
  ]);
  expect(server.kept.every((one) => one.run_id === server.runs[0]?.id)).toBe(true);
  expect(tap.left.value.map((one) => one.child.name)).toEqual(["Ben", "Dot"]);
  expect(page.clocks()).toBe(1);
});

it("undoes press by press: a tap, a name, a wrong tap", async () => {
  const { server, tap, row, at } = await begin();
  tap.start();
  at(9_000, "ada");
  at(9_500, null);
  expect(tap.unknown.value).toHaveLength(1);
  tap.name(tap.unknown.value[0]!.id, row("Dot"));
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 9.0", "Dot 1: 9.5"]);
  tap.goOn(row("Ada"));
  await sent();
  expect(server.counts()).toEqual(["Dot 1: 9.5"]);
  expect(server.kept.at(-1)?.why).toBe("wrong tap");
  tap.undo(); // Ada had been right after all
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 9.0", "Dot 1: 9.5"]);
  tap.undo(); // the name
  await sent();
  expect([server.counts(), tap.unknown.value.length]).toEqual([["Ada 1: 9.0"], 1]);
  tap.undo(); // the unknown one's tap, which had kept nothing
  expect(tap.test.sheet.announcement.value).toBe(t("theLastTapIsUndone"));
  tap.undo();
  await sent();
  expect(server.counts()).toEqual([]);
  tap.undo();
  expect(tap.test.sheet.announcement.value).toBe(t("nothingToUndoInThisGo"));
});

it("times each lap, and keeps the laps of who has not finished at the end", async () => {
  const { server, tap, at } = await begin({ laps: 3 });
  tap.start();
  for (const ms of [10_000, 21_000, 33_000]) at(ms, "ada");
  at(34_000, "ada"); // after the last lap it is no tap
  at(15_000, "ben");
  at(35_000, "ben");
  await sent();
  expect(server.counts()).toHaveLength(1);
  expect(server.kept[0]?.typed).toContain("33.0");
  tap.endAll();
  await sent();
  expect(server.counts().at(-1)).toBe("Ben 1: 2 laps");
  expect(server.kept.at(-1)?.run_id).toBe(server.runs[0]?.id);
  expect(sounds).toEqual(["go", "stop"]);
  expect(server.runs.at(-1)?.ended).toBe("complete");
  // One press kept them, one takes them back.
  tap.undo();
  await sent();
  expect(server.counts()).toHaveLength(1);
});

it("takes one lap fewer than the distance, and no other number, on a measured course", async () => {
  const { tap } = await begin({ laps: 4 });
  tap.setLaps(3);
  expect([tap.laps.value, tap.problem.value]).toEqual([3, ""]);
  tap.setLaps(7);
  expect(tap.problem.value).toBe(t("theDistanceIsNLapsOf", { n: 4 }));
  expect(tap.laps.value).toBe(3);
});

it("ends a hold at the test's maximum, for those who still hold", async () => {
  const { server, tap, at } = await begin(holding);
  tap.start();
  at(42_300, "ben");
  at(60_000, "cy"); // tapped at the maximum or after it: it is the maximum
  tap.allReached();
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 1:00", "Ben 1: 42.3", "Cy 1: 1:00", "Dot 1: 1:00"]);
});

it("runs the next go over the laps that were set by hand", async () => {
  const { server, tap, at } = await begin();
  tap.setLaps(2);
  for (const ms of [0, 40_000]) {
    clock.ahead(ms);
    tap.start();
    for (const lap of [10_000, 20_000]) at(ms + lap, "ada");
    await sent();
  }
  expect(server.counts()).toEqual(["Ada 1: 0:10.0 0:20.0", "Ada 2: 0:10.0 0:20.0"]);
});

it("keeps another go beside the first, and refuses one there is no room for", async () => {
  const { server, tap, at } = await begin({ most_tries: 2 });
  for (const ms of [10_000, 30_000]) {
    tap.start();
    at(ms, "ada");
    await sent();
  }
  expect(server.counts()).toEqual(["Ada 1: 10.0", "Ada 2: 20.0"]);
  tap.start();
  expect(tap.problem.value).toContain("There is no room for another go");
  expect(tap.go.value).toBe(2);
});

it("starts a go again over nobody's time where only reasons stand", async () => {
  const { server, tap, row } = await begin();
  tap.start();
  tap.why.value = "a";
  tap.notDone(row("Ben"));
  await sent();
  expect([server.counts(), tap.why.value]).toEqual([["Ben 1: a"], ""]);
  tap.start();
  expect(tap.go.value).toBe(1);
  await sent();
  expect(server.runs.map((one) => one.ended)).toEqual(["", "restarted", ""]);
});

it("runs on through a reload, and gives each wave a clock and taps of its own", async () => {
  const { tap, at, server } = await begin({ waves: 2 });
  tap.start();
  at(9_000, "ada");
  await sent();
  tap.toWave(2);
  await nextTick();
  expect([tap.state.value.started, tap.group.value.map((one) => one.child.name)]).toEqual([
    null,
    ["Ben", "Dot"],
  ]);
  tap.toWave(1);
  await sent();
  await settled();
  leave();
  const again = await begin({}, server);
  expect(again.tap.wave.value).toBe(1);
  again.at(11_000, "cy");
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 9.0", "Cy 1: 11.0"]);
});

it("goes on with a go beside the test's own after a reload", async () => {
  const { server, tap, at } = await begin({ most_tries: 2 });
  tap.start();
  at(10_000, "ada");
  await sent();
  clock.ahead(20_000);
  tap.start();
  at(31_000, "ben");
  await sent();
  leave();
  const again = await begin({}, server);
  expect(again.tap.go.value).toBe(2);
  expect(again.tap.left.value.map((one) => one.child.name)).toEqual(["Ada", "Cy", "Dot"]);
  again.at(32_500, "cy");
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 10.0", "Ben 2: 11.0", "Cy 2: 12.5"]);
});
