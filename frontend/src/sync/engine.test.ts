import Dexie from "dexie";
import { IDBKeyRange, indexedDB } from "fake-indexeddb";
import { beforeEach, describe, expect, it } from "vitest";
import { ApiError } from "../api/client";
import { Device, takeOver } from "./device";
import { type Job, type NewAttempt, type Store } from "./jobs";
import { laneOf } from "./lane";
import { createEngine, type Told } from "./engine";
import { setAside } from "./aside";
import { verdict, waitAfter } from "./policy";

// Said outright: which of two modules is read first is left to chance.
Dexie.dependencies = { indexedDB, IDBKeyRange };
const turns = async (number = 8) => {
  for (let turn = 0; turn < number; turn += 1) await new Promise((done) => setImmediate(done));
};
function job(id: string, child = "ada", more: Partial<NewAttempt> = {}, after?: string) {
  return {
    kind: "attempt" as const,
    id,
    at: "activity",
    lane: laneOf("activity", child, 1),
    after,
    body: { id, pupil_id: child, typed: "20", succeeds: null, ...more } as NewAttempt,
  };
}

/** A page over a store that outlives it, and a server that answers as it is told. */
class Page {
  asked: string[] = [];
  bodies: NewAttempt[] = [];
  told: Told[] = [];
  answers = new Map<string, (() => Promise<unknown>)[]>();
  timers: { work: () => void; ms: number }[] = [];
  engine;

  constructor(
    readonly kept = new Map<string, Job>(),
    full = false,
    person: string | null = "robin",
  ) {
    const store: Store = {
      all: () => Promise.resolve([...kept.values()]),
      put: (one) =>
        full
          ? Promise.reject(new Error("QuotaExceededError"))
          : Promise.resolve(void kept.set(one.id, one)),
      remove: (id) => Promise.resolve(void kept.delete(id)),
    };
    this.engine = createEngine({
      store,
      send: (one) => {
        this.asked.push(one.id);
        this.bodies.push(one.body as NewAttempt);
        const next = this.answers.get(one.id)?.shift();
        return next ? next() : Promise.resolve({ ok: one.id });
      },
      tell: (told) => this.told.push(told),
      setTimeout: (work, ms) => this.timers.push({ work, ms }),
      clearTimeout: () => undefined,
    });
    this.engine.signedIn(person);
  }
  fail(id: string, ...statuses: number[]) {
    this.answers.set(
      id,
      statuses.map((status) => () => Promise.reject(new ApiError(status, "no", "Type a number."))),
    );
  }
  async later() {
    for (const { work } of this.timers.splice(0)) work();
    await turns();
  }
}

describe("what becomes of a write that was not taken", () => {
  it.each([
    [0, "unreachable"],
    [401, "signed_out"],
    [400, "refused"],
    [403, "refused"],
    [404, "refused"],
    [409, "refused"],
    [413, "refused"],
    [422, "refused"],
    [408, "later"],
    [429, "later"],
    [500, "later"],
    [503, "unreachable"],
  ])("status %i: %s", (status, kind) => {
    expect(verdict({ status, retryAfterMs: 0 }, 1).kind).toBe(kind);
  });
  it("waits as long as the server asks, and not all devices equally long", () => {
    const asked = { status: 503, retryAfterMs: 8_000 };
    const waits = [0, 0.5, 1].map((chance) => verdict(asked, 1, chance));
    expect(waits).toEqual(
      [8_000, 12_000, 16_000].map((waitMs) => ({ kind: "unreachable", waitMs })),
    );
  });
  it("tries again soon, longer after each failure, and never later than after six seconds", () => {
    expect([1, 2, 3, 4, 5, 9].map(waitAfter)).toEqual([500, 1000, 2000, 4000, 6000, 6000]);
  });
});

