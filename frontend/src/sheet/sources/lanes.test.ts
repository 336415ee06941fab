import { expect, it } from "vitest";
import type { Board, Child } from "../types";
import { withChild } from "./lanes";

const child = (pupil_id: string, scale: number, origin = 0) =>
  ({ pupil_id, lane: { scale, origin } }) as Child;
const board = (...children: Child[]) => ({ children }) as Board;

it("puts a newer child in its row, and all lanes on the widest scale", () => {
  const before = board(child("a", 30), child("b", 30, -2));
  const after = withChild(before, child("a", 42));
  expect(after.children.map((one) => [one.pupil_id, one.lane.scale, one.lane.origin])).toEqual([
    ["a", 42, -2],
    ["b", 42, -2],
  ]);
  // Where nothing is wider every other row stays the same object.
  const same = withChild(after, child("a", 42, -2));
  expect(same.children[1]).toBe(after.children[1]);
});
