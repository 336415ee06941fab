/** The list: typed down the class or along its tries, corrected, undone. */
import { expect, it } from "vitest";
import { activity, board, ClassServer } from "../../../testing/hall";
import { onPage, sent, type } from "../../../testing/page";
import { useList } from "./useList";

async function begin(more: Parameters<typeof board>[0] = {}) {
  localStorage.clear();
  const server = new ClassServer(board(more));
  const page = await onPage(() => useList(() => activity()));
  return { server, list: page.it, at: () => page.it.row.value?.child.name ?? "" };
}

it("keeps a class typed down without a look, and rests when all are in", async () => {
  const { server, list, at } = await begin();
  type(list, "12⏎a⏎0⏎31⏎");
  await sent();
  // Absent holds for the whole row; nought is a score.
  expect(server.counts()).toEqual(["Ada 1: 12", "Ben 1: a", "Cy 1: 0", "Dot 1: 31"]);
  expect(server.kept.map((one) => one.wave)).toEqual([1, 2, 1, 2]);
  expect([at(), list.test.done.value]).toEqual(["", 4]);
});

it("does not take what cannot be a score, and keeps the typing where it was", async () => {
  const { server, list, at } = await begin();
  type(list, "900⏎");
  expect(list.hold.matter.value?.kind).toBe("local");
  expect(at()).toBe("Ada");
  type(list, "⏎");
  type(list, "<");
  list.entry.typed.value = "";
  type(list, "19⏎");
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 19"]);
});

it("asks again where the server does not take it; what comes meanwhile is held", async () => {
  const { server, list, at } = await begin();
  server.refuses("25");
  type(list, "25⏎");
  await sent();
  expect(list.hold.matter.value?.place?.pupilId).toBe("ada");
  expect(list.isOpen(list.test.rows.value[0]!)).toBe(true);
  type(list, "17⏎");
  expect(server.counts()).toEqual([]);
  type(list, "<");
  expect([at(), list.entry.typed.value]).toEqual(["Ada", "25"]); // there to be put right
  list.onPad("back");
  type(list, "2⏎>");
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 22", "Ben 1: 17"]);
  expect(at()).toBe("Cy");
});

it("goes along the tries, gives one more, and stops where there is no room", async () => {
  const { server, list } = await begin({ tries: 2 });
  list.along.value = true;
  type(list, "12⏎14⏎9⏎");
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 12", "Ada 2: 14", "Ben 1: 9"]);
  const row = () => list.test.rows.value[0]!;
  list.anotherGo(row());
  type(list, "20⏎");
  list.anotherGo(row());
  type(list, "21⏎");
  await sent();
  const before = list.cell.value?.place;
  list.anotherGo(row()); // four are the most
  expect(list.cell.value?.place).toEqual(before);
  expect(row().cells.map((cell) => cell.typed)).toEqual(["12", "14", "20", "21"]);
});

it("turns a child's form and wave by a key, for that child alone", async () => {
  const { server, list } = await begin();
  type(list, "*#11⏎12⏎");
  await sent();
  expect(server.kept.map(({ variant, wave }) => [variant, wave])).toEqual([
    ["knees", 2],
    ["full", 2],
  ]);
});

it("takes back the last thing kept, and what stood before it stands again", async () => {
  const { server, list, at } = await begin();
  type(list, "12⏎");
  await sent();
  list.press(0, 0, new Event("click"));
  type(list, "21⏎");
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 21"]);
  list.takeBack();
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 12"]);
  expect(list.test.sheet.announcement.value).toBe("Ada: 12 again.");
  expect(at()).toBe("Ada");
  list.takeBack();
  await sent();
  expect(server.counts()).toEqual([]);
  expect(list.test.done.value).toBe(0);
});
