import { describe, expect, it } from "vitest";
import * as clock from "./run";

const GO = 10_000;
const begun = clock.startRun("a", 1, 1_000_000, { way: "taps", go_ms: GO });

describe("a run", () => {
  it("says after an early stop how many whole seconds were worked", () => {
    const ended = clock.end(begun, "early", 1_051_900, GO);
    expect(ended).toMatchObject({ ended: "early", worked_seconds: 41, revision: 2 });
    expect(clock.end(begun, "restarted", 1_051_900, GO).worked_seconds).toBeNull();
  });

  it("joins what two devices know by the newer revision", () => {
    const ended = clock.end(begun, "complete", 1_080_000, GO);
    expect(clock.joinRuns([ended], [begun])).toEqual([ended]);
    expect(clock.joinRuns([begun], [ended])).toEqual([ended]);
  });

  it("is a way's own where it was not started again, and a typed time's while it runs", () => {
    const restarted = clock.end(begun, "restarted", 1_005_000, GO);
    const second = clock.startRun("b", null, 1_010_000, { way: "taps" });
    expect(clock.ownRun([restarted], "taps")).toBeNull();
    expect(clock.ownRun([restarted, second], "taps")).toEqual(second);
    expect(clock.ownRun([second], "taps", 2)).toBeNull();
    expect(clock.openRun([restarted, second])).toEqual(second);
    expect(clock.openRun([clock.end(second, "complete", 1_080_000, 0)])).toBeNull();
    expect(clock.openRun([clock.startRun("c", 1, 0)])).toBeNull();
  });
});
