import { expect, it } from "vitest";
import type { Job } from "./jobs";
import { waitingIn } from "./unsent";

const job = (pupil_id: string, more: Partial<Job> = {}, body = {}) =>
  ({ kind: "attempt", at: "press-ups", body: { pupil_id, ...body }, ...more }) as Job;

it("counts who has an entry on its way, and nobody whose entry is refused, undone or elsewhere", () => {
  const jobs = [
    ...[job("ada"), job("ben"), job("ben", {}, { withdrawn: true }), job("cy", { at: "plank" })],
    ...[job("dot", { refusal: { status: 422 } as never }), job("eve", { kind: "pulse" } as never)],
    ...[job("fay", {}, { withdrawn: true }), job("fay")],
  ];
  expect([...waitingIn(jobs, "press-ups")].sort()).toEqual(["ada", "fay"]);
});
