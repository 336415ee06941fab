import { expect, it } from "vitest";
import { ref } from "vue";
import type { Schemas } from "../../../api/client";
import { onPage, sent, until } from "../../../testing/page";
import { TestServer } from "../../../testing/server";
import { provideFrame } from "../../frame";
import { withEntry, type HelpedLesson } from "../../sources/helped";
import { useHelper } from "./useHelper";

function entry(pupil: string, typed: string, mine = true): Schemas["HelpedEntry"] {
  const shown = mine ? typed : "";
  const head = mine && typed ? `id of ${pupil}` : null;
  return { pupil_id: pupil, try_number: 1, head, typed: shown, shown, variant: "full", mine };
}
function lesson(entries: Schemas["HelpedEntry"][] = []): HelpedLesson {
  const names = ["Ada", "Ben", "Cy", "Dot"];
  return {
    helper_id: "kim",
    name: "Kim",
    lesson_id: "lesson",
    class_name: "4 Heron",
    teacher: "Robin",
    place: "Hall",
    starts_at: "2026-03-10T09:00:00Z",
    children: names.map((name, at) => ({ pupil_id: name.toLowerCase(), number: at + 1, name })),
    groups: [{ name: "Second half", children: ["cy", "dot"] }],
    tests: [
      {
        activity_id: "reps",
        test: "Press-ups",
        kind: "count",
        seconds: 60,
        tries: 1,
        most_tries: 3,
        of: null,
        variants: [
          { code: "full", name: "full", key: "f", usual: true },
          { code: "knees", name: "on the knees", key: "k", usual: false },
        ],
        say: [],
        counts: [],
        does_not_count: [],
        cautions: [],
        accepted: "Type a whole number from 0 to 60.",
        quick_check: { pattern: "^\\d{1,3}$", lowest: 0, highest: 60 },
        reasons: [{ key: "a", code: "absent", words: "absent" }],
        forms: names.map((name) => ({
          pupil_id: name.toLowerCase(),
          variant: name === "Ben" ? "knees" : "full",
        })),
        ask_first: ["dot"],
        entries,
      },
    ],
  };
}
async function helping(begun = lesson()) {
  const server = new TestServer();
  const page = ref(begun);
  server.on("POST", "/api/help/activities/{activity_id}/attempts", ({ body }) => {
    const { id, pupil_id, typed, withdrawn } = body as Schemas["HelperAttempt"];
    const kept = { ...entry(pupil_id, withdrawn ? "" : typed), head: id };
    page.value = withEntry(page.value, "reps", kept);
    return { entry: kept, beside: false, odd: false, device_clock: "" };
  });
  const group = ref<string[] | null>(null);
  const made = await onPage(() => {
    provideFrame(() => undefined);
    const first = () => page.value.tests[0]!;
    return useHelper(
      () => page.value,
      first,
      () => group.value,
    );
  });
  return { server, helping: made.it, group, page };
}

it("counts by taps and keeps each child's own form", async () => {
  const { server, helping: it } = await helping();
  for (let n = 0; n < 12; n += 1) it.countOne();
  it.save();
  it.entry.typed.value = "9";
  await until(() => it.row.value?.child.name === "Ben");
  expect(it.entry.typed.value).toBe("9");
  it.onPad("save");
  await sent();
  const bodies = server.of("POST", "attempts").map(({ body }) => body as Schemas["HelperAttempt"]);
  expect(bodies.map(({ pupil_id, typed, variant }) => [pupil_id, typed, variant])).toEqual([
    ["ada", "12", "full"],
    ["ben", "9", "knees"],
  ]);
});

it("goes past whom somebody else has counted, and counts them when they are chosen", async () => {
  const { server, helping: it } = await helping(lesson([entry("ada", "20", false)]));
  expect(it.row.value?.child.name).toBe("Ben");
  expect(it.rows.value[0]).toMatchObject({ isCounted: true });
  expect(it.rows.value[0]?.cells[0]).toMatchObject({ shown: "", stands: false });
  it.cursor.go(0);
  it.entry.typed.value = "21";
  it.save();
  await sent();
  expect(server.of("POST", "attempts").map(({ body }) => body)).toMatchObject([
    { pupil_id: "ada", typed: "21" },
  ]);
});

it("takes a part of the class, says whom to ask about, and undoes its own last entry", async () => {
  const { server, helping: it, group } = await helping();
  group.value = ["cy", "dot"];
  await until(() => it.rows.value.length === 2);
  expect(it.row.value?.child.name).toBe("Cy");
  expect(it.rows.value.map((one) => one.ask)).toEqual([false, true]);
  it.entry.typed.value = "a";
  it.save();
  await sent();
  it.takeBack();
  await sent();
  const bodies = server.of("POST", "attempts").map(({ body }) => body as Schemas["HelperAttempt"]);
  expect(bodies.map(({ typed, withdrawn }) => [typed, withdrawn])).toEqual([
    ["a", false],
    ["", true],
  ]);
});
