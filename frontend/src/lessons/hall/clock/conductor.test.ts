import { describe, expect, it } from "vitest";
import * as conductor from "./conductor";

/** Briefing 20 s, get ready 10 s, work 30 s, rest 15 s, work 20 s, settle 3 s. */
const LENGTHS = [20, 10, 30, 15, 20, 3];
const PHASES = ["open", "ready", "work", "rest", "work", "settle"];
function plan(): conductor.Timeline {
  let at = 0;
  const segments = LENGTHS.map((seconds, index) => {
    const from_ms = at;
    at += seconds * 1000;
    return {
      id: `s${index}`,
      from_ms,
      to_ms: at,
      phase: PHASES[index] as conductor.Segment["phase"],
      label: `part ${index}`,
      block: index === 0 ? 0 : 1,
      wave: 0,
      try_number: 0,
      waits: false,
    };
  });
  const cue = (at_ms: number, kind: conductor.Cue["kind"], say: string = kind) => ({
    at_ms,
    kind,
    say,
    block: 1,
  });
  return {
    segments,
    cues: [
      cue(0, "say"),
      cue(20_000, "get_ready"),
      cue(27_000, "count"),
      cue(30_000, "go"),
      cue(45_000, "half_way"),
      cue(55_000, "last"),
      cue(60_000, "stop"),
      cue(72_000, "count"),
      cue(75_000, "go"),
      cue(90_000, "last"),
      cue(95_000, "stop"),
    ],
    blocks: [
      {
        id: "talk",
        label: "Talk",
        kind: "briefing",
        activity_id: null,
        closed: false,
        rotation: null,
        from_ms: 0,
        to_ms: 20_000,
      },
      {
        id: "set",
        label: "Set",
        kind: "intervals",
        activity_id: null,
        closed: false,
        rotation: null,
        from_ms: 20_000,
        to_ms: 98_000,
      },
    ],
    total_ms: 98_000,
  };
}
const begun = conductor.begin("run", 1, 1_000_000);
const at = (ms: number) => 1_000_000 + ms;

describe("the rest before a pulse is counted", () => {
  /** After the set: ten seconds to find it, then the count. */
  function withPulse(): conductor.Timeline {
    const made = plan();
    const one = { ...made.segments[0]!, block: 2 };
    const find = { ...one, id: "find", from_ms: 98_000, to_ms: 108_000 };
    const count = {
      ...one,
      id: "count",
      from_ms: 108_000,
      to_ms: 118_000,
      phase: "count" as const,
    };
    return { ...made, segments: [...made.segments, find, count], total_ms: 118_000 };
  }
  const counted = (state: conductor.Conduct) => conductor.restBefore(withPulse(), state, 2);

  it("is what really passed: a pause and a skip between are in it", () => {
    const after = conductor.record(begun, withPulse(), 0, 98_000);
    // Work ended at 95 s; the class stands at 98 s for two minutes, then finds its pulse for 4 s.
    const stood = conductor.pause(after, withPulse(), at(98_000));
    const on = conductor.resume(stood, withPulse(), at(218_000));
    expect(counted(on)).toBeNull();
    const counts = conductor.skip(on, withPulse(), at(222_000), "find");
    expect(counted(counts)).toBe(127);
  });

  it("begins with the stop of work that was cut short, and is not of work that was left out", () => {
    const inWork = conductor.record(begun, withPulse(), 0, 75_000);
    const cut = conductor.skip(inWork, withPulse(), at(80_000), "s4");
    const counts = conductor.record(cut, withPulse(), 95_000, 108_000);
    // Cut at 80 s, then 3 s to settle and 10 s to find it.
    expect(counted(counts)).toBe(13);
    const rests = conductor.record(begun, withPulse(), 0, 60_000);
    const left = conductor.skipBlock(rests, withPulse(), at(61_000), "s3");
    expect(counted(conductor.record(left, withPulse(), 98_000, 108_000))).toBe(11);
  });

  it("is nothing where no clock knows it", () => {
    expect(conductor.restBefore(withPulse(), null, 2)).toBeNull();
    expect(counted(begun)).toBeNull();
    const forgotten = conductor.record(begun, withPulse(), 0, 108_000);
    const done = forgotten.done?.map((one) => ({ ...one, at_ms: null }));
    expect(counted({ ...forgotten, done })).toBeNull();
    expect(conductor.restBefore(withPulse(), forgotten, null)).toBeNull();
  });
});

it("a skip while the clock stands leaves pauses that follow each other", () => {
  const stood = conductor.pause(begun, plan(), at(42_300));
  const skipped = conductor.skip(stood, plan(), at(45_000), "s2");
  const on = conductor.resume(skipped, plan(), at(50_000));
  expect(on.pauses).toEqual([
    { from_ms: at(42_300), to_ms: at(45_000) },
    { from_ms: at(45_000), to_ms: at(50_000) },
  ]);
  expect(conductor.placeAt(plan(), on, at(50_000))).toBe(60_000);
});

