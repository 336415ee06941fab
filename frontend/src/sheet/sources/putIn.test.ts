import { QueryClient, QueryObserver } from "@tanstack/vue-query";
import { flushPromises } from "@vue/test-utils";
import { expect, it } from "vitest";
import { putIn } from "./putIn";

it("is not undone by a page that was asked for before", async () => {
  const queries = new QueryClient();
  const queryKey = ["page"];
  queries.setQueryData(queryKey, { kept: [] as string[] });
  let answer: (page: { kept: string[] }) => void = () => undefined;
  const asked = queries
    .query({
      queryKey,
      queryFn: () => new Promise<{ kept: string[] }>((done) => (answer = done)),
    })
    .catch(() => undefined);
  putIn<{ kept: string[] }>(queries, queryKey, (old) => ({ kept: [...old.kept, "18"] }));
  answer({ kept: [] });
  await asked;
  await flushPromises();
  expect(queries.getQueryData(queryKey)).toEqual({ kept: ["18"] });
});

it("is on the screen in the same moment: an undo pressed then finds what was kept", () => {
  const queries = new QueryClient();
  const queryKey = ["page"];
  queries.setQueryData(queryKey, { kept: [] as string[] });
  const seen: unknown[] = [];
  new QueryObserver(queries, { queryKey, enabled: false }).subscribe(({ data }) => seen.push(data));
  putIn<{ kept: string[] }>(queries, queryKey, (old) => ({ kept: [...old.kept, "18"] }));
  expect(seen.at(-1)).toEqual({ kept: ["18"] });
});

it("is not undone by the first answer of a page, which was asked for before", async () => {
  const queries = new QueryClient();
  const queryKey = ["page"];
  const answers: ((page: { kept: string[] }) => void)[] = [];
  const observer = new QueryObserver<{ kept: string[] }>(queries, {
    queryKey,
    queryFn: () => new Promise((done) => answers.push(done)),
  });
  observer.subscribe(() => undefined);
  putIn<{ kept: string[] }>(queries, queryKey, (old) => ({ kept: [...old.kept, "18"] }));
  await flushPromises();
  answers[0]?.({ kept: [] });
  await flushPromises();
  answers[1]?.({ kept: ["18"] });
  await flushPromises();
  expect(queries.getQueryData(queryKey)).toEqual({ kept: ["18"] });
});

it("lets go of its own page only, and says no word of an error", async () => {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const asked: string[] = [];
  const seen: { fetching: boolean; error: boolean }[] = [];
  const answers = new Map<string, (page: { kept: string[] }) => void>();
  for (const queryKey of [["page"], ["page", "beneath"], ["other"]]) {
    const name = queryKey.join(" ");
    const observer = new QueryObserver<{ kept: string[] }>(queries, {
      queryKey,
      queryFn: () => {
        asked.push(name);
        return new Promise((done) => answers.set(`${name} ${asked.length}`, done));
      },
    });
    observer.subscribe(({ isError }) => void seen.push({ fetching: true, error: isError }));
  }
  putIn<{ kept: string[] }>(queries, ["page"], (old) => old);
  await flushPromises();
  expect(asked).toEqual(["page", "page beneath", "other", "page"]);
  for (const done of answers.values()) done({ kept: ["18"] });
  await flushPromises();
  expect(seen.some((one) => one.error)).toBe(false);
  for (const queryKey of [["page"], ["page", "beneath"], ["other"]]) {
    expect(queries.getQueryData(queryKey)).toEqual({ kept: ["18"] });
  }
  // The same once it is there: what is fetched of it is let go of, and nothing else.
  void queries.refetchQueries();
  putIn<{ kept: string[] }>(queries, ["page"], (old) => ({ kept: [...old.kept, "19"] }));
  for (const done of answers.values()) done({ kept: [] });
  await flushPromises();
  expect(queries.getQueryData(["page"])).toEqual({ kept: ["18", "19"] });
  expect(queries.getQueryData(["page", "beneath"])).toEqual({ kept: [] });
  expect(queries.getQueryData(["other"])).toEqual({ kept: [] });
});
