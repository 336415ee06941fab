import { describe, expect, it } from "vitest";
import type { Client } from "openapi-fetch";
import type { paths } from "../api/schema";
import { NoNetwork, sendKept } from "./background";
import type { Job, Store } from "./jobs";

const job = (id: string, more: Partial<Job> = {}) =>
  ({
    id,
    kind: "attempt",
    at: "press-ups",
    lane: id,
    by: "robin",
    order: 1,
    body: { id, pupil_id: id, typed: "20" },
    ...more,
  }) as Job;

/** A device with these writes, and a server that answers each with a status. */
function begin(jobs: Job[], statusOf: (id: string) => number = () => 200) {
  const kept = new Map(jobs.map((one) => [one.id, one]));
  const sent: string[] = [];
  const store: Store = {
    all: () => Promise.resolve([...kept.values()]),
    put: () => Promise.resolve(),
    remove: (id) => Promise.resolve(void kept.delete(id)),
  };
  const answered = (status: number, data?: unknown) =>
    Promise.resolve({ data, response: new Response(null, { status }) });
  const write = (_path: string, { body }: { body: { id: string } }) => {
    sent.push(body.id);
    const status = statusOf(body.id);
    return status ? answered(status) : Promise.reject(new TypeError("no network"));
  };
  const client = {
    GET: (path: string) =>
      path === "/api/session" ? answered(200, { person: { id: "robin" } }) : answered(401),
    POST: write,
    PUT: write,
  } as unknown as Client<paths>;
  const send = () => sendKept(store, client, (_lane, work) => work());
  return { kept, sent, send };
}

describe("what is sent while no page is open", () => {
  it("is of who is signed in alone, the oldest of a lane first", async () => {
    const { kept, sent, send } = begin([
      job("second", { lane: "ada", order: 2 }),
      job("first", { lane: "ada", order: 1 }),
      job("other", { by: "alex" }),
    ]);
    await send();
    expect(sent).toEqual(["first", "second"]);
    expect([...kept.keys()]).toEqual(["other"]);
  });
  it("leaves what the server refuses, and what follows it, for a page", async () => {
    const { kept, send } = begin(
      [job("no", { lane: "ada" }), job("after", { lane: "ada", order: 2 }), job("yes")],
      (id) => (id === "no" ? 409 : 200),
    );
    await send();
    expect([...kept.keys()]).toEqual(["no", "after"]);
  });
  it("sends no time before its clock, and nothing that waits for a decision", async () => {
    const refused = { refusal: { status: 422, message: "" } } as Partial<Job>;
    const { sent, send } = begin(
      [
        job("clock", { lane: "run 1" }),
        job("time", { after: "run 1", order: 2 }),
        job("r", refused),
      ],
      (id) => (id === "clock" ? 409 : 200),
    );
    await send();
    expect(sent).toEqual(["clock"]);
  });
  it.each([
    [422, ["lesson"]],
    [200, ["lesson", "score"]],
  ])("sends no score of a lesson begun here before that is taken (%s)", async (status, order) => {
    const lesson = { kind: "lesson", body: { id: "lesson", activity_ids: ["press-ups"] } };
    const { sent, send } = begin(
      [job("score", { order: 2 }), job("lesson", { ...lesson, at: "lesson" } as Partial<Job>)],
      (id) => (id === "lesson" ? status : 200),
    );
    await send();
    expect(sent).toEqual(order);
  });
  it("keeps everything where the network goes again, and says so", async () => {
    const { kept, send } = begin([job("a"), job("b")], (id) => (id === "b" ? 0 : 200));
    await expect(send()).rejects.toThrow(NoNetwork);
    expect([...kept.keys()]).toEqual(["b"]);
  });
});
