/** The kinds of writes: which are somebody's scores, and what is sent one after the other. */
import { expect, it } from "vitest";
import {
  adopted,
  begunHere,
  isEntry,
  laneOfEntry,
  waitsForLesson,
  type Entered,
  type Job,
} from "./jobs";
import { goLane, laneOf } from "./lane";

const job = (kind: Job["kind"], body: object = {}) => ({ kind, id: "id", at: "at", body }) as Job;

it.each([
  ["attempt", true],
  ["pulse", true],
  ["helped", true],
  ["go", true],
  ["run", false],
  ["conduct", false],
  ["lesson", false],
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

it("leaves a count with who counted it, however many send it on", () => {
  const one = adopted(job("helped", { pupil_id: "ada" }), "helper kim");
  expect(one.body).toEqual({ pupil_id: "ada", counted_by: "kim" });
  expect(adopted(one, "helper alex").body).toEqual(one.body);
  expect(adopted(job("go", { pupil_id: "ada" }), "child x").body).toEqual({ pupil_id: "ada" });
});

it("has what is of a lesson begun here wait for it, and nothing else", () => {
  const lesson = job("lesson", { id: "lesson", activity_ids: ["test"] });
  const begun = begunHere([lesson, job("attempt")]);
  const at = (place: string, kind: Job["kind"] = "attempt") => ({ ...job(kind), at: place });
  expect(waitsForLesson({ ...lesson, at: "lesson" }, begun)).toBe(false);
  expect(
    [at("test"), at("lesson", "conduct"), at("other")].map((one) => waitsForLesson(one, begun)),
  ).toEqual([true, true, false]);
});
