/** At the tape: the standing mark once, a mark for each try, and both worked out anew together. */
import { t } from "../../../messages/sheet";
import { expect, it } from "vitest";
import { activity, board, ClassServer, type Board } from "../../../testing/hall";
import { onPage, sent, type } from "../../../testing/page";
import { useMeasure } from "./useMeasure";

async function begin(more: Partial<Board> = {}) {
  const server = new ClassServer(
    board({
      ...{ kind: "marks", unit: "cm", tries: 2, waves: 1, most_tries: 4 },
      quick_check: { pattern: "^\\d+(\\.\\d)? \\d+(\\.\\d)?$", lowest: null, highest: null },
      accepted: "Type two marks.",
      ...more,
    }),
  );
  const page = await onPage(() =>
    useMeasure(
      () => activity({ kind: "marks" }),
      () => null,
    ),
  );
  return { server, tape: page.it, name: () => page.it.row.value?.child.name ?? "" };
}

it("asks for the standing mark first, and then goes along the tries", async () => {
  const { server, tape, name } = await begin();
  expect(tape.wantsMark.value).toBe(true);
  type(tape, "171⏎");
  expect(tape.hold.matter.value).toMatchObject({
    kind: "local",
    local: { message: t("measureTheStandingReachFirst") },
  });
  type(tape, "<");
  tape.mark.value = "142";
  tape.keepMark();
  tape.entry.typed.value = "";
  type(tape, "171⏎173.5⏎");
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 142 171", "Ada 2: 142 173.5"]);
  expect([name(), tape.mark.value]).toEqual(["Ben", ""]);
});

it("works out every jump anew from another standing mark, in one press that undo takes back", async () => {
  const { server, tape } = await begin();
  tape.mark.value = "142";
  type(tape, "171⏎173⏎");
  await sent();
  tape.go(0);
  tape.mark.value = "140";
  tape.keepMark();
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 140 171", "Ada 2: 140 173"]);
  expect(server.kept.at(-1)?.why).toBe(t("newStandingReach"));
  tape.takeBack();
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 142 171", "Ada 2: 142 173"]);
  // The mark of before stands in its field again.
  expect(tape.mark.value).toBe("142");
});

it("takes the new mark along when a try is typed again", async () => {
  const { server, tape } = await begin();
  tape.mark.value = "142";
  type(tape, "171⏎173⏎");
  await sent();
  tape.press(0, 1, new Event("click"));
  tape.mark.value = "141";
  type(tape, "175⏎");
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 141 171", "Ada 2: 141 175"]);
});

it("keeps a reason without a mark, and a void try by one press", async () => {
  const { server, tape, name } = await begin();
  type(tape, "a⏎");
  await sent();
  expect(server.counts()).toEqual(["Ada 1: a"]);
  tape.go(1);
  expect(name()).toBe("Ben");
  tape.voided(0);
  await sent();
  expect(server.counts()).toEqual(["Ada 1: a", "Ben 1: v"]);
});

it("types the standing mark from the pad, while that is where the typing is", async () => {
  const { tape } = await begin();
  tape.atMark.value = true;
  for (const key of ["1", "4", "9", "back", "2"]) tape.onPad(key);
  expect([tape.mark.value, tape.entry.typed.value]).toEqual(["142", ""]);
  tape.onPad("save");
  tape.atMark.value = false;
  for (const key of ["1", "7", "1"]) tape.onPad(key);
  expect(tape.entry.typed.value).toBe("171");
});

it("needs no mark where the length is measured at once", async () => {
  const { server, tape } = await begin({
    kind: "distance",
    quick_check: { pattern: "^\\d+$", lowest: 0, highest: 400 },
  });
  expect([tape.twoMarks.value, tape.wantsMark.value]).toEqual([false, false]);
  type(tape, "152⏎155⏎");
  await sent();
  expect(server.counts()).toEqual(["Ada 1: 152", "Ada 2: 155"]);
});
