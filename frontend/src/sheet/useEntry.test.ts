/** What is typed: how it will be kept, before it is, and what speaks against it. */
import { t } from "../messages/sheet";
import { expect, it, vi } from "vitest";
import { ref } from "vue";
import { onPage, settled, until } from "../testing/page";
import { TestServer } from "../testing/server";
import { useEntry, type Form } from "./useEntry";

const reps: Form = {
  ...{ activityId: "reps", accepted: "Type a whole number from 0 to 60." },
  quick: { pattern: "^\\d{1,3}~?$", lowest: 0, highest: 60 },
  reasons: [{ key: "a", words: "absent" }],
  counts: ["rep", "reps"],
};

async function begin(form: Form | null) {
  const server = new TestServer();
  server.on("GET", "/api/activities/{activity_id}/reading", ({ query }) => ({
    words: query.get("typed") === "12~" ? "12 reps, an estimate" : "",
    problem: query.get("typed") === "12~" ? "" : "Which is it?",
    accepted: "",
    choices: [],
  }));
  const shown = ref(form);
  const page = await onPage(() => useEntry(() => shown.value));
  return { server, entry: page.it, shown };
}

it("says a plain count and a reason at once, without the server", async () => {
  const { server, entry } = await begin(reps);
  for (const [typed, kept] of [
    ["1", "1 rep"],
    [" 24 ", "24 reps"],
    ["A", "absent"],
    ["", ""],
  ] as const) {
    entry.typed.value = typed;
    expect(entry.kept.value).toBe(kept);
  }
  await settled();
  expect(server.asked).toEqual([]);
});

it("asks the rules about everything else once the typing rests", async () => {
  const { server, entry } = await begin(reps);
  entry.typed.value = "1";
  entry.typed.value = "12~";
  expect(entry.kept.value).toBe("");
  await until(() => entry.kept.value !== "");
  expect(entry.kept.value).toBe("12 reps, an estimate");
  expect(server.asked.map((one) => one.query.get("typed"))).toEqual(["12~"]);
  // Of another text that is not said any more.
  entry.typed.value = "12~~";
  expect(entry.kept.value).toBe("");
});

it("says what is wrong here, and what Enter was told only once", async () => {
  const { entry } = await begin(reps);
  entry.typed.value = "900";
  expect(entry.doubt.value).toBe(t("typedIsAboveTheMaximumOf", { typed: "900" }));
  const wrong = entry.wrongWith("900");
  expect(wrong).toMatchObject({ accepted: reps.accepted, sure: false });
  entry.problem.value = wrong;
  expect([entry.doubt.value, entry.kept.value]).toEqual(["", ""]);
  entry.clear("24");
  expect([entry.problem.value, entry.kept.value, entry.wrongWith("24")]).toEqual([
    null,
    "24 reps",
    null,
  ]);
});

it("reads a part as the whole entry it stands for, and a reason alone", async () => {
  const whole = vi.fn((text: string) => `142 ${text}`);
  const quick = { pattern: "^\\d+ \\d+$", lowest: null, highest: null };
  const { entry } = await begin({ ...reps, counts: null, quick, whole });
  expect([entry.wrongWith("171"), entry.wrongWith("a")]).toEqual([null, null]);
  expect(entry.wrongWith("1x")).not.toBeNull();
  expect(whole).not.toHaveBeenCalledWith("a");
});

it("speaks of nothing where nothing is typed in", async () => {
  const { entry, shown } = await begin(null);
  entry.typed.value = "900";
  expect([entry.kept.value, entry.doubt.value, entry.wrongWith("900")]).toEqual(["", "", null]);
  shown.value = { ...reps, activityId: null, counts: null, words: (text) => `${text} beats` };
  expect(entry.kept.value).toBe("");
  entry.typed.value = "30";
  expect(entry.kept.value).toBe("30 beats");
});
