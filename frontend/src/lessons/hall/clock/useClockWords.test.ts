/** What a screen says of the clock: now, next, how long, how far. */
import { t } from "../../../messages/lessons";
import { ref } from "vue";
import { describe, expect, it } from "vitest";
import * as conductor from "./conductor";
import { useClockWords } from "./useClockWords";

type Part = [seconds: number, phase: conductor.Segment["phase"], label: string, block: number];
/** A talk, a set of two movements with a swap between, the pulse, and a test with two trials. */
const PARTS: Part[] = [
  [60, "open", "Talk", 0],
  [10, "ready", "Set", 1],
  [30, "work", "Star jumps", 1],
  [10, "rest", "Set", 1],
  [15, "swap", "Set", 1],
  [30, "work", "Squats", 1],
  [3, "settle", "Set", 1],
  [20, "write", "Pulse", 2],
  [60, "open", "Long jump", 3],
];
const LABELS = ["Talk", "Set", "Pulse", "Long jump"];

function words(parts: Part[], at: number | null) {
  let from = 0;
  const segments = parts.map(([seconds, phase, label, block], index) => {
    const one = { id: `s${index}`, from_ms: from, to_ms: from + seconds * 1000, phase, label };
    from = one.to_ms;
    const wave = 1 + parts.slice(0, index).filter((other) => other[3] === block).length;
    return { ...one, block, wave, try_number: 0, waits: false };
  });
  const blocks = LABELS.map((label) => ({ id: label, label, kind: "open" }));
  const plan = { segments, cues: [], blocks, total_ms: from } as unknown as conductor.Timeline;
  const state = ref(at === null ? null : conductor.begin("run", 1, 0));
  return useClockWords(ref(plan), state, ref(at ?? 0));
}

describe("the clock's words", () => {
  it.each<[number, string, number, string]>([
    // In seconds: where it stands, what is on, how long it is left, what comes next.
    [0, "Talk", 60, "Set"],
    [60, "Set", 10, "Work: Star jumps"],
    [70, "Set", 30, "Rest"],
    [100, "Set", 10, "Swap"],
    [110, "Set", 15, "Work: Squats"],
    [125, "Set", 30, "Pulse"],
    [155, "Set", 3, "Pulse"],
    [158, "Pulse", 20, "Long jump"],
    [178, "Long jump", 60, "the end"],
  ])("at %i s", (at, block, left, next) => {
    const said = words(PARTS, at * 1000);
    expect(said.block.value?.label).toBe(block);
    expect([said.left.value, said.following.value]).toEqual([left, next]);
    expect(said.waitsFor.value).toBe(block === "Pulse" ? t("allScoresIn") : "Ready?");
  });

  it("before it begins are of the first part, with all its time", () => {
    const said = words(PARTS, null);
    expect([said.block.value?.label, said.left.value]).toEqual(["Talk", 60]);
    expect([said.over.value, said.share.value]).toEqual([false, 0]);
  });

  it("do not tell of another trial of the same test as of something new", () => {
    const trials: Part[] = [1, 2, 3].map(() => [60, "open", "Long jump", 3]);
    expect(words([...trials, [20, "write", "Pulse", 2]], 1_000).following.value).toBe("Pulse");
  });

  it("say when it is over and how much of the lesson is behind", () => {
    expect(words(PARTS, 119_000).share.value).toBe(0.5);
    const over = words(PARTS, 300_000);
    expect([over.over.value, over.share.value]).toEqual([true, 1]);
  });
});
