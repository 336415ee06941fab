/** Looks at a clock: while it runs, as often as something is due, and never when it stands. */
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { ref } from "vue";
import { leave, onPage } from "../../testing/page";
import { toNext, useLooks } from "./useLooks";

beforeEach(() => vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] }));
afterEach(() => {
  vi.useRealTimers();
});

async function begin(due?: () => number) {
  const runs = ref(false);
  const looks = vi.fn();
  const page = await onPage(() => useLooks(looks, () => runs.value, due));
  return { runs, looks, soon: page.it.soon };
}

it("looks once when it stands, ten times a second while it runs, and once at its end", async () => {
  const { runs, looks } = await begin();
  expect(looks).toHaveBeenCalledTimes(1);
  vi.advanceTimersByTime(5_000);
  expect(looks).toHaveBeenCalledTimes(1);
  runs.value = true;
  vi.advanceTimersByTime(1_000);
  expect(looks).toHaveBeenCalledTimes(12);
  runs.value = false;
  vi.advanceTimersByTime(1_000);
  expect(looks).toHaveBeenCalledTimes(13);
});

it("is there when something is due, not a part of a millisecond before, nor in a rush", async () => {
  let due = 20.2;
  const { runs, looks } = await begin(() => due);
  runs.value = true;
  looks.mockClear();
  vi.advanceTimersByTime(20);
  expect(looks).toHaveBeenCalledTimes(0);
  due = 0;
  vi.advanceTimersByTime(1);
  expect(looks).toHaveBeenCalledTimes(1);
  vi.advanceTimersByTime(3);
  expect(looks).toHaveBeenCalledTimes(1);
  vi.advanceTimersByTime(1);
  expect(looks).toHaveBeenCalledTimes(2);
});

it("looks soon where the clock was set, and no more once the page is left", async () => {
  const { runs, looks, soon } = await begin();
  runs.value = true;
  looks.mockClear();
  soon();
  vi.advanceTimersByTime(4);
  expect(looks).toHaveBeenCalledTimes(1);
  leave();
  vi.advanceTimersByTime(1_000);
  expect(looks).toHaveBeenCalledTimes(1);
});

it.each([
  [1_000, 400, 600],
  [1_000, 0, 1_000],
  [1_000, -300, 300],
])("of a clock in units of %d that shows %d, the next is in %d ms", (unit, shows, next) => {
  expect(toNext(unit, shows)).toBe(next);
});
