import { QueryClient, VueQueryPlugin } from "@tanstack/vue-query";
import { flushPromises, mount } from "@vue/test-utils";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { defineComponent } from "vue";
import type { Entry } from "./blocks";
import type { Page, Plan } from "./usePlan";
import { usePlan } from "./usePlan";

/** A server that keeps a plan whole, and gives each new block an id. */
const server = { revision: 0, blocks: [] as Entry[], ids: 0, down: false };
const labels = (blocks: Entry[]) => blocks.map((one) => one.label);

vi.mock("vue-router", () => ({ onBeforeRouteLeave: () => undefined }));
vi.mock("../../api/client", async (real) => ({
  ...(await real<object>()),
  answer: (asked: Promise<unknown>) => asked,
  client: {
    GET: () => Promise.resolve(page()),
    PUT: (_path: string, { body }: { body: { based_on: number; blocks: Entry[] } }) => {
      if (server.down) return Promise.reject(new Error("gone"));
      expect(body.based_on).toBe(server.revision);
      server.revision += 1;
      server.blocks = body.blocks.map((one) => ({ ...one, id: one.id ?? `b${(server.ids += 1)}` }));
      return Promise.resolve(page());
    },
  },
}));
function page(): Page {
  const blocks = server.blocks.map((entry) => ({ entry, seconds: 60, why: "" }));
  return { revision: server.revision, blocks, minutes: 50, total_seconds: 60 } as never;
}
async function begin(queryClient = new QueryClient()): Promise<Plan> {
  server.blocks = ["Talk", "Run", "Rest"].map((label, at) => ({
    id: `a${at}`,
    kind: "briefing",
    label,
  }));
  let plan: Plan | undefined;
  mount(
    defineComponent(() => {
      plan = usePlan("lesson");
      return () => null;
    }),
    { global: { plugins: [[VueQueryPlugin, { queryClient }]] } },
  );
  await flushPromises();
  return plan!;
}
async function kept() {
  await vi.advanceTimersByTimeAsync(500);
  await flushPromises();
}
beforeEach(() => {
  vi.useFakeTimers();
  Object.assign(server, { revision: 0, ids: 0, down: false });
});
afterEach(() => vi.useRealTimers());

it("undoes change by change, back to where it was, and keeps that", async () => {
  const plan = await begin();
  expect(plan.canUndo.value).toBe(false);
  plan.move(0, 2);
  await kept();
  plan.remove(1);
  plan.replace(0, { ...plan.draft.value[0]!, label: "Long run" });
  await kept();
  expect(labels(server.blocks)).toEqual(["Long run", "Talk"]);
  plan.undo();
  expect(labels(plan.draft.value)).toEqual(["Run", "Talk"]);
  plan.undo();
  await kept();
  expect(labels(server.blocks)).toEqual(["Run", "Rest", "Talk"]);
  plan.undo();
  await kept();
  expect(server.blocks.map((one) => one.id)).toEqual(["a0", "a1", "a2"]);
  expect(plan.canUndo.value).toBe(false);
  plan.undo();
  expect(labels(plan.draft.value)).toEqual(["Talk", "Run", "Rest"]);
});

it("keeps what was changed without a network once it is back", async () => {
  const plan = await begin();
  server.down = true;
  plan.remove(0);
  await kept();
  expect(plan.problem.value).toBe("gone");
  expect(plan.unsaved.value).toBe(true);
  server.down = false;
  plan.remove(0);
  await kept();
  expect(labels(server.blocks)).toEqual(["Rest"]);
  expect([plan.problem.value, plan.unsaved.value]).toEqual(["", false]);
});

it("sends a test only once it is chosen", async () => {
  const plan = await begin();
  plan.change([...plan.draft.value, { kind: "test", label: "", test_id: null }]);
  await kept();
  expect(server.revision).toBe(0);
  plan.replace(3, { ...plan.draft.value[3]!, test_id: "t" });
  await kept();
  expect(server.blocks).toHaveLength(4);
  expect(plan.draft.value[3]?.id).toBe("b1");
});

it("saves what was changed while other pages were being told", async () => {
  const queries = new QueryClient();
  vi.spyOn(queries, "invalidateQueries").mockImplementation(
    () => new Promise((done) => setTimeout(done, 2_000)),
  );
  const plan = await begin(queries);
  plan.remove(0);
  await kept();
  plan.remove(0);
  await vi.advanceTimersByTimeAsync(20_000);
  expect(labels(server.blocks)).toEqual(["Rest"]);
  expect(plan.unsaved.value).toBe(false);
});
