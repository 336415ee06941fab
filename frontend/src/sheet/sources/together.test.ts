import { expect, it } from "vitest";
import { inOtherTests, type Other } from "./together";

const REASONS = [
  { key: "a", code: "absent", words: "absent" },
  { key: "v", code: "void", words: "void" },
];
/** Absent has another letter there: "a" may be a form of the movement. */
const THERE = [{ key: "x", code: "absent", words: "absent" }];
const other = (at: string, more: Partial<Other> = {}): Other => ({
  ...{ at, reasons: THERE, variant: "knees", empty: true },
  ...more,
});
const said = (typed: string, others: Other[]) =>
  inOtherTests("ada", typed, REASONS, others).map(({ place, entry }) => [place.at, entry.typed]);

it.each(["a", " A ", "absent"])("says %s of the lesson at its other tests, in words", (typed) => {
  expect(inOtherTests("ada", typed, REASONS, [other("mile")])).toEqual([
    {
      place: { pupilId: "ada", at: "mile", slot: 1 },
      entry: { typed: "absent", variant: "knees" },
    },
  ]);
});

it("writes over nothing, and says only what a test knows", () => {
  expect(said("a", [other("mile", { empty: false }), other("jump", { reasons: [] })])).toEqual([]);
});

it.each(["v", "12", ""])("says %s of its own test alone", (typed) => {
  expect(said(typed, [other("mile")])).toEqual([]);
});
