import { mount } from "@vue/test-utils";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { computed, ref, watch } from "vue";
import * as conductor from "./conductor";
import { useCalls } from "./useCalls";

/** Setting up for 60 s, then ten seconds of work with a cue between two seconds. */
const plan: conductor.Timeline = {
  segments: [
    { id: "talk", from_ms: 0, to_ms: 60_000, phase: "open" },
    { id: "work", from_ms: 60_000, to_ms: 70_000, phase: "work" },
  ].map((one) => ({ label: "", block: 0, wave: 0, try_number: 0, waits: false, ...one })) as never,
  cues: [{ at_ms: 62_450, kind: "say", say: "squats", block: 0 }],
  blocks: [],
  total_ms: 70_000,
};
const START = 1_000_000.5;
let at = START;
/** The time source goes on with the timers. */
const later = (ms: number) => {
  for (let passed = 0; passed < ms; passed += 1) {
    at += 1;
    vi.advanceTimersByTime(1);
  }
};
beforeEach(() => {
  vi.useFakeTimers();
  at = START;
  window.laufTimeSource = () => at;
});
afterEach(() => {
  vi.useRealTimers();
  delete window.laufTimeSource;
});

function calling() {
  const state = ref<conductor.Conduct | null>(null);
  let calls: ReturnType<typeof useCalls> | undefined;
  const page = mount({
    setup: () => {
      const called = { plan: computed(() => plan), state: computed(() => state.value) };
      calls = useCalls({ ...called, leading: computed(() => true), record: () => {} });
      return () => null;
    },
  });
  return { state, calls: calls!, page };
}
const begun = () => conductor.begin("run", 1, START);

it("shows what was skipped to at once, however long ago the page last looked", () => {
  const { state, calls, page } = calling();
  state.value = begun();
  at += 3_000; // nothing has been drawn since
  state.value = conductor.skip(state.value, plan, at, "talk");
  expect(conductor.segmentAt(plan, calls.place.value)).toBe(1);
  page.unmount();
});

describe("a clock that is looked at", () => {
  it("changes what is shown with a second or a cue, and leaves the page alone between", () => {
    const { state, calls, page } = calling();
    state.value = conductor.skip(begun(), plan, at, "talk");
    let drawn = 0;
    const late: number[] = [];
    watch(calls.place, () => (drawn += 1), { flush: "sync" });
    const hear = (cue: Event) => late.push((cue as CustomEvent<{ late: number }>).detail.late);
    window.addEventListener("lauf-cue", hear);
    later(8_300);
    window.removeEventListener("lauf-cue", hear);
    expect(drawn).toBe(9); // eight seconds, and the cue
    expect(calls.spoken.value).toBe("squats");
    expect(late).toHaveLength(1);
    expect(late[0]).toBeLessThan(10);
    page.unmount();
  });

  it("is not looked at before it begins, while it stands, and after its end", () => {
    const { state, page } = calling();
    expect(vi.getTimerCount()).toBe(0);
    state.value = begun();
    expect(vi.getTimerCount()).toBe(1);
    state.value = conductor.pause(state.value, plan, at);
    expect(vi.getTimerCount()).toBe(0);
    state.value = conductor.resume(state.value, plan, at);
    expect(vi.getTimerCount()).toBe(1);
    state.value = { ...state.value, ended: true };
    expect(vi.getTimerCount()).toBe(0);
    state.value = begun();
    page.unmount();
    expect(vi.getTimerCount()).toBe(0);
  });
});
