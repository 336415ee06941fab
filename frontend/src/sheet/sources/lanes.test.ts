/** A class in one test: what stands there, and what an answer changes of it. */
import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { board, child, ClassServer, NAMES, score } from "../../testing/hall";
import { leave, onPage, sent, settled, until } from "../../testing/page";
import { useSheet } from "../useSheet";
import { openFlags, questionsOf, announcementOf, shownOf, useLanes } from "./lanes";
import { gridKey, withChild } from "./pages";

async function begin(server = new ClassServer(board()), run: string | null = null) {
  const page = await onPage(() => {
    const lanes = useLanes("reps", () => run);
    return { ...lanes, sheet: useSheet(lanes.source) };
  });
  const place = (pupilId: string, slot = 1, at = "reps") => ({ pupilId, at, slot });
  return { server, place, queries: page.queries, ...page.it };
}
const flag = (code: string, settled = false) => ({ code, words: code, settled });

it("puts all lanes on one scale, the newer child's too", () => {
  const wide = child("Ada", 1, { lane: { ...child("Ada", 1).lane, origin: -5, scale: 80 } });
  const after = withChild(board(), wide);
  expect(after.children.map((one) => [one.lane.origin, one.lane.scale])).toEqual(
    NAMES.map(() => [-5, 80]),
  );
  // Where the scale is the same, nobody else is drawn anew.
  const before = board();
  const same = withChild(before, child("Ada", 1, { words: ["new best"] }));
  expect(same.children.slice(1)).toEqual(before.children.slice(1));
  expect(same.children[1]).toBe(before.children[1]);
});

it("draws anew whoever was on another scale or from another origin", () => {
  const own = child("Ada", 1).lane;
  for (const lane of [
    { ...own, origin: -5 },
    { ...own, scale: 80 },
  ]) {
    const { origin, scale } = lane;
    for (const one of withChild(board(), child("Ada", 1, { lane })).children) {
      expect([one.lane.origin, one.lane.scale]).toEqual([origin, scale]);
    }
  }
});

it("is in the table of all tests too, though that is not open: an undo there finds it", async () => {
  const { sheet, place, queries } = await begin();
  const row = (one: string, at: string[]) => ({
    ...{ pupil_id: one.toLowerCase(), name: one },
    cells: at.map((activity_id) => ({ activity_id, head: null, score: null })),
  });
  const table = (...at: string[]) => ({
    tests: at.map((activity_id) => ({ activity_id })),
    children: NAMES.map((one) => row(one, at)),
  });
  queries.setQueryData(gridKey("lesson"), table("mile", "reps"));
  queries.setQueryData(gridKey("lesson", "before"), table("mile", "reps"));
  const other = table("mile");
  queries.setQueryData(gridKey("another"), other);
  sheet.write([{ place: place("ada"), entry: { typed: "18" } }]);
  await sent();
  for (const before of [undefined, "before"]) {
    const shown = queries.getQueryData<Schemas["BatteryGrid"]>(gridKey("lesson", before));
    const typed = shown?.children.map(({ cells }) => cells.map((one) => one.score?.typed ?? ""));
    expect(typed?.[0]).toEqual(["", "18"]);
    expect(typed?.slice(1).flat().join("")).toBe("");
    expect(shown?.children[0]?.cells[1]?.head).toBe(sheet.cell(place("ada")).head);
    expect(queries.getQueryState(gridKey("lesson", before))?.isInvalidated).toBe(true);
  }
  expect(queries.getQueryData(gridKey("another"))).toBe(other);
});

it("says a score with its words once, and an estimate by its sign", () => {
  const made = score("x", "18", { estimate: true });
  const tries = [{ number: 1, head: "x", score: made }];
  expect(shownOf(made)).toBe("18 ~");
  expect(announcementOf(child("Ada", 1, { tries, words: ["better", "new best"] }), 1)).toBe(
    "18 ~, better, new best",
  );
  const absent = [{ number: 1, head: "x", score: score("x", "a") }];
  expect(announcementOf(child("Ada", 1, { tries: absent, words: ["absent"] }), 1)).toBe("absent");
  expect(announcementOf(child("Ada", 1), 1)).toBe("nothing now");
});

