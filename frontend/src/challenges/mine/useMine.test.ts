import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import type { Job } from "../../sync/jobs";
import { shownGoes } from "./useMine";

type Goes = Schemas["MyGoes"]["goes"];
const came = (id: string, shown: string, state: Schemas["GoState"] = "waiting") =>
  ({ id, shown, state, challenge_id: "skip" }) as Goes[number];
const job = (id: string, typed: string, more: Partial<Job> = {}, undone = false) =>
  ({
    kind: "go",
    id,
    body: { id, slip_id: "cat", challenge_id: "skip", typed, undone },
    ...more,
  }) as Job;

describe("a child's own goes", () => {
  it("shows those on their way before those that came, the newest first", () => {
    const jobs = [job("a", "20"), job("b", "21")];
    const shown = shownGoes([came("c", "19", "accepted")], jobs, "cat");
    expect(shown.map((one) => [one.shown, one.standing])).toEqual([
      ["21", "unsent"],
      ["20", "unsent"],
      ["19", "accepted"],
    ]);
  });
  it("shows none that was undone, sent or not, and says why one was not taken", () => {
    const refused = { refusal: { message: "Too late." } } as Partial<Job>;
    const jobs = [job("a", "", {}, true), job("b", "21", refused)];
    const shown = shownGoes([came("a", "20"), came("c", "22")], jobs, "cat");
    expect(shown.map((one) => [one.id, one.standing, one.why])).toEqual([
      ["b", "refused", "Too late."],
      ["c", "waiting", ""],
    ]);
  });
  it("shows nothing of another child on the same tablet", () => {
    expect(shownGoes([], [job("a", "20")], "rocket")).toEqual([]);
  });
});
