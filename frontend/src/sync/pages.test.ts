/** Pages that this device keeps: there without network, one person's, bounded, and gone with them. */
import { QueryClient } from "@tanstack/vue-query";
import Dexie from "dexie";
import { IDBKeyRange, indexedDB } from "fake-indexeddb";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { ApiError } from "../api/client";
import { keepPages, Pages, surplus, type Page } from "./pages";

Dexie.dependencies = { indexedDB, IDBKeyRange };
const LANES = ["lanes", "press-ups"];
const AWAY = new ApiError(0, "no network");
let store: Pages;
const ends: (() => void)[] = [];

beforeEach(() => {
  store = new Pages(`pages-${String(Math.random())}`);
});
afterEach(() => {
  for (const end of ends.splice(0)) end();
});

/** A page that was opened, as after a reload or a killed browser. */
function opened(person: string | null = "robin") {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: 0 } } });
  ends.push(keepPages(queries, store, () => person).end);
  const read = (key: unknown[], answer: () => Promise<unknown>) =>
    queries.query({ queryKey: key, queryFn: answer }).catch(() => undefined);
  return { queries, read, shown: (key: unknown[]) => queries.getQueryData(key) };
}
const written = (number: number) =>
  vi.waitUntil(async () => (await store.all()).length === number, { timeout: 30_000 });

it("shows what was read before where nobody answers, with what was saved since", async () => {
  const before = opened();
  await before.read(LANES, () => Promise.resolve({ children: [{ shown: "" }] }));
  before.queries.setQueryData(LANES, { children: [{ shown: "21" }] });
  await vi.waitUntil(async () => (await store.all())[0]?.text.includes("21"), { timeout: 30_000 });

  const after = opened();
  await after.read(LANES, () => Promise.reject(AWAY));
  await vi.waitUntil(() => after.shown(LANES) !== undefined, { timeout: 30_000 });
  expect(after.shown(LANES)).toEqual({ children: [{ shown: "21" }] });
  // It counts as old: the server is asked as soon as it answers.
  const kept = (await store.all())[0];
  expect(after.queries.getQueryState(LANES)?.dataUpdatedAt).toBe(kept?.at);
});

it("believes the server rather than itself", async () => {
  const before = opened();
  await before.read(LANES, () => Promise.resolve("old"));
  await written(1);
  const after = opened();
  await after.read(LANES, () => Promise.reject(new ApiError(404, "no such test")));
  expect(after.shown(LANES)).toBeUndefined();
  await after.read(LANES, () => Promise.resolve("new"));
  expect(after.shown(LANES)).toBe("new");
});

it("shows nobody another person's pages, and keeps none of nobody's", async () => {
  await opened().read(LANES, () => Promise.resolve("Robin's children"));
  await written(1);
  const other = opened("jo");
  await other.read(LANES, () => Promise.reject(AWAY));
  await opened(null).read(["lesson", "x"], () => Promise.resolve("nobody's"));
  await opened().read(["plan", "x"], () => Promise.resolve("Robin's plan"));
  await written(2);
  const people = (await store.all()).map((one) => one.person);
  expect([other.shown(LANES), people]).toEqual([undefined, ["robin", "robin"]]);
});

it("keeps no body measurement, and nothing that no lesson needs", async () => {
  const { read } = opened();
  await read(["lanes", "height"], () => Promise.resolve({ private: true }));
  await read(["grid", "term"], () =>
    Promise.resolve({ tests: [{ private: false }, { private: true }] }),
  );
  await read(["pupil", "ada"], () => Promise.resolve({ name: "Ada" }));
  await read(LANES, () => Promise.resolve({ private: false }));
  await written(1);
  expect((await store.all()).map((one) => one.key)).toEqual([LANES]);
});

it("lets go of other people's, of another version's, of what is old, and of the oldest of too much", () => {
  const day = 86_400_000;
  const now = 100 * day;
  const page = (hash: string, at: number, letters = 10, person = "robin"): Page => ({
    ...{ person, hash, key: [hash], at, text: "x".repeat(letters), shapes: "now" },
  });
  const pages = [
    ...[page("today", now), page("a week ago", now - 7 * day), page("older", now - 9 * day)],
    ...[page("large", now - 1, 23_999_980), page("beyond", now - 8 * day + 1, 20)],
    page("theirs", now, 10, "jo"),
    { ...page("of an older Lauf", now), shapes: "then" },
  ];
  const gone = surplus(pages, "robin", now, "now").map((one) => one.hash);
  expect(gone.sort()).toEqual(["beyond", "of an older Lauf", "older", "theirs"]);
});
