import { afterEach, expect, it } from "vitest";
import { heldClock } from "../../testing/page";
import { attemptJob } from "./entry";

afterEach(() => delete window.laufTimeSource);
const place = { pupilId: "ada", at: "mile", slot: 2 };

it("is a score of its place and moment, which says nothing that was not said", () => {
  const clock = heldClock(Date.UTC(2026, 4, 4, 9));
  clock.ahead(1_500);
  expect(attemptJob(place, { typed: "9:30" }, null)).toEqual({
    kind: "attempt",
    after: undefined,
    body: {
      ...{ id: "", pupil_id: "ada", try_number: 2, typed: "9:30", variant: "", wave: null },
      ...{ conditions: {}, counted_by: null, run_id: null, sure: false, why: "" },
      ...{ withdrawn: false, recorded_at: "2026-05-04T09:00:01.500Z" },
    },
  });
});

it("waits for the clock it was taken by: its own before the one that is open", () => {
  expect(attemptJob(place, { typed: "9:30" }, "open")).toMatchObject({
    after: "run open",
    body: { run_id: "open" },
  });
  expect(attemptJob(place, { typed: "9:30", run_id: "own" }, "open")).toMatchObject({
    after: "run own",
    body: { run_id: "own" },
  });
});
