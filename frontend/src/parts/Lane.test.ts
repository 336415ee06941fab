import { mount } from "@vue/test-utils";
import { describe, expect, it, vi } from "vitest";
import { ref } from "vue";
import type { Schemas } from "../api/client";
import Lane from "./Lane.vue";
import { placer } from "./place";

vi.mock("@vueuse/core", () => ({ useElementSize: () => ({ width: ref(224) }) }));

const mark = (at: number, estimate = false) => ({
  at,
  on: "2026-01-01",
  shown: String(at),
  estimate,
});
function lane(more: Partial<Schemas["Lane"]> = {}) {
  return mount(Lane, {
    props: {
      label: "a lane",
      named: true,
      lane: {
        better: "up",
        variant: "",
        rungs: [{ name: "Near line", at: 50, shown: "50 cm" }],
        earlier: [mark(20), mark(30, true)],
        today: mark(80),
        best: 80,
        band: [10, 40],
        origin: 0,
        scale: 100,
        ...more,
      },
    },
  });
}

describe("the lane", () => {
  it("paints rungs, earlier marks, today, the best and the band", () => {
    const drawn = lane();
    expect(drawn.findAll("circle.earlier")).toHaveLength(2);
    expect(drawn.findAll("circle.estimate")).toHaveLength(1);
    expect(drawn.get("rect.today").attributes("x")).toBe(String(12 + 160 - 7));
    expect(drawn.get("line.rung").attributes("x1")).toBe("112");
    expect(drawn.get("text.value").text()).toBe("50 cm");
    expect(drawn.get("rect.band").attributes("width")).toBe("60");
    expect(drawn.get("path.best").attributes("d")).toContain("M172 ");
  });

  it("leaves out what there is not", () => {
    const bare = lane({ today: null, best: null, band: null, earlier: [], rungs: [] });
    for (const part of ["rect.today", "path.best", "rect.band", "circle", "line.rung"]) {
      expect(bare.find(part).exists()).toBe(false);
    }
  });

  it("runs the other way where less is better, so that right is always better", () => {
    const place = placer(224, 100, true, 50);
    expect(place(50)).toBe(212);
    expect(place(100)).toBe(12);
    const down = lane({ better: "down", origin: 50, scale: 100 });
    const today = Number(down.get("rect.today").attributes("x"));
    const rung = Number(down.get("line.rung").attributes("x1"));
    expect(today).toBeLessThan(rung);
  });
});