describe("the engine", () => {
  it("lets everything wait while the server is overrun, and loses nothing", async () => {
    const page = new Page();
    page.fail("one", 503);
    page.fail("two", 503);
    void page.engine.put(job("one", "ada"));
    void page.engine.put(job("two", "bram"));
    await turns();
    const before = page.asked.length;
    void page.engine.put(job("three", "cleo"));
    await turns();
    expect(page.asked.length).toBe(before);
    await page.later();
    expect(page.engine.waiting.value).toBe(0);
  });
  it("keeps a write before it is sent and lets it go when it is acknowledged", async () => {
    const page = new Page();
    const heard: string[] = [];
    page.engine.onSaved((one) => heard.push(one.id));
    void page.engine.put(job("one"));
    expect(page.asked).toEqual([]);
    expect(page.engine.waiting.value).toBe(1);
    expect(page.kept.has("one")).toBe(true);
    await turns();
    expect(heard).toEqual(["one"]);
    expect(page.kept.size).toBe(0);
  });

  it("sends what belongs to one place in the order it was made", async () => {
    const page = new Page();
    for (const id of ["one", "two", "three"]) void page.engine.put(job(id));
    await turns(20);
    expect(page.asked).toEqual(["one", "two", "three"]);
  });

  it("lets one that fails or is refused hold up nobody else", async () => {
    const page = new Page();
    page.fail("broken", 500, 500, 500);
    page.fail("bad", 422);
    void page.engine.put(job("broken", "ada"));
    void page.engine.put(job("bad", "ben"));
    for (const child of ["cai", "dot", "eli", "fay", "gus", "hal"]) {
      void page.engine.put(job(child, child));
    }
    await turns(30);
    expect(page.asked.filter((id) => id.length === 3).sort()).toEqual(
      ["bad", "cai", "dot", "eli", "fay", "gus", "hal"].sort(),
    );
    expect(page.engine.mine.value.map((one) => [one.id, page.engine.stateOf(one)])).toEqual([
      ["broken", "waiting"],
      ["bad", "refused"],
    ]);
    await page.later();
    await page.later();
    await page.later();
    expect(page.engine.mine.value.map((one) => one.id)).toEqual(["bad"]);
  });

  it("holds everything while the network is dead, once for all, and goes on when it is back", async () => {
    const page = new Page();
    for (const child of ["ada", "ben", "cai"]) page.fail(child, 0);
    for (const child of ["ada", "ben", "cai", "dot"]) void page.engine.put(job(child, child));
    await turns(20);
    expect(page.engine.waiting.value).toBeGreaterThanOrEqual(3);
    // Three that were on their way are one failure: the first wait is the shortest.
    expect(page.timers.map((one) => one.ms)).toEqual([500]);
    page.engine.wake();
    await turns(20);
    expect(page.engine.waiting.value).toBe(0);
  });

  it("sends a time after the clock it was taken by, and without it where that was refused", async () => {
    const page = new Page();
    page.fail("run one", 500, 422);
    const run = { kind: "run" as const, id: "run one", at: "activity", lane: "run one" };
    void page.engine.put({ ...run, body: { id: "one" } } as never);
    void page.engine.put(job("time", "ada", {}, "run one"));
    await turns(20);
    expect(page.asked).toEqual(["run one"]);
    await page.later();
    expect(page.asked).toEqual(["run one", "run one", "time"]);
    expect(page.engine.waiting.value, "a clock that was refused is not kept").toBe(0);
  });

  it("sends the newest state of a clock only, and again what changed on the way", async () => {
    const page = new Page();
    const run = (revision: number) =>
      ({
        kind: "run",
        id: "run one",
        at: "activity",
        lane: "run one",
        body: { id: "one", revision },
      }) as never;
    let acknowledge: (value: unknown) => void = () => undefined;
    page.answers.set("run one", [() => new Promise((done) => (acknowledge = done))]);
    void page.engine.put(run(1));
    await turns();
    void page.engine.put(run(2));
    void page.engine.put(run(3));
    acknowledge({});
    await turns(20);
    expect(page.bodies.map((one) => (one as unknown as { revision: number }).revision)).toEqual([
      1, 3,
    ]);
    expect(page.engine.waiting.value).toBe(0);
  });

  it.each([403, 404, 409, 422])(
    "keeps one refused with %i until somebody decides",
    async (status) => {
      const page = new Page();
      page.fail("one", status);
      void page.engine.put(job("one"));
      await turns();
      expect(page.engine.mine.value[0]?.refusal).toMatchObject({
        status,
        accepted: "Type a number.",
      });
      expect(page.asked).toEqual(["one"]);
      expect(page.kept.get("one")?.refusal).toBeDefined();
      page.engine.dismiss("one");
      await turns();
      expect(page.kept.size).toBe(0);
    },
  );

  it("lets what followed a refused write follow what that one followed", async () => {
    const page = new Page();
    page.fail("two", 422);
    void page.engine.put(job("two", "ada", { succeeds: "one" }));
    void page.engine.put(job("three", "ada", { succeeds: "two" }));
    void page.engine.put(job("four", "ada", { succeeds: "three", restores: "two" }));
    await turns(30);
    expect(page.bodies.map(({ id, succeeds, restores }) => [id, succeeds, restores])).toEqual([
      ["two", "one", undefined],
      ["three", "one", undefined],
      ["four", "three", "one"],
    ]);
    expect(page.engine.waiting.value, "it was typed over: nobody has to decide").toBe(0);
  });

  it("says so when the sign-in has run out, and keeps what is made", async () => {
    const page = new Page();
    page.fail("one", 401);
    void page.engine.put(job("one"));
    void page.engine.put(job("two", "ben"));
    await turns();
    expect(page.engine.signedOut.value).toBe(true);
    page.engine.signedIn("robin");
    await turns(20);
    expect(page.engine.waiting.value).toBe(0);
  });

  it("loses nothing over a reload and sends only its own person's writes", async () => {
    const before = new Page();
    before.fail("one", 0);
    void before.engine.put(job("one"));
    await turns();
    const other = new Page(before.kept, false, "somebody else");
    await other.engine.load();
    await turns();
    expect(other.asked).toEqual([]);
    expect(other.engine.waiting.value).toBe(0);
    const after = new Page(before.kept);
    await after.engine.load();
    await turns();
    expect(after.asked).toEqual(["one"]);
    expect(before.kept.size).toBe(0);
  });

  it("says what a full device does not keep, and sends it all the same", async () => {
    const page = new Page(new Map(), true);
    page.fail("one", 500);
    void page.engine.put(job("one"));
    await turns();
    expect(page.engine.unkept.value).toBe(1);
    await page.later();
    expect(page.asked).toEqual(["one", "one"]);
    expect(page.engine.unkept.value).toBe(0);
  });

  it("leaves to another tab what that has kept, and hears what became of it", async () => {
    const kept = new Map<string, Job>();
    const one = new Page(kept);
    const other = new Page(kept);
    one.fail("a", 500);
    void one.engine.put(job("a"));
    await turns();
    for (const told of one.told) other.engine.told(told);
    await turns();
    expect(other.asked).toEqual([]);
    expect(other.engine.waiting.value).toBe(1);
    const heard: unknown[] = [];
    other.engine.onSaved((_job, answer) => heard.push(answer));
    one.told.length = 0;
    await one.later();
    for (const told of one.told) other.engine.told(told);
    expect(heard).toEqual([{ ok: "a" }]);
    await other.later();
    expect(other.asked, "it was sent by its own tab").toEqual([]);
  });

  it("takes over what a closed tab has left; sent twice it is stored once", async () => {
    const kept = new Map<string, Job>();
    const closed = new Page(kept);
    closed.fail("a", 500);
    closed.fail("b", 500);
    void closed.engine.put(job("a", "ada"));
    void closed.engine.put(job("b", "ben"));
    await turns();
    const other = new Page(kept);
    for (const told of closed.told) other.engine.told(told);
    kept.delete("b"); // sent meanwhile, without a word
    await other.later();
    expect(other.asked).toEqual(["a", "b"]);
    expect(other.engine.waiting.value).toBe(0);
  });

  it("does not drop what the device has lost: it is on the screen, so it is sent", async () => {
    const kept = new Map<string, Job>();
    const page = new Page(kept);
    page.fail("a", 500);
    void page.engine.put(job("a"));
    await turns();
    kept.clear(); // the site's data was cleared, or the device made room
    await page.later();
    expect(page.asked).toEqual(["a", "a"]);
    expect(page.engine.waiting.value).toBe(0);
  });
});

