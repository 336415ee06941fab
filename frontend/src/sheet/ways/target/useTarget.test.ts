/** A rep target: what is typed adds up, by movement; what cannot be is asked about. */
import { t } from "../../../messages/sheet";
import { beforeEach, expect, it } from "vitest";
import type { Schemas } from "../../../api/client";
import { activity, board, ClassServer, NAMES } from "../../../testing/hall";
import { heldClock, onPage, sent, type } from "../../../testing/page";
import type { HallClock } from "../../types";
import { useTarget } from "./useTarget";

beforeEach(() => {
  heldClock();
});

async function begin(more: Partial<Schemas["TargetPage"]> = {}, worked = 60, offered = 0) {
  const children = NAMES.map((name, at) => ({
    ...{ carried: 0, reps: [0, 0], total: 0, reason: null, rung: null, next_rung: null },
    ...{ needed: null, a_minute: null, projected: null, offered_about: false, moved_up: [] },
    ...{ pupil_id: name.toLowerCase(), number: at + 1, name, offered: offered || null },
  }));
  const page = {
    ...{ activity_id: "reps", seconds: 300, left: 240, names: ["squats", "hops"] },
    ...{ carries: "", called: null, apart: false, weights: "1/1/1", most_a_second: 2, children },
    ...more,
  };
  const server = new ClassServer(
    board({
      waves: 1,
      quick_check: { pattern: ".*", lowest: null, highest: null },
    }),
  );
  server.on("GET", "/api/activities/{activity_id}/target", () => page);
  const clock: HallClock = { go: "run 1", phase: "work", left: 60, worked };
  const made = await onPage(() =>
    useTarget(
      () => activity({ kind: "target" }),
      () => clock,
    ),
  );
  const target = made.it;
  const shown = () => target.children.value.map((one) => target.shownOf(one));
  return { server, target, shown };
}

it("adds up what a child has done of each movement since the last time", async () => {
  const { server, target, shown } = await begin();
  type(target, "20⏎");
  await sent();
  target.press(0, 0, new Event("click"));
  type(target, "15⏎");
  await sent();
  expect(shown()).toEqual(["35", "–", "–", "–"]);
  target.press(0, 0, new Event("click"));
  target.onKey(new KeyboardEvent("keydown", { key: "ArrowRight" }));
  expect(target.movement.value).toBe(1);
  type(target, "10⏎");
  await sent();
  expect(shown()[0]).toBe("45");
  target.press(0, 0, new Event("click"));
  type(target, "-5⏎");
  await sent();
  expect(shown()[0]).toBe("40");
  // One child, one entry at a time: each replaces the one before.
  expect(server.counts()).toHaveLength(1);
  target.takeBack();
  await sent();
  expect(shown()[0]).toBe("45");
});

it("says what it will come to before it is kept, and never goes below nothing", async () => {
  const { target, shown } = await begin();
  type(target, "20");
  expect(target.entry.kept.value).toBe(t("nInTotal", { n: 20 }));
  type(target, "⏎");
  await sent();
  target.press(0, 0, new Event("click"));
  type(target, "-30⏎");
  expect(target.hold.matter.value).toMatchObject({
    kind: "local",
    local: { message: t("thatWouldBeLessThanZero"), sure: false },
  });
  expect(shown()[0]).toBe("20");
});

it("asks about more than the clock explains, and keeps it where the teacher is sure", async () => {
  const { target, shown } = await begin({}, 10);
  type(target, "200⏎");
  expect(target.hold.matter.value).toMatchObject({
    local: { message: t("movementSinceLastTimeIsMore", { movement: 200 }), sure: true },
  });
  target.right();
  await sent();
  expect(shown()[0]).toBe("200");
});

it("carries in what was called once, for everybody it is still to be carried in for", async () => {
  const { server, target, shown } = await begin({ carries: "star jumps", called: 40 }, 60, 12);
  type(target, "c30⏎");
  await sent();
  expect(target.toCarry.value.map((one) => one.name)).toEqual(["Ben", "Cy", "Dot"]);
  target.carryIn();
  await sent();
  expect([shown(), target.toCarry.value]).toEqual([["30", "12", "12", "12"], []]);
  target.press(1, 0, new Event("click"));
  type(target, "c41⏎");
  expect(target.hold.matter.value).toMatchObject({
    local: {
      message: t("calledMovementWereCalledNIs", { called: 40, movement: "star jumps", n: 41 }),
      sure: true,
    },
  });
  expect(server.counts()).toHaveLength(4);
});

it.each([
  ["x1", t("typeFormsOrLast", { forms: t("repsToAdd"), last: t("n5ToRemoveFive") })],
  ["c9", t("nothingCanBeCarriedInThe")],
])("says of %s what is taken", async (typed, message) => {
  const { target } = await begin();
  type(target, `${typed}⏎`);
  expect(target.hold.matter.value).toMatchObject({ local: { message } });
});

it("keeps a reason only where no reps are", async () => {
  const { target, shown } = await begin();
  type(target, "20⏎a⏎");
  await sent();
  expect(shown().slice(0, 2)).toEqual(["20", "absent"]);
  target.press(0, 0, new Event("click"));
  type(target, "a⏎");
  expect(target.hold.matter.value).toMatchObject({
    local: { message: t("childHasRepsAlreadyUndoThem", { child: "Ada" }) },
  });
});
