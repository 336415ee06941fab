/** A list on its way in: nothing is kept that was not shown, and nothing said is lost. */
import { t } from "../messages/people";
import { beforeEach, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { leave, onPage, settled, until } from "../testing/page";
import { Refused, TestServer } from "../testing/server";
import { forgetHalf } from "./listDraft";
import { useListImport } from "./useListImport";

beforeEach(() => sessionStorage.clear());

type Body = Record<string, unknown> & { text: string; columns: string[] | null };
async function begin(more: Partial<Schemas["ListPreview"]> = {}) {
  const server = new TestServer();
  const preview = (body: Body) => ({
    ...{ sheets: [], heads: ["Name"], kinds: [], sample: [], rows: [], leavers: [] },
    ...{ ask_order: false, ask_class: false, ask_years: [], left_out: [] },
    ...{ new_classes: [], new_houses: [], counts: { new: 2 }, agreement: `of ${body.text}` },
    ...{ columns: body.columns ?? ["name"], ...more },
  });
  server.on("POST", "/api/lists/preview", ({ body }) => preview(body as Body));
  server.on("POST", "/api/lists", () => ({}));
  const page = await onPage(() => useListImport());
  return { server, list: page.it, read: () => until(() => !page.it.busy.value) };
}

it("reads what was pasted, and keeps what was shown", async () => {
  const { server, list, read } = await begin();
  list.paste("Ada\nBen");
  expect(list.busy.value).toBe(true); // nothing can be kept of what was not read
  await read();
  expect([list.found.value?.counts.new, list.effect.value, list.open.value]).toEqual([2, true, []]);
  await list.keeping.mutateAsync();
  expect(server.of("POST", "lists").at(-1)?.body).toMatchObject({
    ...{ text: "Ada\nBen", agreement: "of Ada\nBen", leavers: [] },
  });
  expect([list.given.text, list.found.value]).toEqual(["", null]);
});

it("says what still has to be said", async () => {
  const { list, read } = await begin({
    ...{ ask_order: true, ask_class: true, ask_years: ["6 Owl", "Rook"], counts: { ask: 1 } },
  });
  list.paste("Ada");
  await read();
  expect(list.open.value).toEqual([
    "whether the day or the month comes first",
    t("theClassForRowsWithoutOne"),
    "the year group of 6 Owl, Rook",
    t("whatToDoWithTheRows"),
  ]);
  expect(list.effect.value).toBe(false);
  list.leavers.value = ["dot"];
  expect(list.effect.value).toBe(true);
});

it("asks again with what was put right, and of another list nothing holds", async () => {
  const { server, list, read } = await begin({ heads: ["Name", "Born"] });
  list.paste("Ada");
  await read();
  list.setColumn(1, "born");
  list.answers.order = "day";
  await read();
  expect(server.of("POST", "preview").at(-1)?.body).toMatchObject({
    ...{ columns: ["name", "born"], order: "day" },
  });
  list.paste("Ben");
  await read();
  expect(server.of("POST", "preview").at(-1)?.body).toMatchObject({
    ...{ text: "Ben", columns: null, order: null },
  });
});

it("shows the answer of the last question, whichever comes first", async () => {
  const { server, list, read } = await begin();
  const answers: (() => void)[] = [];
  server.on("POST", "/api/lists/preview", async ({ body }) => {
    await new Promise<void>((done) => answers.push(done));
    return { counts: {}, agreement: (body as Body).text };
  });
  list.paste("old");
  await until(() => answers.length === 1);
  list.paste("new");
  await until(() => answers.length === 2);
  answers[1]?.();
  await read();
  answers[0]?.();
  await settled();
  expect(list.found.value?.agreement).toBe("new");
});

it("says why it cannot be read, and looks again where it changed before it was kept", async () => {
  const { server, list, read } = await begin();
  server.on("POST", "/api/lists", () => {
    throw new Refused(409, { message: "The list would now do something else." });
  });
  list.paste("Ada");
  await read();
  await expect(list.keeping.mutateAsync()).rejects.toThrow("something else");
  await read();
  expect(server.of("POST", "preview")).toHaveLength(2);
  server.on("POST", "/api/lists/preview", () => {
    throw new Refused(422, { message: "No row has a name." });
  });
  list.paste("?");
  await read();
  expect([list.problem.value, list.found.value]).toEqual(["No row has a name.", null]);
});

it("is there again after a reload, and gone after a sign-out", async () => {
  const { list, read } = await begin();
  const file = new File(["Ada"], "class.csv");
  await list.choose(file);
  list.answers.new_class = "6 Owl";
  await read();
  await until(() => sessionStorage.length > 0);
  leave();
  const again = await begin();
  await again.read();
  expect([again.list.given.file_name, again.list.answers.new_class]).toEqual([
    "class.csv",
    "6 Owl",
  ]);
  leave();
  forgetHalf();
  const none = await begin();
  expect([none.list.given.data, none.server.asked]).toEqual(["", []]);
});
