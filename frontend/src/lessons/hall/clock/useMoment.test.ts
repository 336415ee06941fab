/** The moment that is shown: it moves where something on screen differs, and at once after a change. */
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { shallowRef } from "vue";
import { heldClock, onPage } from "../../../testing/page";
import * as conductor from "./conductor";
import { useMoment } from "./useMoment";

const PLAN: conductor.Timeline = {
  ...{ total_ms: 60_000, cues: [], blocks: [] },
  segments: [
    {
      id: "a",
      from_ms: 0,
      to_ms: 60_000,
      phase: "work",
      label: "",
      block: 0,
      wave: 1,
      try_number: 1,
    },
  ],
};
let clock = heldClock();
beforeEach(() => {
  vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
  clock = heldClock();
});
afterEach(() => {
  vi.useRealTimers();
});

async function begin(state: conductor.Conduct | null) {
  const held = shallowRef(state);
  const looks: number[] = [];
  const page = await onPage(() =>
    useMoment(shallowRef(PLAN), held, (moment) => void looks.push(moment - clock.start)),
  );
  return { at: page.it, held, looks };
}
const shown = (at: { value: number }) => at.value - clock.start;

it("moves with the seconds while the clock goes, and looks oftener than that", async () => {
  const { at, looks } = await begin(conductor.begin("run", 1, clock.start));
  looks.length = 0;
  for (let ms = 100; ms <= 1_000; ms += 100) {
    clock.ahead(ms);
    await vi.advanceTimersByTimeAsync(100);
  }
  expect(looks.length).toBeGreaterThanOrEqual(9);
  expect(Math.floor(shown(at) / 1000)).toBe(1);
});

it("stands while nothing goes", async () => {
  const { at, looks } = await begin(null);
  clock.ahead(5_000);
  await vi.advanceTimersByTimeAsync(5_000);
  expect([shown(at), looks]).toEqual([0, []]);
});

it("is now as soon as something was changed", async () => {
  const begun = conductor.begin("run", 1, clock.start);
  const { at, held } = await begin(begun);
  clock.ahead(30_400);
  held.value = conductor.pause(begun, PLAN, clock.start + 30_400);
  expect(shown(at)).toBe(30_400);
  clock.ahead(50_000);
  await vi.advanceTimersByTimeAsync(1_000);
  expect(shown(at)).toBe(30_400); // it is paused
});
