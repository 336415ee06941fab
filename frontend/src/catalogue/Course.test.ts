import { mount } from "@vue/test-utils";
import { describe, expect, it } from "vitest";
import Course from "./Course.vue";

function finish(share: number) {
  const circle = mount(Course, { props: { lapMm: 1000, finishMm: share * 1000 } }).find("circle");
  return circle.exists()
    ? { x: Number(circle.attributes("cx")), y: Number(circle.attributes("cy")) }
    : null;
}

describe("the course", () => {
  it("puts the finish where the exact distance ends, going round to the right first", () => {
    expect(finish(0)).toBeNull();
    const start = { x: 180, y: 166 };
    const early = finish(0.05)!;
    expect(early.x).toBeGreaterThan(start.x);
    expect(early.y).toBeCloseTo(start.y);
    const half = finish(0.5)!;
    expect(half.x).toBeCloseTo(180);
    expect(half.y).toBeCloseTo(22);
    const late = finish(0.95)!;
    expect(late.x).toBeLessThan(start.x);
    expect(late.y).toBeCloseTo(start.y);
  });

  it("moves on without a jump", () => {
    let before = finish(0.001)!;
    for (let share = 0.011; share < 1; share += 0.01) {
      const now = finish(share)!;
      expect(Math.hypot(now.x - before.x, now.y - before.y)).toBeLessThan(12);
      before = now;
    }
  });
});
