import { describe, expect, it } from "vitest";
import { asTyped, parts, withReps } from "./total";

describe("a total over movements", () => {
  it("is read and written the same way", () => {
    for (const typed of ["c40+50+0+60", "90", "c40", "10+20", "30+5~", ""]) {
      expect(asTyped(parts(typed))).toBe(typed);
    }
  });

  it("grows in one movement at a time, and never below none", () => {
    expect(asTyped(withReps(parts("c40+50"), 2, 15)!)).toBe("c40+50+0+15");
    expect(asTyped(withReps(parts("10+20"), 0, -10)!)).toBe("0+20");
    expect(asTyped(withReps(parts("30~"), 0, 5)!)).toBe("35~"); // a guess stays one
    expect(withReps(parts("10"), 0, -11)).toBeNull();
  });
});