describe("the device", () => {
  beforeEach(() => localStorage.clear());

  it("keeps jobs over a reload, refusals included", async () => {
    const device = new Device("one");
    await device.put({ ...job("a"), by: "robin", order: 1 });
    await device.put({ ...job("b"), by: "robin", order: 2, refusal: { status: 422 } as never });
    const again = new Device("one");
    expect((await again.all()).map((one) => [one.id, one.refusal?.status])).toEqual([
      ["a", undefined],
      ["b", 422],
    ]);
    await again.remove("a");
    expect((await device.all()).map((one) => one.id)).toEqual(["b"]);
  });

  it("has after a reload what it had not written yet when the page was left", async () => {
    const page = new Page();
    void page.engine.put(job("a", "ada", {}, "run clock"));
    expect(page.engine.notYetKept().map((one) => one.id)).toEqual(["a"]);
    setAside(page.engine.notYetKept());
    await turns();
    expect(page.engine.notYetKept()).toEqual([]);
    const device = new Device("three");
    await takeOver(device);
    expect(await device.all()).toMatchObject([
      { ...job("a", "ada", {}, "run clock"), by: "robin" },
    ]);
    expect(Object.keys(localStorage)).toEqual([]);
  });

  it("takes over what an earlier version of the page had kept, and leaves what was cut off", async () => {
    const body = { id: "old", pupil_id: "ada", try_number: 2, typed: "18" };
    const entry = { kind: "attempt", at: "activity", by: "robin", order: 7, body };
    localStorage.setItem("lauf.outbox.old", JSON.stringify(entry));
    localStorage.setItem("lauf.outbox.torn", '{"body":{"id":"to');
    const device = new Device("two");
    await takeOver(device);
    expect(await device.all()).toEqual([
      { ...entry, id: "old", lane: laneOf("activity", "ada", 2) },
    ]);
    expect(Object.keys(localStorage)).toEqual([]);
  });
});

it("sends what one helper could not, once the next comes in on the device, and nobody else's", async () => {
  const page = new Page(new Map(), false, "helper one");
  page.fail("a", 401);
  await page.engine.put(job("a"));
  await turns();
  page.engine.signedIn("helper two");
  await turns();
  expect(page.asked).toEqual(["a"]);
  await page.engine.adopt("somebody else", "helper two");
  await turns();
  expect(page.asked).toEqual(["a"]);
  await page.engine.adopt("helper one", "helper two");
  await turns();
  expect(page.asked).toEqual(["a", "a"]);
  expect(page.kept.size).toBe(0);
});
