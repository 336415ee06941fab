import { describe, expect, it } from "vitest";
import { begin, pause } from "./conductor";
import { newer } from "./useConductor";

describe("which state of a conductor is believed", () => {
  const first = begin("a", 1, 1_000);
  const plan = { segments: [], cues: [], blocks: [], total_ms: 0 };
  const later = pause(first, plan, 5_000);

  it("is the newer change of the same start, whichever device it comes from", () => {
    expect(newer(first, later)).toBe(later);
    expect(newer(later, first)).toBe(later);
    expect(newer(first, first)).toBe(first);
  });

  it("is the later start of two", () => {
    const again = begin("b", 1, 9_000);
    expect(newer(later, again)).toBe(again);
    expect(newer(again, later)).toBe(again);
  });

  it("is whichever there is", () => {
    expect(newer(null, first)).toBe(first);
    expect(newer(first, null)).toBe(first);
    expect(newer(null, null)).toBeNull();
  });
});
