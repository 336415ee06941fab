/** What the hall shows, and what its one large button does: before, during and after the clock. */
import { t } from "../../messages/lessons";
import { beforeEach, expect, it, vi } from "vitest";
import { computed, ref } from "vue";
import type { Schemas } from "../../api/client";
import { activity } from "../../testing/hall";
import { heldClock, leave, onPage, settled } from "../../testing/page";
import * as conductor from "./clock/conductor";
import type { Lead } from "./clock/useConductor";
import { takesScores, useHall, type Stop } from "./useHall";

type Segment = conductor.Segment;
const S = 1_000;
/** A talk, press-ups in two waves, a pulse check, and a test that nobody calls. */
const PLAN: conductor.Timeline = {
  total_ms: 600 * S,
  cues: [],
  blocks: [
    block("talk", "briefing", "Welcome", 0, 60),
    block("reps", "test", "Press-ups", 60, 240, "reps"),
    block("beat", "pulse", "Pulses", 240, 300),
    block("mile", "test", "Mile", 300, 600, "mile"),
  ],
  segments: [
    segment("s0", 0, 0, 60, "open"),
    segment("s1", 1, 60, 80, "ready", 1),
    segment("s2", 1, 80, 140, "work", 1),
    segment("s3", 1, 140, 160, "swap", 2),
    segment("s4", 1, 160, 220, "work", 2, true),
    segment("s5", 2, 240, 270, "count"),
    segment("s6", 2, 270, 300, "write", 0, true),
    segment("s7", 3, 300, 600, "open", 1),
  ],
};
function block(
  ...[id, kind, label, from, to, at]: [
    string,
    Schemas["BlockKind"],
    string,
    number,
    number,
    string?,
  ]
): conductor.Timeline["blocks"][number] {
  const ms = { from_ms: from * S, to_ms: to * S };
  return { id, kind, label, activity_id: at ?? null, closed: false, rotation: null, ...ms };
}
function segment(
  ...[id, at, from, to, phase, wave = 0, waits = false]: [
    string,
    number,
    number,
    number,
    Segment["phase"],
    number?,
    boolean?,
  ]
): Segment {
  const ms = { from_ms: from * S, to_ms: to * S };
  return { id, block: at, phase, wave, waits, label: id, try_number: 1, ...ms };
}

let clock = heldClock();
beforeEach(() => {
  clock = heldClock();
});

async function begin({ planned = true, address = "/", isAllIn = false } = {}) {
  const at = ref(0);
  const state = ref<conductor.Conduct | null>(null);
  const done: string[] = [];
  const said = (what: string) =>
    vi.fn((...more: unknown[]) => void done.push([what, ...more].join(" ")));
  const waiting = ref(false);
  const lead = {
    plan: computed(() => (planned ? PLAN : null)),
    ...{ state, place: at, waiting, starting: ref(false) },
    ...{ pause: said("pause"), goOn: said("go on"), back: said("back"), again: said("again") },
    ...{ skip: said("skip"), skipBlock: said("skip block"), forget: vi.fn() },
    start: vi.fn(() => {
      done.push("start");
      state.value = conductor.begin("run", 1, clock.start);
      return Promise.resolve();
    }),
    lock: { hold: vi.fn(), release: vi.fn() },
  };
  const lesson = {
    battery: false,
    activities: [
      activity({ id: "reps", test: "Press-ups" }),
      activity({ id: "mile", test: "Mile", kind: "time" }),
    ],
  } as Schemas["LessonPage"];
  const page = await onPage(
    () =>
      useHall(
        () => lesson,
        lead as unknown as Lead,
        () => isAllIn,
      ),
    address,
  );
  /** So many seconds into the lesson. */
  const go = async (seconds: number, waits = false) => {
    state.value ??= conductor.begin("run", 1, clock.start);
    at.value = seconds * S;
    waiting.value = waits;
    await settled();
  };
  return { hall: page.it, state, go, done, page };
}
const names = (stops: Stop[]) => stops.map((one) => one.label);

it("shows the plan's blocks, then what stands beside it", async () => {
  const { hall } = await begin();
  expect(names(hall.stops.value)).toEqual(["Welcome", "Press-ups", "Pulses", "Mile", "All tests"]);
  expect(hall.stops.value.map(takesScores)).toEqual([false, true, true, true, true]);
  expect(hall.shown.value?.label).toBe("Welcome");
  leave();
  const without = await begin({ planned: false });
  expect(names(without.hall.stops.value)).toEqual(["Press-ups", "Mile", "All tests", "Pulses"]);
});

