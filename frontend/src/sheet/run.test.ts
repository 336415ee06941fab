import { describe, expect, it } from "vitest";
import * as clock from "./run";

const GO = 10_000;
const TOTAL = 70_000;
const begun = clock.startRun("a", 1, 1_000_000);

describe("the clock of a wave", () => {
  it("shows the time since its anchor and adds up no ticks", () => {
    expect(clock.offset(begun, 1_000_000)).toBe(0);
    expect(clock.offset(begun, 1_034_567)).toBe(34_567);
  });

  it("stands while paused and goes on where it stood", () => {
    const paused = clock.pause(begun, 1_020_000);
    expect(clock.offset(paused, 1_500_000)).toBe(20_000);
    const again = clock.resume(paused, 1_500_000);
    expect(clock.offset(again, 1_501_000)).toBe(21_000);
    expect(again.revision).toBe(3);
    // Where it stood is known afterwards: what it showed at any moment follows.
    expect(again.pauses).toEqual([{ from_ms: 1_020_000, to_ms: 1_500_000 }]);
    expect(clock.pause(paused, 1_600_000)).toEqual(paused);
    expect(clock.resume(again, 1_600_000)).toEqual(again);
  });

  it("counts down to go and then to the stop", () => {
    const shown = [0, 9_001, 10_000, 10_001, 69_001, 70_000].map((at) =>
      clock.secondsShown(at, GO, TOTAL),
    );
    expect(shown).toEqual([10, 1, 60, 60, 1, 0]);
  });

  it("says after an early stop how many whole seconds were worked", () => {
    const ended = clock.end(begun, "early", 1_051_900, GO);
    expect(ended).toMatchObject({ ended: "early", worked_seconds: 41, revision: 2 });
    expect(clock.end(begun, "restarted", 1_051_900, GO).worked_seconds).toBeNull();
  });

  it("calls each cue once, however late it looks", () => {
    const cues: clock.Cue[] = [
      { at_ms: 0, kind: "get_ready", say: "Get ready" },
      { at_ms: 7_000, kind: "count", say: "3" },
      { at_ms: 8_000, kind: "count", say: "2" },
    ];
    expect(clock.passed(cues, -1, 0).map((cue) => cue.say)).toEqual(["Get ready"]);
    expect(clock.passed(cues, 0, 8_400).map((cue) => cue.say)).toEqual(["3", "2"]);
    expect(clock.passed(cues, 8_400, 9_000)).toEqual([]);
  });

  it("joins what two devices know by the newer revision", () => {
    const paused = clock.pause(begun, 1_020_000);
    expect(clock.joinRuns([paused], [begun])).toEqual([paused]);
    expect(clock.joinRuns([begun], [paused])).toEqual([paused]);
  });

  it("takes the run that counts before one that goes on, never one started again", () => {
    const restarted = clock.end(begun, "restarted", 1_005_000, GO);
    const second = clock.startRun("b", 1, 1_010_000);
    expect(clock.currentRun([restarted], 1)).toBeNull();
    expect(clock.currentRun([restarted, second], 1)).toEqual(second);
    const complete = clock.end(second, "complete", 1_080_000, GO);
    expect(clock.currentRun([restarted, complete], 1)).toEqual(complete);
    expect(clock.currentRun([complete], 2)).toBeNull();
  });
});
