import { describe, expect, it } from "vitest";
import { added, asTyped, parts, totalOf, withReps, type Levels } from "./total";

const usual = (count: number): Levels => [0, count, 0];

describe("a total over movements", () => {
  it("is read and written the same way", () => {
    const all = ["c40+50+0+60", "90", "c40", "10+20", "30+5~", "20e/10/5h+60", ""];
    for (const typed of [...all, "c40+20e/10/5h+0 by 0.5/1/2", "5h by 1/1/2~"]) {
      expect(asTyped(parts(typed))).toBe(typed);
    }
    expect(asTyped(parts("20u/5h/10e"))).toBe("10e/20/5h");
  });

  it("grows in one movement at a time, and never below none", () => {
    expect(asTyped(withReps(parts("c40+50"), 2, usual(15))!)).toBe("c40+50+0+15");
    expect(asTyped(withReps(parts("10+20"), 0, usual(-10))!)).toBe("0+20");
    expect(asTyped(withReps(parts("30~"), 0, usual(5))!)).toBe("35~"); // a guess stays one
    expect(withReps(parts("10"), 0, usual(-11))).toBeNull();
    expect(withReps(parts("10/5h"), 0, [0, 5, -6])).toBeNull(); // of each level
  });

  it("counts levels apart where they are, and adds up whole reps only", () => {
    expect(added("20e/10/5h", true)).toEqual([20, 10, 5]);
    expect(added("5h 20e", true)).toEqual([20, 0, 5]);
    expect(added("5h", false)).toBeNull();
    expect(added("c40", true)).toBeNull();
    expect(totalOf(parts("c40+20e/10/5h+60"))).toBe(135);
    expect(totalOf(parts("c40+21e/10/5h by 0.5/1/2"))).toBe(70);
  });
});
