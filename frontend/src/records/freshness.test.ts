import { QueryClient } from "@tanstack/vue-query";
import { describe, expect, it, vi } from "vitest";

vi.mock("../api/client", () => ({
  ApiError: class extends Error {},
  answer: (promise: Promise<unknown>) => promise,
  client: { POST: () => Promise.resolve({ pupil_id: "child" }) },
}));

const { useOutbox } = await import("./outbox");
const { keepFresh } = await import("./freshness");

function opened(...keys: string[][]) {
  const queries = new QueryClient();
  for (const key of keys) queries.setQueryData(key, { children: [] });
  keepFresh(queries);
  useOutbox().signedIn("robin");
  return (key: string[]) => queries.getQueryState(key)?.isInvalidated;
}
async function saved(kind: "pulse" | "attempt", at: string) {
  useOutbox().put(kind, at, { id: `${kind}-${at}`, pupil_id: "child", typed: "29" } as never);
  await vi.waitFor(() => expect(useOutbox().waiting.value).toBe(0));
}

describe("pages after a save", () => {
  it("are old once something of theirs was acknowledged behind their back", async () => {
    const isOld = opened(["pulse", "one", "tanaka"], ["pulse", "two", "tanaka"], ["lanes", "a"]);
    await saved("pulse", "one");
    expect(isOld(["pulse", "one", "tanaka"])).toBe(true);
    expect(isOld(["pulse", "two", "tanaka"])).toBe(false);
    expect(isOld(["lanes", "a"])).toBe(false);
    await saved("attempt", "a");
    expect(isOld(["lanes", "a"])).toBe(true);
  });

  it("are fresh where an open screen put the answer in", async () => {
    const queries = new QueryClient();
    queries.setQueryData(["lanes", "a"], 1);
    keepFresh(queries);
    const stop = useOutbox().onSaved(() => queries.setQueryData(["lanes", "a"], 2));
    await saved("attempt", "a");
    expect(queries.getQueryState(["lanes", "a"])?.isInvalidated).toBe(false);
    expect(queries.getQueryData(["lanes", "a"])).toBe(2);
    stop();
  });
});