it("has a button that says what comes, all the way through", async () => {
  const { hall, go, done } = await begin();
  const says = () => hall.primary.value?.says;
  expect(says()).toBe("Start the lesson");
  hall.primary.value?.act();
  await settled();
  expect(done).toEqual(["start"]);
  for (const [seconds, waits, words] of [
    [10, false, "Next: Press-ups"],
    [70, false, "Pause"],
    [100, false, "Pause"],
    [150, false, t("readyStart")],
    [160, true, t("startWave", { wave: t("waveWave2", { wave: 2 }) })],
    [250, false, "Pause"],
    [299, true, t("allInContinue")],
    [310, false, "Next: the end"],
  ] as const) {
    await go(seconds, waits);
    expect([seconds, says()]).toEqual([seconds, words]);
  }
});

it("pauses, goes on, and ends what only somebody can end", async () => {
  const { hall, go, done, state } = await begin();
  await go(100);
  hall.primary.value?.act();
  expect(done).toEqual(["pause"]);
  state.value = { ...state.value!, paused_ms: 100 * S };
  await settled();
  expect([hall.primary.value?.says, hall.paused.value]).toEqual([t("continue"), true]);
  hall.primary.value?.act();
  state.value = { ...state.value, paused_ms: null };
  await go(310);
  hall.primary.value?.act();
  expect(done).toEqual(["pause", "go on", "skip block s7"]);
  state.value = { ...state.value, ended: true };
  await settled();
  expect([hall.primary.value, hall.shown.value?.label]).toEqual([null, "Mile"]);
});

it("knows which go is on, and how much of it is left", async () => {
  const { hall, go } = await begin();
  await go(75);
  expect(hall.clock.value).toEqual({ go: "run s2", phase: "ready", left: 5, worked: 0 });
  await go(100);
  expect(hall.clock.value).toEqual({ go: "run s2", phase: "work", left: 40, worked: 20 });
  await go(150);
  expect(hall.clock.value).toMatchObject({ go: "run s2", phase: "after", left: 0, worked: 60 });
  await go(165);
  expect(hall.clock.value).toMatchObject({ go: "run s4", phase: "work", worked: 5 });
});

it("goes with the clock, but not away from a table that is being written", async () => {
  const { hall, go } = await begin();
  await go(200);
  expect(hall.shown.value?.label).toBe("Press-ups");
  hall.touched.value = true;
  await go(250);
  expect(hall.shown.value?.label).toBe("Press-ups");
  hall.show(hall.stopOn.value);
  await settled();
  expect([hall.shown.value?.label, hall.chosen.value]).toEqual(["Pulses", null]);
});

it("goes on once everybody is in", async () => {
  const { hall, go } = await begin({ isAllIn: true });
  await go(200);
  hall.touched.value = true;
  await go(250);
  expect(hall.shown.value?.label).toBe("Pulses");
});

it("opens what the address names, and remembers the way that was used for its kind", async () => {
  const { hall, page } = await begin({ address: "/?activity=mile" });
  expect([hall.shown.value?.label, hall.way.value?.name]).toEqual(["Mile", "tap"]);
  hall.chooseWay("list");
  await settled();
  expect(hall.way.value?.name).toBe("list");
  hall.show(hall.stops.value[1]!);
  await settled();
  expect(page.router.currentRoute.value.query).toEqual({ block: "reps" });
  hall.show(hall.stops.value[3]!);
  await settled();
  expect(hall.way.value?.name).toBe("list");
});

it("has one clock: the plan stands while a test beside it is timed", async () => {
  const { hall, go, done } = await begin({ address: "/?activity=mile" });
  expect(hall.hasOwn.value).toBe(true);
  await go(100);
  hall.ownStarted();
  expect(done).toEqual(["pause"]);
  await go(310); // the plan is at it: its clock is this test's own
  hall.ownStarted();
  expect([done, hall.hasOwn.value, hall.isOwnClock.value]).toEqual([["pause"], true, true]);
});

it("takes a second press of start for nothing else", async () => {
  const { hall, go, done } = await begin();
  hall.start();
  await go(310);
  hall.primary.value?.act();
  expect(done).toEqual(["start"]);
});
