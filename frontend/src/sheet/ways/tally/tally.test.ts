import { t } from "../../../messages/sheet";
import { describe, expect, it } from "vitest";
import type { HallClock } from "../../types";
import * as tally from "./tally";

const begun = tally.begin(["a", "b", "c"]);

describe("a tally", () => {
  it("counts each child's taps and takes back the newest, of one or of all", () => {
    let one = begun;
    for (const who of ["a", "b", "a", "a", "b"]) one = tally.tap(one, who, null);
    expect(["a", "b", "c"].map((who) => tally.count(one, who))).toEqual([3, 2, 0]);
    one = tally.undo(one, "a");
    expect(tally.count(one, "a")).toBe(2);
    one = tally.undo(one);
    expect(tally.count(one, "b")).toBe(1);
    expect(tally.undo(begun, "c")).toBe(begun);
  });

  it("counts only while the hall's clock says work, and one go at a time", () => {
    const clock = (phase: HallClock["phase"], go = "wave 1") => ({ go, phase, left: 9, worked: 1 });
    for (const phase of ["before", "ready", "after"] as const) {
      expect(tally.tap(begun, "a", clock(phase))).toBe(begun);
    }
    const first = tally.tap(begun, "a", clock("work"));
    expect(tally.count(first, "a")).toBe(1);
    expect(tally.count(tally.tap(first, "b", clock("work")), "b")).toBe(1);
    // What was counted in one go and not kept is not mixed with the next.
    expect(tally.tap(first, "a", clock("work", "wave 2"))).toBe(first);
    expect(tally.shut(first, clock("work", "wave 2"))).toContain(t("save"));
    const kept = tally.begin(["d"]);
    expect(tally.count(tally.tap(kept, "d", clock("work", "wave 2")), "d")).toBe(1);
  });

  it("has six areas at most and nobody twice in them", () => {
    expect(tally.begin(["a", "b", "c", "d", "e", "f", "g"]).pupils).toHaveLength(6);
    const counted = tally.tap(begun, "a", null);
    expect(tally.replace(counted, 1, "a")).toBe(counted);
    const other = tally.replace(counted, 0, "z");
    expect(other.pupils).toEqual(["z", "b", "c"]);
    expect(other.taps).toEqual([]);
    expect(tally.tap(other, "a", null)).toBe(other);
  });
});