it("asks only what is open, and not whether an estimate is one", () => {
  const flags = [flag("estimate"), flag("history"), flag("range", true)];
  const asked = child("Ada", 1, { flags, score: score("x", "18") });
  expect(openFlags(asked).map((one) => one.code)).toEqual(["history"]);
  const place = { pupilId: "ada", at: "reps", slot: 1 };
  expect(questionsOf(place, asked)).toMatchObject({ entryId: "x", shown: "18" });
  expect(questionsOf(null, asked)).toBeNull();
  expect(questionsOf(place, child("Ada", 1, { flags: [flag("estimate")] }))).toBeNull();
});

it("settles a question flag by flag, and shows what the score means from then on", async () => {
  const server = new ClassServer(board());
  const settledFlags: string[] = [];
  server.on("POST", "/api/attempts/{attempt_id}/confirm", ({ at, body }) => {
    settledFlags.push(`${at[0]} ${(body as { flag: string }).flag}`);
    const tries = [{ number: 1, head: "x", score: score("x", "18") }];
    return child("Ada", 1, { tries, words: ["new best"] });
  });
  const { sheet, place, board: shown, queries } = await begin(server);
  queries.setQueryData(["lesson-summary", "lesson"], {});
  sheet.settle({
    ...{ place: place("ada"), shown: "18", entryId: "x" },
    flags: [flag("history"), flag("class")],
  });
  await settled();
  expect(settledFlags).toEqual(["x history", "x class"]);
  expect([sheet.announcement.value, shown.value?.children[0]?.words]).toEqual([
    "Ada: 18, new best",
    ["new best"],
  ]);
  expect(queries.getQueryState(["lesson-summary", "lesson"])?.isInvalidated).toBe(true);
});

it("takes a time by the clock that runs, and a count by none", async () => {
  const timed = await begin(new ClassServer(board({ kind: "time" })), "run");
  const run = (one: typeof timed) =>
    (one.source.job(one.place("ada"), { typed: "9" }).body as Schemas["NewAttempt"]).run_id;
  expect(run(timed)).toBe("run");
  leave();
  expect(run(await begin(new ClassServer(board()), "run"))).toBeNull();
});

it("reads the other tries again a moment after one of several", async () => {
  const { server, sheet, place } = await begin(new ClassServer(board({ tries: 2 })));
  sheet.write([{ place: place("ada"), entry: { typed: "18" } }]);
  await sent();
  expect(server.of("GET", "lanes")).toHaveLength(1);
  await until(() => server.of("GET", "lanes").length >= 2);
});

it("knows the lesson's other tests that are on the device, and no private one", async () => {
  const { source, place, queries } = await begin();
  const other = (activity_id: string, more = {}) =>
    queries.setQueryData(["lanes", activity_id], board({ activity_id, ...more }));
  other("mile");
  other("weight", { private: true });
  other("elsewhere", { lesson_id: "another" });
  const said = source.alsoFor?.(place("ada"), { typed: "a" }) ?? [];
  expect(said.map((one) => [one.place.at, one.entry.typed])).toEqual([["mile", "absent"]]);
  expect([source.isOwn?.(place("ada")), source.isOwn?.(place("ada", 1, "mile"))]).toEqual([
    ...[true, false],
  ]);
  const job = { kind: "attempt", at: "mile", body: { pupil_id: "ada", try_number: 1 } };
  expect(source.placeOf(job as never)).toEqual(place("ada", 1, "mile"));
  expect(source.placeOf({ ...job, at: "weight" } as never)).toBeNull();
});

it("says a reason at no other test in which the child has a score, or is not", async () => {
  const { source, place, queries } = await begin();
  const made = score("x", "18");
  const goes = [made, null].map((one, at) => ({ number: at + 1, head: null, score: one }));
  const other = (activity_id: string, children: ReturnType<typeof child>[]) =>
    queries.setQueryData(["lanes", activity_id], board({ activity_id, children }));
  other("mile", [child("Ben", 2), child("Ada", 1, { tries: goes, variant: "knees" })]);
  other("plank", [child("Ben", 2)]);
  other("hop", [child("Ben", 2, { tries: goes }), child("Ada", 1, { variant: "knees" })]);
  const said = source.alsoFor?.(place("ada"), { typed: "a" }) ?? [];
  expect(said).toEqual([
    { place: place("ada", 1, "hop"), entry: { typed: "absent", variant: "knees" } },
  ]);
});
