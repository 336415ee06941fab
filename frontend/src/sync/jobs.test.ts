/** The kinds of writes: which are somebody's scores, and what is sent one after the other. */
import { expect, it } from "vitest";
import { isEntry, laneOfEntry, type Entered, type Job } from "./jobs";
import { goLane, laneOf } from "./lane";

const job = (kind: Job["kind"], body: object = {}) => ({ kind, id: "id", at: "at", body }) as Job;

it.each([
  ["attempt", true],
  ["pulse", true],
  ["helped", true],
  ["go", true],
  ["run", false],
  ["conduct", false],
] as const)("takes %s for an entry: %s", (kind, is) => {
  expect(isEntry(job(kind))).toBe(is);
});

it("sends the entries of one place in turn, and each go of a child at home by itself", () => {
  const lane = (kind: Job["kind"], body: object) => laneOfEntry(job(kind, body) as Entered);
  const ada = { id: "own", pupil_id: "ada" };
  expect(lane("attempt", { ...ada, try_number: 2 })).toBe(laneOf("at", "ada", 2));
  expect(lane("helped", { ...ada, try_number: 2 })).toBe(laneOf("at", "ada", 2));
  expect(lane("pulse", { ...ada, position: 3 })).toBe(laneOf("at", "ada", 3));
  expect(lane("go", ada)).toBe(goLane("own"));
});
