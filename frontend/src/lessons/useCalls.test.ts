import { mount } from "@vue/test-utils";
import { afterEach, beforeEach, expect, it } from "vitest";
import { computed, ref } from "vue";
import * as conductor from "./conductor";
import { useCalls } from "./useCalls";

/** Setting up for 60 s, then ten seconds of work. */
const plan: conductor.Timeline = {
  segments: [
    { id: "talk", from_ms: 0, to_ms: 60_000, phase: "open" },
    { id: "work", from_ms: 60_000, to_ms: 70_000, phase: "work" },
  ].map((one) => ({ label: "", block: 0, wave: 0, try_number: 0, waits: false, ...one })) as never,
  cues: [],
  blocks: [],
  total_ms: 70_000,
};
let at = 1_000_000.5;
beforeEach(() => void (window.laufTimeSource = () => at));
afterEach(() => void delete window.laufTimeSource);

it("shows what was skipped to at once, however long ago the page last looked", () => {
  const state = ref(conductor.begin("run", 1, 1_000_000));
  let calls: ReturnType<typeof useCalls> | undefined;
  const page = mount({
    setup: () => {
      const called = { plan: computed(() => plan), state: computed(() => state.value) };
      calls = useCalls({ ...called, leading: computed(() => true), record: () => {} });
      return () => null;
    },
  });
  at += 3_000; // nothing has been drawn since
  state.value = conductor.skip(state.value, plan, at, "talk");
  expect(conductor.segmentAt(plan, calls!.place.value)).toBe(1);
  page.unmount();
});