describe("the conductor", () => {
  it("finds where it is from the time since its anchor", () => {
    expect(conductor.placeAt(plan(), begun, at(31_500))).toBe(31_500);
    expect(
      [-1, 0, 19_999, 20_000, 97_999, 98_000].map((ms) => conductor.segmentAt(plan(), ms)),
    ).toEqual([-1, 0, 0, 1, 5, 6]);
  });

  it("stands while paused and comes back to the right place", () => {
    const paused = conductor.pause(begun, plan(), at(40_000));
    expect(conductor.placeAt(plan(), paused, at(400_000))).toBe(40_000);
    const again = conductor.resume(paused, plan(), at(400_000));
    expect(conductor.placeAt(plan(), again, at(401_000))).toBe(41_000);
    expect(again.revision).toBe(3);
  });

  it("skips to the next part and keeps what was really done", () => {
    const skipped = conductor.skip(begun, plan(), at(42_300), "s2");
    expect(conductor.placeAt(plan(), skipped, at(42_300))).toBe(60_000);
    expect(skipped.done).toMatchObject([{ segment: "s2", seconds: 12, planned: 30 }]);
    const stood = conductor.pause(begun, plan(), at(42_300));
    const paused = conductor.skip(stood, plan(), at(99_000), "s2");
    expect(conductor.placeAt(plan(), paused, at(999_000))).toBe(60_000);
  });

  it("goes back to the beginning of a part, or to the one before", () => {
    expect(conductor.placeAt(plan(), conductor.back(begun, plan(), at(42_000)), at(42_000))).toBe(
      30_000,
    );
    expect(conductor.placeAt(plan(), conductor.back(begun, plan(), at(31_000)), at(31_000))).toBe(
      20_000,
    );
    expect(conductor.placeAt(plan(), conductor.back(begun, plan(), at(1_000)), at(1_000))).toBe(0);
  });

  it("lengthens the part that is on: its end and all after it move, its middle does not", () => {
    const longer = conductor.stretch(begun, plan(), 15_000, at(40_000));
    const now = conductor.edited(plan(), longer.edits);
    expect(now.total_ms).toBe(113_000);
    expect(now.segments[2]).toMatchObject({ from_ms: 30_000, to_ms: 75_000 });
    expect(now.segments.every((one, n) => !n || one.from_ms === now.segments[n - 1]?.to_ms)).toBe(
      true,
    );
    const times = (kind: string) => now.cues.filter((c) => c.kind === kind).map((c) => c.at_ms);
    expect(times("half_way")).toEqual([45_000]);
    expect(times("last")).toEqual([70_000, 105_000]);
    expect(times("go")).toEqual([30_000, 90_000]);
    expect(times("stop")).toEqual([75_000, 110_000]);
    expect(now.blocks[1]).toMatchObject({ from_ms: 20_000, to_ms: 113_000 });
  });

  it("shortens no further than what has passed", () => {
    const shorter = conductor.stretch(begun, plan(), -15_000, at(34_000));
    expect(conductor.edited(plan(), shorter.edits).segments[2]?.to_ms).toBe(45_000);
    const late = conductor.stretch(begun, plan(), -15_000, at(52_000));
    expect(conductor.edited(plan(), late.edits).segments[2]?.to_ms).toBe(57_000);
    expect(conductor.stretch(begun, plan(), -15_000, at(58_000))).toEqual(begun);
  });

  it("swaps an activity from now on, in its block, and says so", () => {
    const one = plan();
    one.segments[4]!.label = "part 2"; // the second effort is of the same movement
    one.cues[1]!.say = "Get ready: part 2";
    one.cues[7]!.say = "Next: part 2";
    const swapped = conductor.swap(begun, one, at(61_000), " squats ", null);
    expect(swapped.swaps).toEqual([
      { segment: "s3", was: "part 3", label: "squats", activity_id: null, seconds: null },
    ]);
    const working = conductor.swap(begun, one, at(31_000), "squats", null);
    const now = conductor.standing(one, working);
    expect(now.segments.map((each) => each.label)).toEqual([
      "part 0", "part 1", "squats", "part 3", "squats", "part 5",
    ]); // prettier-ignore
    expect(now.cues[1]!.say).toBe("Get ready: part 2"); // was said before
    expect(now.cues[7]!.say).toBe("Next: squats");
    expect(now.blocks[1]).toMatchObject({ label: "Set", activity_id: null });
    expect(conductor.skip(working, now, at(40_000), "s2").done).toEqual([
      { segment: "s2", seconds: 10, planned: 30, block: "Set", label: "squats", at_ms: at(40_000) },
    ]);
    expect(conductor.swap(begun, one, at(31_000), "  ", null)).toBe(begun);
  });

  it("says what was planned beside what was lengthened", () => {
    const longer = conductor.stretch(begun, plan(), 15_000, at(35_000));
    const now = conductor.standing(plan(), longer);
    expect(conductor.record(longer, now, 74_000, 75_500).done).toEqual([
      { segment: "s2", seconds: 45, planned: 30, block: "Set", label: "part 2", at_ms: at(75_000) },
    ]);
  });

  it("puts on record what ended by itself, once, and the end of all", () => {
    const one = conductor.record(begun, plan(), 18_000, 31_000);
    expect(one.done).toEqual([
      {
        segment: "s0",
        seconds: 20,
        planned: 20,
        block: "Talk",
        label: "part 0",
        at_ms: at(20_000),
      },
      { segment: "s1", seconds: 10, planned: 10, block: "Set", label: "part 1", at_ms: at(30_000) },
    ]);
    expect(conductor.record(one, plan(), 18_000, 31_000)).toEqual(one);
    const over = conductor.record(one, plan(), 31_000, 98_000);
    expect(over.ended).toBe(true);
    expect(over.done?.map((one) => one.segment)).toEqual(["s0", "s1", "s2", "s3", "s4", "s5"]);
  });

  it("hands out every cue once, whatever the gaps between two looks", () => {
    let before = -1;
    const heard: number[] = [];
    for (const look of [0, 16, 400, 19_990, 27_400, 27_401, 61_000, 98_000]) {
      heard.push(...conductor.passed(plan(), before, look).map((cue) => cue.at_ms));
      before = look;
    }
    expect(heard).toEqual(plan().cues.map((cue) => cue.at_ms));
  });

  it("shows times as they are read from afar", () => {
    expect([0, 9, 59, 60, 65, 600].map(conductor.clockShown)).toEqual([
      "0",
      "9",
      "59",
      "1:00",
      "1:05",
      "10:00",
    ]);
  });

  it("keeps what was done, lengthened and swapped by a part's own name, wherever it stands", () => {
    const long = conductor.stretch(begun, plan(), 15_000, at(35_000));
    const swapped = conductor.swap(long, plan(), at(35_000), "hopping", null);
    const extra = { ...plan().segments[0]!, id: "new", from_ms: 0, to_ms: 9_000, block: 0 };
    const moved = conductor.standing(
      { ...plan(), segments: [extra, ...plan().segments.map((one) => ({ ...one }))] },
      swapped,
    );
    expect(moved.segments.find((one) => one.id === "s2")?.label).toBe("hopping");
    expect(moved.segments.find((one) => one.id === "new")?.label).toBe("part 0");
  });
});

