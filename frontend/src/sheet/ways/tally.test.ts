import { describe, expect, it } from "vitest";
import * as tally from "./tally";

const begun = tally.begin(["a", "b", "c"], 30);

describe("a tally", () => {
  it("counts each child's taps and takes back the newest, of one or of all", () => {
    let one = begun;
    for (const who of ["a", "b", "a", "a", "b"]) one = tally.tap(one, who, 0);
    expect(["a", "b", "c"].map((who) => tally.count(one, who))).toEqual([3, 2, 0]);
    one = tally.undo(one, "a");
    expect(tally.count(one, "a")).toBe(2);
    one = tally.undo(one);
    expect(tally.count(one, "b")).toBe(1);
    expect(tally.undo(begun, "c")).toBe(begun);
  });

  it("counts only between go and stop once its clock is used", () => {
    const clocked = { ...begun, goAt: 10_000 };
    expect(tally.tap(clocked, "a", 9_999)).toBe(clocked);
    expect(tally.count(tally.tap(clocked, "a", 10_000), "a")).toBe(1);
    expect(tally.count(tally.tap(clocked, "a", 39_999), "a")).toBe(1);
    expect(tally.tap(clocked, "a", 40_000)).toBe(clocked);
  });

  it("has six areas at most and nobody twice in them", () => {
    expect(tally.begin(["a", "b", "c", "d", "e", "f", "g"]).pupils).toHaveLength(6);
    const counted = tally.tap(begun, "a", 0);
    expect(tally.replace(counted, 1, "a")).toBe(counted);
    const other = tally.replace(counted, 0, "z");
    expect(other.pupils).toEqual(["z", "b", "c"]);
    expect(other.taps).toEqual([]);
    expect(tally.tap(other, "a", 0)).toBe(other);
  });
});
