/** One test as a sheet: rows of the class, and what is put into their cells. */
import { expect, it } from "vitest";
import { activity, board, child, ClassServer, score, type Board } from "../testing/hall";
import { onPage, sent } from "../testing/page";
import { useTest } from "./useTest";

async function begin(more: Partial<Board> = {}) {
  const server = new ClassServer(board(more));
  const page = await onPage(() => useTest(() => activity()));
  const test = page.it;
  const row = (name: string) => test.rows.value.find((one) => one.child.name === name)!;
  return { server, test, row };
}

it("leaves the rows as they are that nothing happened to", async () => {
  const { test, row } = await begin();
  const [ada, ben] = [row("Ada"), row("Ben")];
  test.write(ada, 1, "12");
  await sent();
  expect([row("Ada") === ada, row("Ben") === ben]).toEqual([false, true]);
  expect([row("Ada").shown, row("Ada").state, row("Ada").empty]).toEqual(["12", "saved", false]);
});

it("shows the worst that happened to a child's tries", async () => {
  const { server, test, row } = await begin({ tries: 2 });
  server.refuses("99");
  test.write(row("Ada"), 1, "12");
  test.write(row("Ada"), 2, "99");
  await sent();
  expect(row("Ada").state).toBe("refused");
  expect(test.sheet.refused.value.map((one) => one.place.slot)).toEqual([2]);
  expect(row("Ben").state).toBe("empty");
});

it("keeps a correction under the conditions the score was made under", async () => {
  const made = score("x", "12", { conditions: { course_mm: 20_000 } });
  const tries = [{ number: 1, head: "x", score: made }];
  const children = [child("Ada", 1, { tries, score: made, head: "x" }), child("Ben", 2)];
  const { server, test, row } = await begin({ children });
  test.write(row("Ada"), 1, "14");
  test.own.set("ben", { course_mm: 18_000 });
  test.write(row("Ben"), 1, "15");
  await sent();
  expect(server.kept.map((one) => [one.succeeds, one.why, one.conditions])).toEqual([
    ["x", "typed again", { course_mm: 20_000 }],
    [null, "", { course_mm: 18_000 }],
  ]);
});

it("opens one more go for a child or for everybody, as far as there is room", async () => {
  const { test, row } = await begin();
  expect(test.many.value).toBe(false);
  expect([test.anotherGo(row("Ada")), row("Ada").cells.length]).toEqual([2, 2]);
  expect([test.openGo(3), test.openGo(4)]).toEqual([true, false]);
  expect(test.rows.value.map((one) => one.cells.length)).toEqual([3, 3, 3, 3]);
  expect([test.anotherGo(row("Ada")), test.many.value]).toEqual([null, true]);
});

it("counts those who are in, reasons too, and takes back what was undone", async () => {
  const { server, test, row } = await begin();
  test.writeAll([
    { row: row("Ada"), slot: 1, typed: "12" },
    { row: row("Ben"), slot: 1, typed: "a" },
  ]);
  await sent();
  expect(test.done.value).toBe(2);
  test.write(row("Ada"), 1, null, { why: "wrong child" });
  await sent();
  expect([test.done.value, server.counts()]).toEqual([1, ["Ben 1: a"]]);
  expect(server.kept.at(-1)).toMatchObject({ withdrawn: true, why: "wrong child" });
});

it("keeps wave and form with the score, the chosen ones first", async () => {
  const { server, test, row } = await begin();
  test.setWave("ada", 2);
  test.variants.chooseForAll(test.doers.value, "knees");
  test.write(row("Ada"), 1, "12");
  test.write(row("Ben"), 1, "14", { variant: "full" });
  await sent();
  expect(server.kept.map((one) => [one.wave, one.variant])).toEqual([
    [2, "knees"],
    [2, "full"],
  ]);
});
