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
