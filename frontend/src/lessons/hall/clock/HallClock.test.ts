import { i18n } from "../../../messages/area";
import { mount } from "@vue/test-utils";
import { describe, expect, it } from "vitest";
import * as conductor from "./conductor";
import HallClock from "./HallClock.vue";

const PARTS: [seconds: number, phase: conductor.Segment["phase"], label: string, block: number][] =
  [
    [60, "open", "Talk", 0],
    [10, "ready", "star jumps", 1],
    [30, "work", "star jumps", 1],
    [15, "rest", "high knees", 1],
    [20, "work", "high knees", 1],
    [3, "settle", "high knees", 1],
    [90, "open", "Water", 2],
  ];
function plan(): conductor.Timeline {
  let at = 0;
  const segments = PARTS.map(([seconds, phase, label, block], place) => {
    const from_ms = at;
    at += seconds * 1000;
    return {
      id: `s${place}`,
      from_ms,
      to_ms: at,
      phase,
      label,
      block,
      wave: 0,
      try_number: 0,
      waits: false,
    };
  });
  const blocks = ["Talk", "Jumps and knees", "Water"].map((label, index) => {
    const mine = segments.filter((one) => one.block === index);
    return {
      id: `b${index}`,
      label,
      kind: "intervals" as const,
      activity_id: null,
      closed: false,
      rotation: null,
      from_ms: mine[0]!.from_ms,
      to_ms: mine.at(-1)!.to_ms,
    };
  });
  return { segments, blocks, cues: [], total_ms: at };
}
function shown(
  seconds: number,
  more: { flash?: string; paused?: boolean; started?: boolean } = {},
) {
  const state = conductor.begin("run", 1, 0);
  const wall = mount(HallClock, {
    global: { plugins: [i18n] },
    props: {
      plan: plan(),
      state:
        more.started === false ? null : more.paused ? conductor.pause(state, plan(), 0) : state,
      place: seconds * 1000,
      flash: more.flash ?? "",
    },
  });
  const text = (id: string) => wall.get(`[data-testid=${id}]`).text().replace(/\s+/g, " ");
  return {
    wall,
    block: text("block"),
    now: text("now"),
    clock: text("clock"),
    next: wall.get(".next").text(),
  };
}

describe("the hall's clock", () => {
  it("says what now, how long still, and what next", () => {
    expect(shown(75)).toMatchObject({
      block: "Jumps and knees",
      now: "Work star jumps",
      clock: "25",
      next: "Next: Rest: high knees",
    });
    expect(shown(105)).toMatchObject({ now: "Rest high knees", next: "Next: Work: high knees" });
    expect(shown(130)).toMatchObject({ clock: "5", next: "Next: Water" });
  });

  it("counts minutes as minutes and shows the first block before the start", () => {
    expect(shown(0, { started: false })).toMatchObject({ now: "Talk", clock: "1:00" });
    expect(shown(140).clock).toBe("1:28");
  });

  it("flashes what is called, for those who cannot hear it", () => {
    const called = shown(70, { flash: "Half-way" });
    expect(called.now).toBe("Half-way");
    expect(called.wall.get(".now").classes()).toContain("flash");
  });

  it("says that it stands, and when all is over", () => {
    expect(shown(75, { paused: true }).wall.find("[data-testid=paused]").exists()).toBe(true);
    expect(shown(75).wall.find("[data-testid=paused]").exists()).toBe(false);
    expect(shown(228)).toMatchObject({ block: "The end", now: "Well done", clock: "0" });
  });

  it("marks every block on the track and where the lesson is", () => {
    const { wall } = shown(114);
    expect(wall.findAll(".mark")).toHaveLength(3);
    expect(wall.get(".runner").attributes("style")).toContain("left: 50%");
  });
});
