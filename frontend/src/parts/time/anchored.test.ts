import { describe, expect, it } from "vitest";
import { goOn, offset, passed, stand, type Anchored } from "./anchored";

const begun: Anchored = { anchor_ms: 1_000_000, revision: 1 };

describe("an anchored clock", () => {
  it("shows the time since its anchor and adds up no ticks", () => {
    expect(offset(begun, 1_000_000)).toBe(0);
    expect(offset(begun, 1_034_567)).toBe(34_567);
  });

  it("stands while paused and goes on where it stood", () => {
    const paused = stand(begun, 1_020_000);
    expect(offset(paused, 1_500_000)).toBe(20_000);
    const again = goOn(paused, 1_500_000);
    expect(offset(again, 1_501_000)).toBe(21_000);
    expect(again.revision).toBe(3);
    // Where it stood is known afterwards: what it showed at any moment follows.
    expect(again.pauses).toEqual([{ from_ms: 1_020_000, to_ms: 1_500_000 }]);
    expect(stand(paused, 1_600_000)).toEqual(paused);
    expect(goOn(again, 1_600_000)).toEqual(again);
  });

  it("calls each cue once, however late it looks", () => {
    const cues = [0, 7_000, 8_000].map((at_ms) => ({ at_ms }));
    expect(passed(cues, -1, 0)).toEqual([{ at_ms: 0 }]);
    expect(passed(cues, 0, 8_400)).toEqual([{ at_ms: 7_000 }, { at_ms: 8_000 }]);
    expect(passed(cues, 8_400, 9_000)).toEqual([]);
  });
});
