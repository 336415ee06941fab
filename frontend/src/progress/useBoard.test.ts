/** The class board: which days it is of, and which tests and children it shows. */
import { expect, it } from "vitest";
import { onPage, settled } from "../testing/page";
import { TestServer } from "../testing/server";
import { looks, shapeOf, useBoard, type BoardChild } from "./useBoard";

const note = (need: string, aside = false) =>
  ({ need, aside }) as unknown as BoardChild["notes"][number];
const CHILDREN = [
  { name: "Cy", house: "Elm", group: "Reds", notes: [note("praise")] },
  { name: "Ada", house: "Oak", group: "", notes: [note("look"), note("look", true)] },
  { name: "Ben", house: "Elm", group: "Blues", notes: [note("look"), note("ask")] },
] as BoardChild[];

async function begin() {
  const server = new TestServer();
  server.on("GET", "/api/classes/{class_id}/board", () => ({
    children: CHILDREN,
    tests: [
      { test: "Press-ups", family: "reps", family_words: "Reps" },
      { test: "Long jump", family: "jumps", family_words: "Jumps" },
    ],
    terms: [
      { name: "Summer", starts: "2026-04-20", ends: "2026-07-17" },
      { name: "Spring", starts: "2026-01-05", ends: "2026-04-02" },
    ],
  }));
  const page = await onPage(() => useBoard("class"));
  const asked = () => Object.fromEntries(server.asked.at(-1)?.query ?? []);
  return { board: page.it, asked, names: () => page.it.children.value.map((one) => one.name) };
}

it("asks for a term, put beside another one", async () => {
  const { board, asked } = await begin();
  expect(asked()).toEqual({});
  board.wish.days = "2026-04-20";
  board.wish.beside = "2026-01-05";
  await settled();
  expect(asked()).toEqual({
    ...{ since: "2026-04-20", until: "2026-07-17" },
    ...{ beside_since: "2026-01-05", beside_until: "2026-04-02" },
  });
  Object.assign(board.wish, { days: "year", beside: "" });
  await settled();
  expect(Object.keys(asked())).toEqual(["since"]);
});

it("shows the tests of a family in the places they have", async () => {
  const { board } = await begin();
  expect([...board.families.value.values()]).toEqual(["Reps", "Jumps"]);
  board.wish.family = "jumps";
  expect(board.columns.value.map(({ test, at }) => [test.test, at])).toEqual([["Long jump", 1]]);
});

it("puts those first who want a look, and shows a house or a group", async () => {
  const { board, names } = await begin();
  expect(names()).toEqual(["Cy", "Ada", "Ben"]);
  board.wish.order = "name";
  expect(names()).toEqual(["Ada", "Ben", "Cy"]);
  board.wish.order = "look";
  expect([names(), CHILDREN.map(looks)]).toEqual([
    ["Ben", "Ada", "Cy"],
    [0, 1, 2],
  ]);
  board.wish.house = "Elm";
  expect([names(), board.houses.value, board.groups.value]).toEqual([
    ["Ben", "Cy"],
    ["Elm", "Oak"],
    ["Blues", "Reds"],
  ]);
  board.wish.group = "Reds";
  expect(names()).toEqual(["Cy"]);
});

it("says a change by a shape, and none of what says nothing", () => {
  expect(["better", "lower", "steady", ""].map((one) => shapeOf(one)?.[1] ?? null)).toEqual([
    ...["better", "lower than before", "steady", null],
  ]);
});
