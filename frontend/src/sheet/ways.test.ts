import { expect, it } from "vitest";
import { KINDS } from "../api/vocabulary";
import { wayFor, waysOf } from "./ways";

it("offers each kind of score the ways that fit it, the best one first in the hall", () => {
  const fits = (kind: string) => waysOf(kind).map((way) => way.name);
  expect(fits("count")).toEqual(["list", "tally", "partner"]);
  expect(fits("time")).toEqual(["list", "tap"]);
  expect(fits("marks")).toEqual(["list", "measure"]);
  expect(fits("total")).toEqual(["list", "target", "partner"]);
  expect(fits("stage")).toEqual(["list", "beeps"]);
  expect(fits("hits")).toEqual(["list", "partner"]);
  expect(fits("sides")).toEqual(["list"]);
  const best = Object.fromEntries(
    ["count", "time", "length", "total", "stage", "sides"].map((kind) => [kind, wayFor(kind)]),
  );
  expect(best).toEqual({
    count: "list", time: "tap", length: "measure", total: "target", stage: "beeps", sides: "list",
  }); // prettier-ignore
  for (const { code } of KINDS) expect(fits(code)[0]).toBe("list");
});
