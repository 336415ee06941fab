import { describe, expect, it } from "vitest";
import * as taps from "./taps";

const begun = taps.start(1_000_000);
const at = (ms: number) => 1_000_000 + ms;

describe("taps after a mass start", () => {
  it("take the time since the start, once a child where one tap ends it", () => {
    let state = taps.tap(begun, "ada", 1, at(48_460));
    state = taps.tap(state, "ada", 1, at(60_000));
    state = taps.tap(state, "ben", 1, at(65_340));
    expect(taps.entryOf(state, "ada")).toBe("48.5");
    expect(taps.entryOf(state, "ben")).toBe("1:05.3");
    expect(taps.tap(taps.NONE, "ada", 1, at(5))).toEqual(taps.NONE);
  });

  it("count laps with their times, and a tap that bounced is none", () => {
    let state = begun;
    for (const ms of [58_000, 58_300, 121_000, 190_500]) state = taps.tap(state, "ada", 3, at(ms));
    expect(taps.lapsOf(state, "ada")).toEqual([58_000, 121_000, 190_500]);
    expect(taps.finished(state, "ada", 3)).toBe(true);
    expect(taps.entryOf(state, "ada")).toBe("0:58.0 2:01.0 3:10.5");
  });

  it("take back the newest, or a wrong one on a child that goes on", () => {
    let state = taps.tap(begun, "ada", 1, at(10_000));
    state = taps.tap(state, "ben", 1, at(11_000));
    expect(taps.lapsOf(taps.undo(state), "ben")).toEqual([]);
    const again = taps.resume(state, "ada");
    expect(taps.lapsOf(again, "ada")).toEqual([]);
    expect(taps.lapsOf(taps.tap(again, "ada", 1, at(20_000)), "ada")).toEqual([20_000]);
    expect(taps.resume(again, "cy")).toEqual(again);
  });

  it("keep somebody who crossed until a name is there", () => {
    let state = taps.tap(begun, null, 1, at(30_000));
    state = taps.tap(state, "ben", 1, at(31_000));
    const unknown = state.taps.find((one) => one.pupilId === null)!;
    state = taps.name(state, unknown.id, "ada");
    expect(taps.entryOf(state, "ada")).toBe("30.0");
    expect(taps.lapsOf(state, "ben")).toEqual([31_000]);
  });

  it("give every child its own splits, thirty of them twelve laps long", () => {
    let state = begun;
    const laps = (child: number, lap: number) => lap * 30_000 + child * 200;
    for (let lap = 1; lap <= 12; lap++) {
      for (let child = 0; child < 30; child++) {
        state = taps.tap(state, `child ${child}`, 12, at(laps(child, lap)));
        if (child % 7 === 3) {
          // The neighbour was meant: undone at once.
          state = taps.undo(
            taps.tap(state, `child ${(child + 1) % 30}`, 12, at(laps(child, lap) + 50)),
          );
        }
      }
    }
    for (let child = 0; child < 30; child++) {
      const mine = Array.from({ length: 12 }, (_, index) => laps(child, index + 1));
      expect(taps.lapsOf(state, `child ${child}`)).toEqual(mine);
    }
  });

  it.each([
    [0, "0.0"],
    [940, "0.9"],
    [59_949, "59.9"],
    [59_950, "1:00.0"],
    [605_250, "10:05.3"],
  ])("write %i ms as it is typed: %s", (ms, typed) => {
    expect(taps.asTyped(ms)).toBe(typed);
  });

  it.each([
    [940, "0:00.9"],
    [59_949, "0:59.9"],
    [59_950, "1:00.0"],
    [60_040, "1:00.0"],
  ])("write a lap of %i ms with its minutes: %s", (ms, typed) => {
    const one = taps.tap(taps.start(0, 2), "a", 2, ms);
    expect(taps.entryOf(taps.tap(one, "a", 2, 119_960), "a")).toBe(`${typed} 2:00.0`);
  });

  it("tells the last lap by itself", () => {
    const begun = taps.start(0, 3);
    const one = taps.tap(taps.tap(begun, "a", 3, 31_000), "a", 3, 60_500);
    expect(taps.lastLap(one, "a")).toBe(29_500);
    expect(taps.lastLap(begun, "a")).toBe(0);
    expect(begun.laps).toBe(3);
  });
});
