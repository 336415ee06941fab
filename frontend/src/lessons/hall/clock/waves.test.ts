import { describe, expect, it } from "vitest";
import { again, begin, record, skip, standing, swap, type Timeline } from "./conductor";
import { wavesToTell } from "./waves";

/** A test of two waves and two tries each on the clock, ten seconds of work. */
function plan(): Timeline {
  let at = 0;
  const goes = [1, 2].flatMap((try_number) => [1, 2].map((wave) => ({ wave, try_number })));
  const segments = goes.flatMap(({ wave, try_number }) =>
    (["ready", "work"] as const).map((phase) => {
      const from_ms = at;
      at += phase === "ready" ? 5_000 : 10_000;
      const id = `${phase} ${try_number}.${wave}`;
      const rest = { label: "Jump", block: 0, wave, try_number, waits: false };
      return { id, from_ms, to_ms: at, phase, ...rest };
    }),
  );
  const block = {
    id: "b", label: "Jump", kind: "test" as const, activity_id: "act", closed: false, rotation: null,
    from_ms: 0, to_ms: at,
  }; // prettier-ignore
  return { segments, blocks: [block], cues: [], total_ms: at };
}
const begun = begin("run", 1, 1_000_000);

describe("the waves that are put on record", () => {
  it("are those of the first try, each once, with what was worked", () => {
    const all = record(begun, plan(), 0, plan().total_ms);
    const { told, runs } = wavesToTell(plan(), all, {});
    expect(
      runs.map(({ run }) => [run.wave, run.try_number, run.ended, run.worked_seconds]),
    ).toEqual([
      [1, 1, "complete", 10],
      [2, 1, "complete", 10],
    ]);
    expect(runs[0]?.run.anchor_ms).toBe(1_005_000);
    expect(wavesToTell(plan(), all, told).runs).toEqual([]);
  });

  it("began when they began, however their end came", () => {
    const cut = skip(begun, plan(), 1_000_000 + 5_000 + 4_200, "work 1.1");
    const [one] = wavesToTell(plan(), cut, {}).runs;
    expect(one?.run).toMatchObject({ ended: "early", worked_seconds: 4 });
    expect(Math.abs((one?.run.anchor_ms ?? 0) - 1_005_000)).toBeLessThan(1_000);
  });

  it("leave out one that was skipped before it began", () => {
    const skipped = skip(begun, plan(), 1_005_000, "work 1.1");
    const past = skip(skipped, plan(), 1_005_000, "ready 1.2");
    expect(wavesToTell(plan(), past, {}).runs).toEqual([]);
  });

  it("are of tests with waves: a target and what is called to a beat have none", () => {
    const made = plan();
    const bare = { ...made, segments: made.segments.map((one) => ({ ...one, wave: 0 })) };
    expect(wavesToTell(bare, record(begun, bare, 0, bare.total_ms), {}).runs).toEqual([]);
  });

  it("do not count as they were once they are done again", () => {
    const first = record(begun, plan(), 0, 16_000);
    const { told, runs } = wavesToTell(plan(), first, {});
    const back = again({ ...first }, plan(), 1_000_000 + 14_999);
    const redone = wavesToTell(plan(), back, told);
    expect(redone.runs.map(({ run }) => [run.id, run.ended, run.revision])).toEqual([
      [runs[0]?.run.id, "restarted", 2],
    ]);
    const second = record({ ...back, paused_ms: null, anchor_ms: 2_000_000 }, plan(), 0, 16_000);
    const [one] = wavesToTell(plan(), second, redone.told).runs;
    expect(one?.run.ended).toBe("complete");
    expect(one?.run.id).not.toBe(runs[0]?.run.id);
  });
});

describe("a test that is done instead of another", () => {
  const half = {
    ...plan(),
    cues: [cue(10_000, "half_way"), cue(14_000, "last"), cue(15_000, "stop")],
  };
  function cue(at_ms: number, kind: "half_way" | "last" | "stop") {
    return { at_ms, kind, say: kind, block: 0 };
  }

  it("has its own clock in every go to come, and is put on record with it", () => {
    const swapped = swap(begun, half, 1_002_000, "Hop", "other", undefined, 6);
    const now = standing(half, swapped);
    const works = now.segments.filter((one) => one.phase === "work");
    expect(works.map((one) => [one.label, (one.to_ms - one.from_ms) / 1000])).toEqual(
      Array(4).fill(["Hop", 6]),
    );
    expect(now.cues.map((one) => one.at_ms)).toEqual([8_000, 10_000, 11_000]);
    const all = record(swapped, now, 0, now.total_ms);
    const { runs } = wavesToTell(now, all, {});
    expect(
      runs.map(({ activity, run }) => [activity, run.wave, run.ended, run.worked_seconds]),
    ).toEqual([
      ["other", 1, "complete", 6],
      ["other", 2, "complete", 6],
    ]);
  });

  it("begins a go anew that was on: what has passed was of the old one", () => {
    const swapped = swap(begun, half, 1_009_000, "Hop", "other", undefined, 6);
    expect(swapped.paused_ms).toBe(0);
    const now = standing(half, swapped);
    expect(now.segments[1]).toMatchObject({ label: "Hop", from_ms: 5_000, to_ms: 11_000 });
    expect(swapped.done).toEqual([]);
  });

  it("puts no wave on record where it has no clock", () => {
    const swapped = swap(begun, half, 1_002_000, "Jump far", "other", undefined, null);
    const now = standing(half, swapped);
    expect(wavesToTell(now, record(swapped, now, 0, now.total_ms), {}).runs).toEqual([]);
  });
});
