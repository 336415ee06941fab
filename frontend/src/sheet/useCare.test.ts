/** Who is kept from what is on, and the teacher's word over it. */
import { expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { board, child, ClassServer } from "../testing/hall";
import { onPage, settled } from "../testing/page";
import { useCare } from "./useCare";

const care: Schemas["KeptFrom"] = {
  what: ["hands"],
  words: "is not to lean on hands",
  allowed: false,
};

it("names them for the test that is open, and asks the server to let them", async () => {
  const children = [child("Ada", 1, { care }), child("Ben", 2)];
  const server = new ClassServer(board({ children }));
  let allowed: unknown;
  server.on("PUT", "/api/lessons/{lesson_id}/allowed", ({ body }) => {
    allowed = body;
    server.board = board({ children: [child("Ada", 1, { care: { ...care, allowed: true } })] });
    return {};
  });
  const page = await onPage(() => useCare("lesson", () => "reps"));
  const { notes, allowing } = page.it;
  expect(notes.value.map((one) => [one.name, one.test, one.care.words])).toEqual([
    ["Ada", "", "is not to lean on hands"],
  ]);
  await allowing.mutateAsync(notes.value[0]!);
  await settled();
  expect(allowed).toEqual({ pupil_id: "ada", what: ["hands"], allowed: true });
  // What changed is read again, and the word can be undone.
  expect(notes.value[0]?.care.allowed).toBe(true);
  await allowing.mutateAsync(notes.value[0]!);
  expect(allowed).toMatchObject({ allowed: false });
});

it("names test by test for a lesson's table of all, and nobody where no test is open", async () => {
  const server = new ClassServer(board());
  server.on("GET", "/api/lessons/{lesson_id}/grid", () => ({
    tests: [{ test: "Press-ups" }, { test: "Long jump" }],
    children: [
      {
        ...{ pupil_id: "ada", name: "Ada" },
        cells: [
          { activity_id: "reps", care: null },
          { activity_id: "jump", care },
        ],
      },
    ],
  }));
  const page = await onPage(() => useCare("lesson", () => null));
  expect(page.it.notes.value.map((one) => [one.name, one.test])).toEqual([["Ada", "Long jump"]]);
  page.leave();
  const none = await onPage(() => useCare("lesson", () => ""));
  expect([none.it.notes.value, server.of("GET", "lanes")]).toEqual([[], []]);
});
