/** The conductor of a lesson on a page: started once, kept on the device, told to the server. */
import { beforeEach, describe, expect, it } from "vitest";
import type { Schemas } from "../../../api/client";
import { heldClock, leave, onPage, sent, settled, until } from "../../../testing/page";
import { TestServer } from "../../../testing/server";
import * as conductor from "./conductor";
import { newer, provideConductor } from "./useConductor";

const S = 1_000;
const segment = (id: string, from: number, to: number, more: Partial<conductor.Segment>) => ({
  ...{ id, from_ms: from * S, to_ms: to * S, phase: "work" as const, label: id },
  ...{ block: 0, wave: 0, try_number: 1, waits: false, ...more },
});
const PAGE: Partial<Schemas["TimelinePage"]> = {
  ...{ plan_revision: 3, newer_plan: false, total_ms: 120 * S, cues: [] },
  conduct: null,
  blocks: [
    {
      ...{ id: "b", label: "Press-ups", kind: "test", activity_id: "reps", closed: false },
      ...{ from_ms: 0, to_ms: 120 * S, rotation: null },
    },
  ],
  segments: [segment("one", 0, 60, { wave: 1 }), segment("two", 60, 120, { wave: 2 })],
};
let clock = heldClock();
beforeEach(() => {
  clock = heldClock();
});

async function begin(page: Partial<Schemas["TimelinePage"]> = PAGE) {
  const server = new TestServer();
  server.on("GET", "/api/lessons/{lesson_id}/timeline", () => page);
  server.on("PUT", "/api/lessons/{lesson_id}/conduct", ({ body }) => body);
  server.on("PUT", "/api/activities/{activity_id}/runs/{run_id}", ({ body }) => body);
  const made = await onPage(() => provideConductor("lesson"));
  const told = () => server.of("PUT", "conduct").map((one) => one.body as conductor.Conduct);
  return { server, lead: made.it, told };
}

it("starts once, by the plan as the server has it in that moment", async () => {
  const { server, lead, told } = await begin();
  const first = lead.start();
  void lead.start();
  expect(lead.starting.value).toBe(true);
  await first;
  await sent();
  expect(server.of("GET", "timeline").map((one) => one.query.get("fresh"))).toEqual([null, "true"]);
  expect(told()).toMatchObject([{ revision: 1, plan_revision: 3, anchor_ms: clock.start }]);
  expect([lead.leading.value, lead.starting.value]).toEqual([true, false]);
});

it("starts without a network by the plan that is here", async () => {
  const { server, lead } = await begin();
  server.down = true;
  await lead.start();
  expect([lead.state.value?.plan_revision, lead.plan.value?.segments.length]).toEqual([3, 2]);
  await until(() => lead.unsent.value);
});

it("keeps what was done through a reload, and tells what had not been told", async () => {
  const { server, lead } = await begin();
  await lead.start();
  await sent();
  server.down = true;
  clock.ahead(20 * S);
  lead.pause();
  await settled();
  const { revision } = lead.state.value!;
  leave();
  const again = await begin({ ...PAGE, conduct: { ...lead.state.value!, revision: 1 } });
  expect(again.lead.state.value).toMatchObject({ revision, paused_ms: 20 * S });
  await sent();
  expect(again.told().at(-1)?.revision).toBe(revision);
});

it("goes by what another device has done since", async () => {
  const begun = conductor.begin("theirs", 3, clock.start);
  const { lead } = await begin({ ...PAGE, conduct: begun });
  expect([lead.state.value?.run_id, lead.leading.value]).toEqual(["theirs", false]);
  clock.ahead(5 * S);
  lead.pause(); // who presses leads from then on
  expect([lead.leading.value, lead.state.value?.paused_ms]).toEqual([true, 5 * S]);
});

it("puts on record the waves that were worked, and each once", async () => {
  const { server, lead } = await begin();
  await lead.start();
  clock.ahead(61 * S);
  lead.record(0, 61 * S);
  clock.ahead(80 * S);
  lead.skip("two");
  await sent();
  const runs = server.of("PUT", "runs");
  expect(runs.map((one) => one.at[0])).toEqual(["reps", "reps"]);
  expect(runs.map((one) => (one.body as Schemas["RunRow"]).ended)).toEqual(["complete", "early"]);
});

it("does nothing before it was started", async () => {
  const { lead, told } = await begin();
  lead.pause();
  lead.goOn();
  lead.back();
  lead.again();
  lead.skip("one");
  lead.stretch(15_000);
  await settled();
  expect([lead.state.value, told()]).toEqual([null, []]);
});

it("lengthens what is on, and shows something else on the wall", async () => {
  const { lead, told } = await begin();
  await lead.start();
  clock.ahead(10 * S);
  lead.stretch(15 * S);
  lead.wall("names");
  await sent();
  expect(lead.plan.value?.segments.map((one) => one.to_ms)).toEqual([75 * S, 135 * S]);
  expect(told().at(-1)?.wall).toBe("names");
});

describe("which state of a conductor is believed", () => {
  const first = conductor.begin("a", 1, 1_000);
  const plan = { segments: [], cues: [], blocks: [], total_ms: 0 };
  const later = conductor.pause(first, plan, 5_000);

  it("is the newer change of the same start, whichever device it comes from", () => {
    expect(newer(first, later)).toBe(later);
    expect(newer(later, first)).toBe(later);
    expect(newer(first, first)).toBe(first);
  });

  it("is the later start of two", () => {
    const again = conductor.begin("b", 1, 9_000);
    expect(newer(later, again)).toBe(again);
    expect(newer(again, later)).toBe(again);
  });

  it("is whichever there is", () => {
    expect(newer(null, first)).toBe(first);
    expect(newer(first, null)).toBe(first);
    expect(newer(null, null)).toBeNull();
  });
});
