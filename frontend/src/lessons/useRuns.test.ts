import { flushPromises } from "@vue/test-utils";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { nextTick, ref } from "vue";
import * as clock from "./clock";

/** The server as the runs see it: what it is told, and how it answers. */
const told: { id: string; body: Partial<clock.Run> }[] = [];
let answers: (() => Promise<unknown>)[] = [];

vi.mock("../api/client", () => {
  class ApiError extends Error {
    constructor(
      readonly status: number,
      message: string,
    ) {
      super(message);
    }
  }
  return {
    ApiError,
    answer: (promise: Promise<unknown>) => promise,
    client: {
      PUT: (
        _: string,
        { params, body }: { params: { path: { run_id: string } }; body: object },
      ) => {
        told.push({ id: params.path.run_id, body });
        const next = answers.shift();
        return next ? next() : Promise.resolve(body);
      },
    },
  };
});

const { ApiError } = await import("../api/client");
const { useRuns } = await import("./useRuns");
const { keptRuns } = await import("./keptRuns");

function refuse(status: number): () => Promise<never> {
  return () => Promise.reject(new ApiError(status, "no", "", [], null));
}
const begun = clock.startRun("one", null, 1_000, { way: "taps" });
const stood = clock.pause(begun, 21_000);

beforeEach(() => {
  localStorage.clear();
  told.length = 0;
  answers = [];
  vi.useFakeTimers();
});
afterEach(() => vi.useRealTimers());

describe("the clocks of an activity", () => {
  it("are kept on the device at once and told to the server, each state once", async () => {
    const { runs, keep } = useRuns("mile", ref([]));
    keep(begun);
    expect(keptRuns("mile")).toEqual([begun]);
    await flushPromises();
    keep(stood);
    await flushPromises();
    expect(runs.value).toEqual([stood]);
    expect(told.map((one) => [one.id, one.body.revision])).toEqual([
      ["one", 1],
      ["one", 2],
    ]);
    expect(told[1]?.body).toMatchObject({ way: "taps", paused_ms: 20_000 });
  });

  it("are told again until the network is back, in their newest state", async () => {
    answers = [refuse(0), refuse(0)];
    const { keep, end } = useRuns("mile", ref([]));
    keep(begun);
    await flushPromises();
    keep(stood);
    await flushPromises();
    await vi.advanceTimersByTimeAsync(3_000);
    expect(told.map((one) => one.body.revision)).toEqual([1, 2, 2]);
    await vi.advanceTimersByTimeAsync(60_000);
    expect(told).toHaveLength(3);
    end();
  });

  it("come back after a reload that the server has not heard of", async () => {
    answers = [refuse(0)];
    const before = useRuns("mile", ref([]));
    before.keep(begun);
    await flushPromises();
    before.end();
    told.length = 0;
    const after = useRuns("mile", ref([]));
    await flushPromises();
    expect(after.runs.value).toEqual([begun]);
    expect(told.map((one) => one.id)).toEqual(["one"]);
  });

  it("of another device are taken up, the newer state of each believed", async () => {
    const server = ref<clock.Run[]>([begun]);
    const { runs } = useRuns("mile", server);
    server.value = [stood, clock.startRun("two", null, 30_000, { way: "taps" })];
    await nextTick();
    expect(runs.value.map((one) => [one.id, one.revision])).toEqual([
      ["one", 2],
      ["two", 1],
    ]);
    server.value = [begun]; // an answer that was under way for long
    await nextTick();
    expect(runs.value[0]).toEqual(stood);
    await flushPromises();
    expect(told, "what came from the server is not sent back").toEqual([]);
  });

  it("that the server refuses give way to what it knows, and it is said", async () => {
    answers = [refuse(422)];
    const { runs, keep, problem } = useRuns("mile", ref([stood]));
    keep(clock.startRun("two", 1, 50_000));
    await flushPromises();
    expect(problem.value).toBe("no");
    expect(runs.value).toEqual([stood]);
    expect(keptRuns("mile")).toEqual([]);
  });
});

describe("which clock a time belongs to", () => {
  const again = clock.startRun("two", null, 90_000, { way: "taps" });
  const second = clock.startRun("three", null, 95_000, { way: "taps", try_number: 2 });

  it("is the newest of that way and try that was not started again", () => {
    const restarted = clock.end(begun, "restarted", 80_000, 0);
    expect(clock.ownRun([restarted], "taps")).toBeNull();
    expect(clock.ownRun([restarted, again, second], "taps")).toEqual(again);
    expect(clock.ownRun([restarted, again, second], "taps", 2)).toEqual(second);
    expect(clock.ownRun([again], "tally")).toBeNull();
  });

  it("typed by hand is the one that still runs, never a wave's", () => {
    const wave = clock.startRun("wave", 1, 99_000);
    expect(clock.openRun([begun, again, wave])).toEqual(again);
    expect(clock.openRun([clock.end(again, "complete", 120_000, 0), wave])).toBeNull();
  });
});
