import { describe, expect, it } from "vitest";
import * as shuttle from "./shuttle";

/** Three shuttles of 8 s, then two of 7 s: invented, only to try the taps on. */
const beeps: shuttle.Beep[] = [8, 16, 24, 31, 38].map((seconds, at) => ({
  at_ms: seconds * 1000,
  stage: at < 3 ? 1 : 2,
  shuttle: at < 3 ? at + 1 : at - 2,
  speed: 9,
  if_missed: ["1.0", "1.1", "1.2", "1.3", "2.1"][at]!,
  so_far: ["1.1", "1.2", "1.3", "2.1", "2.2"][at]!,
}));
const begun: shuttle.Run = { startedAt: 0, runners: {} };

describe("the taps of a progressive run", () => {
  it("finds the shuttle that is on and the beep that was last", () => {
    expect([0, 7_999, 8_000, 30_999, 99_000].map((ms) => shuttle.lastBeep(beeps, ms))).toEqual([
      -1, -1, 0, 2, 4,
    ]);
    expect(shuttle.current(beeps, 0)?.shuttle).toBe(1);
    expect(shuttle.current(beeps, 25_000)?.stage).toBe(2);
    expect(shuttle.current(beeps, 99_000)).toBe(beeps[4]);
  });

  it("warns at the first miss and ends at a second in a row, neither counting", () => {
    let run = shuttle.miss(begun, beeps, "a", 16_500);
    expect(shuttle.isWarned(shuttle.runner(run, "a"), 1)).toBe(true);
    expect(shuttle.miss(run, beeps, "a", 17_000)).toBe(run); // the same beep
    run = shuttle.miss(run, beeps, "a", 24_500);
    expect(shuttle.runner(run, "a").score).toBe("1.1");
    expect(shuttle.miss(run, beeps, "a", 32_000)).toBe(run); // out already
  });

  it("forgets a warning once the next line was made", () => {
    let run = shuttle.miss(begun, beeps, "a", 8_500);
    expect(shuttle.isWarned(shuttle.runner(run, "a"), 2)).toBe(false);
    run = shuttle.miss(run, beeps, "a", 24_500);
    expect(shuttle.runner(run, "a").score).toBeNull();
    run = shuttle.miss(run, beeps, "a", 31_500);
    expect(shuttle.runner(run, "a").score).toBe("1.2");
  });

  it("keeps the last line made of who stops, and lets a wrong tap run on", () => {
    const stopped = shuttle.stop(begun, beeps, "a", 25_000);
    expect(shuttle.runner(stopped, "a").score).toBe("1.3");
    const missed = shuttle.miss(begun, beeps, "a", 24_500);
    expect(shuttle.runner(shuttle.stop(missed, beeps, "a", 25_000), "a").score).toBe("1.2");
    expect(shuttle.runner(shuttle.stop(begun, beeps, "a", 3_000), "a").score).toBe("1.0");
    expect(shuttle.runner(shuttle.goesOn(stopped, "a"), "a").score).toBeNull();
    expect(shuttle.miss(shuttle.NONE, beeps, "a", 9_000)).toBe(shuttle.NONE);
  });
});
