/** Several children counted at once: a tap is no score until it is kept, and then it is one. */
import { t } from "../../../messages/sheet";
import { expect, it } from "vitest";
import { ref } from "vue";
import { activity, board, ClassServer, NAMES } from "../../../testing/hall";
import { leave, onPage, sent, settled } from "../../../testing/page";
import type { HallClock } from "../../types";
import { useTally } from "./useTally";

const clockAt = (phase: HallClock["phase"], go = "run 1"): HallClock => ({
  ...{ go, phase },
  left: 10,
  worked: 5,
});

async function begin(
  called: HallClock | null = null,
  server = new ClassServer(board()),
  id = "reps",
) {
  const clock = ref(called);
  const page = await onPage(() =>
    useTally(
      () => activity({ id }),
      () => clock.value,
    ),
  );
  const tap = (...pupils: string[]) => pupils.forEach((one) => page.it.add(one));
  const names = () => page.it.areas.value.map((row) => row.child.name);
  return { server, clock, tally: page.it, tap, names };
}

it("counts the first wave, keeps it, and goes on to the next", async () => {
  localStorage.clear();
  const { server, tally, tap, names } = await begin();
  expect(names()).toEqual(["Ada", "Cy"]);
  tap("ada", "ada", "cy", "ada", "ben"); // Ben is in no area
  expect([tally.count("ada"), tally.count("cy"), tally.count("ben")]).toEqual([3, 1, 0]);
  tally.takeBack("cy");
  tap("cy", "cy");
  tally.keep();
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 3", "Cy 1: 2"]);
  expect([tally.saved.value, names()]).toEqual([t("nScoreSaved", 2), ["Ben", "Dot"]]);
});

it("takes the keeping back in one press, with every tap as it was", async () => {
  localStorage.clear();
  const { server, tally, tap } = await begin();
  tap("ada", "cy", "cy");
  tally.keep();
  await sent();
  tally.undo();
  await sent();
  expect(server.counts()).toEqual([]);
  expect([tally.count("ada"), tally.count("cy")]).toEqual([1, 2]);
  tally.undo();
  expect(tally.count("cy")).toBe(1);
});

it("counts nothing beside the clock, and nothing of two goes together", async () => {
  localStorage.clear();
  const { clock, tally, tap } = await begin(clockAt("ready"));
  tap("ada");
  expect([tally.count("ada"), tally.problem.value]).toEqual([0, t("theClockIsNotRunningSo")]);
  clock.value = clockAt("work");
  tap("ada");
  expect([tally.count("ada"), tally.isOn.value]).toEqual([1, true]);
  clock.value = clockAt("work", "run 2");
  tap("ada");
  expect([tally.count("ada"), tally.isOn.value]).toEqual([1, false]);
  expect(tally.problem.value).toBe(t("saveTheCountsOfTheLast"));
});

it("gives the area of a child that does not take part to the next one", async () => {
  localStorage.clear();
  const { server, tally, tap, names } = await begin();
  tap("ada", "cy");
  tally.giveReason(0, "s");
  await sent();
  expect(server.counts()).toEqual(["Ada 1: s"]);
  // Nobody else of the first wave is left: the area goes to nobody, and Cy's count stays.
  expect([names(), tally.count("cy")]).toEqual([["Cy"], 1]);
  tally.undo();
  await sent();
  expect([server.counts(), names(), tally.count("ada")]).toEqual([[], ["Ada", "Cy"], 1]);
  tally.replace(0, "dot");
  expect(names()).toEqual(["Dot", "Cy"]);
  expect(tally.others.value.map((row) => row.child.name)).toEqual(["Ada", "Ben"]);
});

it("is there again after a reload, and says who has a score already", async () => {
  localStorage.clear();
  const first = await begin();
  first.tap("ada", "ada");
  await settled();
  leave();
  const { tally, server } = await begin(null, first.server);
  expect(tally.count("ada")).toBe(2);
  tally.keep();
  await sent();
  tally.replace(0, "ada");
  tally.add("ada");
  expect(tally.again.value.map((row) => row.child.name)).toEqual(["Ada"]);
  expect([server.counts(), NAMES.length, tally.canUndo.value]).toEqual([["Ada 1: 2"], 4, true]);
});

it("can be undone from the first tap to the keeping, and keeps each test's taps apart", async () => {
  const { server, tally, tap } = await begin();
  expect([tally.problem.value, tally.saved.value, tally.canUndo.value]).toEqual(["", "", false]);
  expect(tally.reasons.value.map((one) => one.key)).toEqual(["a", "s", "v"]);
  tap("ada");
  expect(tally.canUndo.value).toBe(true);
  tally.undo();
  expect(tally.canUndo.value).toBe(false);
  tap("ada");
  tally.keep();
  expect(tally.canUndo.value).toBe(true);
  tally.undo();
  await sent();
  tally.undo(); // the tap
  expect([tally.canUndo.value, tally.count("ada")]).toEqual([false, 0]);
  tap("ada");
  await settled();
  leave();
  const other = await begin(null, server, "squats");
  expect([other.tally.count("ada"), other.tally.canUndo.value]).toEqual([0, false]);
});
