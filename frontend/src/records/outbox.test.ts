import { flushPromises } from "@vue/test-utils";
import { beforeEach, describe, expect, it, vi } from "vitest";

/** The server as the outbox sees it: answers are handed out one by one, in the order asked for. */
const asked: { path: string; body: Body }[] = [];
let answers: (() => Promise<unknown>)[] = [];

vi.mock("../api/client", () => {
  class ApiError extends Error {
    constructor(
      readonly status: number,
      message: string,
      readonly accepted = "",
      readonly choices: unknown[] = [],
      readonly current: unknown = null,
    ) {
      super(message);
    }
  }
  return {
    ApiError,
    answer: (promise: Promise<unknown>) => promise,
    client: {
      POST: (path: string, { body }: { body: Body }) => {
        asked.push({ path, body });
        const next = answers.shift();
        return next ? next() : Promise.resolve({ pupil_id: body.pupil_id });
      },
    },
  };
});

type Outbox = typeof import("./outbox");
type Body = import("./outbox").Body;

function entry(id: string, more: Partial<Body> = {}): Body {
  return {
    id,
    pupil_id: "child",
    typed: "20",
    variant: "",
    try_number: 1,
    why: "",
    withdrawn: false,
    recorded_at: "2026-01-01T10:00:00Z",
    succeeds: null,
    ...more,
  } as Body;
}
async function refusal(status: number, message = "no"): Promise<never> {
  const { ApiError } = await import("../api/client");
  throw new ApiError(status, message, "Type a number.", []);
}
/** A page load: the module anew, with what the browser has kept. */
async function load(person: string | null = "robin") {
  vi.resetModules();
  const { useOutbox } = (await import("./outbox")) as Outbox;
  const outbox = useOutbox();
  outbox.signedIn(person);
  return outbox;
}
const kept = () => Object.keys(localStorage).filter((key) => key.startsWith("lauf.outbox."));
/** Everything that was answered has been dealt with. */
async function settled() {
  await vi.waitFor(() => expect(answers).toHaveLength(0));
  await flushPromises();
}

beforeEach(() => {
  localStorage.clear();
  asked.length = 0;
  answers = [];
});

describe("the outbox", () => {
  it("keeps an entry before it is sent and lets it go when it is acknowledged", async () => {
    const outbox = await load();
    let acknowledge: (value: unknown) => void = () => undefined;
    answers = [() => new Promise((done) => (acknowledge = done))];
    const heard: string[] = [];
    outbox.onSaved((pending) => heard.push(pending.body.id));
    outbox.put("attempt", "activity", entry("one-0"));
    expect(kept()).toEqual(["lauf.outbox.one-0"]);
    expect(outbox.waiting.value).toBe(1);
    acknowledge({ pupil_id: "child" });
    await vi.waitFor(() => expect(kept()).toEqual([]));
    expect(heard).toEqual(["one-0"]);
  });

  it("sends in the order typed, each once the one before is acknowledged", async () => {
    const outbox = await load();
    for (const id of ["one-1", "two-1", "three-1"]) outbox.put("attempt", "activity", entry(id));
    await vi.waitFor(() => expect(kept()).toEqual([]));
    expect(asked.map((one) => one.body.id)).toEqual(["one-1", "two-1", "three-1"]);
  });

  it("sends pulses to the lesson and scores to the activity", async () => {
    const outbox = await load();
    outbox.put("pulse", "lesson", entry("beat", { seconds: 10, moment: "rest", position: 0 }));
    outbox.put("attempt", "activity", entry("score"));
    await vi.waitFor(() => expect(kept()).toEqual([]));
    expect(asked.map((one) => one.path)).toEqual([
      "/api/lessons/{lesson_id}/pulses",
      "/api/activities/{activity_id}/attempts",
    ]);
  });

  it("holds everything while the network is dead and sends it when it is back", async () => {
    const outbox = await load();
    answers = [() => refusal(0, "The server cannot be reached.")];
    outbox.put("attempt", "activity", entry("one-3"));
    await settled();
    outbox.put("attempt", "activity", entry("two-3"));
    expect(kept()).toHaveLength(2);
    window.dispatchEvent(new Event("online"));
    await vi.waitFor(() => expect(kept()).toEqual([]));
    // The first was asked for again, under the same id, so that it is stored once.
    expect(asked.map((one) => one.body.id).filter((id) => id === "one-3").length).toBeGreaterThan(
      1,
    );
  });

  it("loses nothing over a reload and sends only its own person's entries", async () => {
    const before = await load();
    answers = [() => refusal(0)];
    before.put("attempt", "activity", entry("one-4"));
    await settled();
    asked.length = 0;
    const other = await load("somebody else");
    expect(other.waiting.value).toBe(0);
    expect(kept()).toEqual(["lauf.outbox.one-4"]);
    await load("robin");
    await vi.waitFor(() => expect(kept()).toEqual([]));
    expect(asked.map((one) => one.body.id)).toEqual(["one-4"]);
  });

  it("keeps a refused entry with its reason until somebody decides", async () => {
    const outbox = await load();
    answers = [() => refusal(422, "“4o” is not a score.")];
    outbox.put("attempt", "activity", entry("one-5", { typed: "4o" }));
    await vi.waitFor(() => expect(outbox.mine.value[0]?.refusal).toBeDefined());
    expect(outbox.mine.value[0]?.refusal).toMatchObject({
      status: 422,
      accepted: "Type a number.",
    });
    expect(kept()).toHaveLength(1);
    outbox.dismiss("one-5");
    expect(kept()).toEqual([]);
  });

  it("lets what followed a refused entry follow what that one followed", async () => {
    const outbox = await load();
    answers = [() => refusal(422)];
    outbox.put("attempt", "activity", entry("one-6", { succeeds: "kept" }));
    outbox.put("attempt", "activity", entry("two-6", { succeeds: "one-6" }));
    await vi.waitFor(() => expect(asked).toHaveLength(2));
    expect(asked[1]?.body).toMatchObject({ id: "two-6", succeeds: "kept" });
  });

  it("says so when the sign-in has run out, and keeps what is typed", async () => {
    const outbox = await load();
    answers = [() => refusal(401, "Sign in first.")];
    outbox.put("attempt", "activity", entry("one-7"));
    await vi.waitFor(() => expect(outbox.signedOut.value).toBe(true));
    expect(kept()).toHaveLength(1);
    outbox.signedIn("robin");
    await vi.waitFor(() => expect(kept()).toEqual([]));
    expect(outbox.signedOut.value).toBe(false);
  });

  it("drops an entry that was cut off while it was written", async () => {
    localStorage.setItem("lauf.outbox.torn", '{"body":{"id":"to');
    const outbox = await load();
    expect(outbox.waiting.value).toBe(0);
    expect(kept()).toEqual([]);
  });
});
