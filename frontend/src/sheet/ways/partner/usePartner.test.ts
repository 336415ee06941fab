/** One works, the partner counts and says: every score names who said it. */
import { expect, it } from "vitest";
import { activity, board, child, ClassServer } from "../../../testing/hall";
import { leave, onPage, sent, type } from "../../../testing/page";
import { usePartner } from "./usePartner";

async function begin(names: string[]) {
  localStorage.clear();
  const children = names.map((name, at) => child(name, at + 1));
  const server = new ClassServer(board({ children }));
  const page = await onPage(() => usePartner(() => activity()));
  return { server, pairs: page.it };
}
const said = (server: ClassServer) =>
  server.kept.map((one) => `${one.pupil_id} ${one.typed} by ${one.counted_by}`);

it("asks first those who worked first, each counted by its neighbour in the list", async () => {
  const { server, pairs } = await begin(["Ada", "Ben", "Cy", "Dot"]);
  expect(pairs.turns.value.map((row) => row.child.name)).toEqual(["Ada", "Cy", "Ben", "Dot"]);
  type(pairs, "20⏎18⏎25⏎30⏎");
  await sent();
  expect(said(server)).toEqual(["ada 20 by ben", "cy 18 by dot", "ben 25 by ada", "dot 30 by cy"]);
  expect(pairs.row.value).toBeNull();
});

it("has an odd one out counted by the one before", async () => {
  const { server, pairs } = await begin(["Ada", "Ben", "Cy"]);
  type(pairs, "20⏎18⏎");
  await sent();
  expect(said(server)).toEqual(["ada 20 by ben", "cy 18 by ben"]);
});

it("has whoever was chosen say it, and nobody where the class is one child", async () => {
  const { server, pairs } = await begin(["Ada", "Ben", "Cy", "Dot"]);
  pairs.say(pairs.row.value!, "dot");
  type(pairs, "20⏎");
  await sent();
  expect(said(server)).toEqual(["ada 20 by dot"]);
  leave();
  const alone = await begin(["Ada"]);
  type(alone.pairs, "20⏎");
  await sent();
  expect(said(alone.server)).toEqual(["ada 20 by null"]);
});

it("turns the form of who is asked", async () => {
  const { server, pairs } = await begin(["Ada", "Ben"]);
  type(pairs, "*9⏎");
  await sent();
  expect(server.kept[0]?.variant).toBe("knees");
});