describe("a place that waits", () => {
  /** The second effort of the set waits for somebody. */
  const made = () => {
    const one = plan();
    return { ...one, segments: one.segments.map((s) => ({ ...s, waits: s.id === "s4" })) };
  };
  const stop = made().segments.find((one) => one.id === "s4")!.from_ms;

  it("is where the clock stands, whatever the time, and goes on from", () => {
    for (const late of [0, 1, 60_000, 86_400_000]) {
      expect(conductor.placeAt(made(), begun, at(stop + late))).toBe(stop);
      expect(conductor.isWaiting(made(), begun, at(stop + late))).toBe(true);
    }
    expect(conductor.isWaiting(made(), begun, at(stop - 1))).toBe(false);
    const gone = conductor.resume(begun, made(), at(stop + 90_000));
    expect(conductor.placeAt(made(), gone, at(stop + 91_000))).toBe(stop + 1_000);
    expect(conductor.isWaiting(made(), gone, at(stop + 91_000))).toBe(false);
  });

  it("is not paused, and can be skipped to, which goes on at once", () => {
    expect(conductor.pause(begun, made(), at(stop + 5_000))).toBe(begun);
    const skipped = conductor.skip(begun, made(), at(stop - 3_000), "s3");
    expect(conductor.placeAt(made(), skipped, at(stop - 2_000))).toBe(stop + 1_000);
  });

  it("is only gone on from by a press meant for what ended just before it: the count stays", () => {
    const gone = conductor.skip(begun, made(), at(stop), "s3");
    expect(conductor.placeAt(made(), gone, at(stop + 1_000))).toBe(stop + 1_000);
    expect(conductor.skip(begun, made(), at(60_000), "s2")).toBe(begun);
    expect(conductor.skipBlock(begun, made(), at(20_000), "s0")).toBe(begun);
  });

  it("moves with what is lengthened before it", () => {
    const longer = conductor.stretch(begun, made(), 15_000, at(40_000));
    const now = conductor.standing(made(), longer);
    expect(conductor.standsAt(now, longer)).toBe(stop + 15_000);
  });

  it("loses a go that is to be done again, and stands before its get-ready", () => {
    const done = conductor.record(begun, plan(), 0, 70_000);
    expect(done.done?.map((one) => one.segment)).toEqual(["s0", "s1", "s2"]);
    const again = conductor.again(done, plan(), at(70_000));
    const ready = plan().segments.find((one) => one.phase === "ready")!;
    expect(again).toMatchObject({ paused_ms: ready.from_ms, ended: false });
    expect(again.done?.map((one) => one.segment)).toEqual(["s0"]);
  });

  it("leaves a whole block: what was done of it is on record, the rest as nothing", () => {
    const left = conductor.skipBlock(begun, plan(), at(42_300), "s2");
    expect(left.done).toMatchObject([
      { segment: "s2", seconds: 12 },
      { segment: "s3", seconds: 0 },
      { segment: "s4", seconds: 0 },
      { segment: "s5", seconds: 0 },
    ]);
    expect(conductor.placeAt(plan(), left, at(42_300))).toBe(98_000);
  });
});
