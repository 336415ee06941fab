import { describe, expect, it } from "vitest";
import { placer } from "../parts/place";
import { quickProblem } from "./check";

const COUNT = { pattern: "~?\\s*[0-9]+\\s*~?", lowest: 0, highest: 60 };
const REASONS = ["a", "x", "k", "r", "v"];

describe("the quick check of an entry", () => {
  it.each(["0", "42", " 60 ", "22~", "~22", "a", "X"])("lets %s through", (typed) => {
    expect(quickProblem(typed, COUNT, REASONS)).toBeNull();
  });
  it.each(["4o", "-3", "900", "61~", "", "12.5", "b"])("stops %s", (typed) => {
    expect(quickProblem(typed, COUNT, REASONS)).toContain(typed.trim());
  });
});

describe("the place on a lane", () => {
  it("runs from left to right, and the other way where less is better", () => {
    const up = placer(224, 100, false);
    const down = placer(224, 100, true);
    expect([up(0), up(50), up(100), up(150)]).toEqual([12, 112, 212, 212]);
    expect([down(0), down(100)]).toEqual([212, 12]);
  });
});
