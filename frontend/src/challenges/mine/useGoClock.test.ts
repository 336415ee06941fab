/** A child's own clock: it counts in, runs for the time of the test, and sounds its end once. */
import { beforeEach, expect, it, vi } from "vitest";
import { heldClock, leave, onPage, until } from "../../testing/page";
import { READY_MS, useGoClock } from "./useGoClock";

const tones: [string, number][] = [];
let takenBack = 0;
vi.mock("../../parts/sound/sound", () => ({
  wake: () => undefined,
  playIn: (kind: string, ms: number) => {
    tones.push([kind, ms]);
    return () => (takenBack += 1);
  },
}));
let held = heldClock();
beforeEach(() => {
  held = heldClock();
  tones.length = takenBack = 0;
});

it("counts in, runs, and is over after the time of the test", async () => {
  const { it: clock } = await onPage(() => useGoClock(() => 30));
  const at = async (ms: number, phase: string, shows: number) => {
    held.ahead(READY_MS + ms);
    await until(() => clock.phase.value === phase && clock.shows.value === shows);
  };
  expect(clock.phase.value).toBe("still");
  clock.start();
  expect([clock.phase.value, clock.shows.value]).toEqual(["ready", 5]);
  expect(tones).toEqual([
    ...[["count", 2_000], ["count", 3_000], ["count", 4_000]], // prettier-ignore
    ...[["go", 5_000], ["stop", 35_000]], // prettier-ignore
  ]);
  await at(-1_500, "ready", 2);
  await at(0, "work", 30);
  await at(29_100, "work", 1);
  await at(30_000, "over", 0);
  expect(takenBack).toBe(0);
});

it("begins anew at a press, and falls silent when it is stopped or left", async () => {
  const { it: clock } = await onPage(() => useGoClock(() => 30));
  clock.start();
  held.ahead(READY_MS + 10_000);
  await until(() => clock.phase.value === "work");
  clock.start();
  expect([clock.phase.value, clock.shows.value, takenBack]).toEqual(["ready", 5, 5]);
  clock.stop();
  expect([clock.phase.value, takenBack]).toEqual(["still", 10]);
  clock.start();
  leave();
  expect(takenBack).toBe(15);
});
