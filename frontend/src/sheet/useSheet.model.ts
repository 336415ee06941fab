/**
 * The sheet as a model, for its tests: any series of writes, takings back, refusals, dead networks, lost answers,
 * reloads and a second device leaves on the server exactly what the screen says.
 */
import { VueQueryPlugin } from "@tanstack/vue-query";
import fc from "fast-check";
import { createApp, effectScope, reactive, type EffectScope } from "vue";
import { expect } from "vitest";
import { ApiError } from "../api/client";
import type { Job, NewAttempt, Store } from "../sync/jobs";
import { createEngine } from "../sync/engine";
import { keyOf, type Place, type Source } from "./types";
import { useSheet } from "./useSheet";

const ACTIVITY = "activity";
export const PLACES: Place[] = ["ada", "ben", "cai"].map((pupilId) => ({
  pupilId,
  at: ACTIVITY,
  slot: 1,
}));
/** What the rules of this server refuse. */
const BAD = new Set(["900", "4o"]);

interface Stored {
  id: string;
  typed: string | null;
}
/** A server as far as entries go: append-only, each id once, each entry succeeds the one that counts. */
export class Server {
  chains = new Map<string, Stored[]>();
  net: "up" | "down" | "loses answers" = "up";

  chain(key: string): Stored[] {
    if (!this.chains.has(key)) this.chains.set(key, []);
    return this.chains.get(key)!;
  }
  state(place: Place) {
    const last = this.chain(keyOf(place)).at(-1);
    return { place, head: last?.id ?? null, typed: last?.typed ?? null };
  }
  send(job: Job): Promise<unknown> {
    if (this.net === "down") return Promise.reject(new ApiError(0, "gone"));
    const answer = this.receive(job.body as NewAttempt, job.at);
    if (this.net === "up") return answer;
    return answer.catch(() => undefined).then(() => Promise.reject(new ApiError(0, "no answer")));
  }
  private receive(body: NewAttempt, at: string): Promise<unknown> {
    const place = { pupilId: body.pupil_id, at, slot: body.try_number };
    const chain = this.chain(keyOf(place));
    if (chain.some((one) => one.id === body.id)) return Promise.resolve(this.state(place));
    let typed: string | null = body.typed;
    if (body.withdrawn) typed = null;
    else if (body.restores) {
      const found = chain.find((one) => one.id === body.restores);
      if (!found) return Promise.reject(new ApiError(404, "nothing to put back"));
      typed = found.typed;
    } else if (BAD.has(typed)) return Promise.reject(new ApiError(422, "not a score"));
    const head = chain.at(-1);
    let { succeeds = null } = body;
    if (head && head.typed === null && succeeds === null) succeeds = head.id;
    if ((head?.id ?? null) !== succeeds) {
      const current = {
        id: head?.id ?? "",
        typed: head?.typed ?? "",
        by: "Kit",
        variant: "",
        at: "",
      };
      return Promise.reject(new ApiError(409, "another device", "", [], current));
    }
    chain.push({ id: body.id, typed });
    return Promise.resolve(this.state(place));
  }
}

/** A page on a device: the engine and the sheet, over a store that outlives it. */
export class Page {
  known = reactive(new Map<string, { head: string | null; typed: string | null }>());
  timers: (() => void)[] = [];
  scope: EffectScope = effectScope(true);
  engine;
  sheet;

  constructor(
    readonly server: Server,
    kept: Map<string, Job>,
  ) {
    const store: Store = {
      all: () => Promise.resolve([...kept.values()]),
      put: (job) => Promise.resolve(void kept.set(job.id, structuredClone(job))),
      remove: (id) => Promise.resolve(void kept.delete(id)),
    };
    this.engine = createEngine({
      store,
      send: (job) => server.send(job),
      setTimeout: (work) => this.timers.push(work),
      clearTimeout: (timer) => (this.timers[timer - 1] = () => undefined),
    });
    this.engine.signedIn("robin");
    this.read();
    const source: Source = {
      kept: (place) => {
        const found = this.known.get(keyOf(place));
        const { head = null, typed = null } = found ?? {};
        return {
          head,
          stands: typed !== null,
          typed: typed ?? "",
          shown: typed ?? "",
          variant: "",
        };
      },
      job: (place, entry) => ({
        kind: "attempt",
        body: { typed: entry.typed, try_number: place.slot } as NewAttempt,
      }),
      placeOf: (job) =>
        job.kind === "attempt" ? { pupilId: job.body.pupil_id, at: job.at, slot: 1 } : null,
      take: (_job, answer) => {
        const { place, head, typed } = answer as ReturnType<Server["state"]>;
        this.known.set(keyOf(place), { head, typed });
      },
      name: (pupilId) => pupilId,
      announcementOf: () => "",
      questionsOf: (_job, answer) => {
        const { place, typed } = answer as ReturnType<Server["state"]>;
        return typed === "7" ? ({ place, flags: [] } as never) : null;
      },
    };
    const app = createApp({});
    app.use(VueQueryPlugin);
    this.sheet = app.runWithContext(() => this.scope.run(() => useSheet(source, this.engine))!);
  }
  /** The page asks for what the server has. */
  read() {
    for (const place of PLACES) this.known.set(keyOf(place), this.server.state(place));
  }
  async flush() {
    for (let turn = 0; turn < 6; turn += 1) await new Promise((done) => setImmediate(done));
  }
  /** The network is back for good, and everything that can be sent is. */
  async settle() {
    this.server.net = "up";
    for (let round = 0; round < 8; round += 1) {
      this.engine.wake();
      await this.flush();
    }
    this.read();
  }
}

export type Act =
  | { act: "write"; at: number[]; typed: string }
  | { act: "clear"; at: number }
  | { act: "undo" }
  | { act: "let go"; at: number }
  | { act: "resend"; at: number; typed: string }
  | { act: "over"; at: number }
  | { act: "net"; net: Server["net"] }
  | { act: "turn" }
  | { act: "moment"; long: number }
  | { act: "reload" }
  | { act: "other device"; at: number; typed: string };

const at = fc.nat(PLACES.length - 1);
const typed = fc.constantFrom("12", "18", "7", "900", "4o");
export const alone = fc.oneof(
  {
    weight: 6,
    arbitrary: fc.record({
      act: fc.constant("write" as const),
      at: fc.uniqueArray(at, { minLength: 1, maxLength: 2 }),
      typed,
    }),
  },
  { weight: 1, arbitrary: fc.record({ act: fc.constant("clear" as const), at }) },
  { weight: 4, arbitrary: fc.record({ act: fc.constant("undo" as const) }) },
  { weight: 1, arbitrary: fc.record({ act: fc.constant("let go" as const), at }) },
  {
    weight: 1,
    arbitrary: fc.record({
      act: fc.constant("resend" as const),
      at,
      typed: fc.constantFrom("15", "900"),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      act: fc.constant("net" as const),
      net: fc.constantFrom("up" as const, "down" as const, "loses answers" as const),
    }),
  },
  { weight: 4, arbitrary: fc.record({ act: fc.constant("turn" as const) }) },
  {
    weight: 5,
    arbitrary: fc.record({
      act: fc.constant("moment" as const),
      long: fc.integer({ min: 1, max: 12 }),
    }),
  },
  { weight: 1, arbitrary: fc.record({ act: fc.constant("reload" as const) }) },
);
export const together = fc.oneof(
  { weight: 8, arbitrary: alone },
  {
    weight: 2,
    arbitrary: fc.record({
      act: fc.constant("other device" as const),
      at,
      typed: fc.constantFrom("31", "32"),
    }),
  },
  { weight: 1, arbitrary: fc.record({ act: fc.constant("over" as const), at }) },
);

export class World {
  server = new Server();
  kept = new Map<string, Job>();
  page = new Page(this.server, this.kept);
  made = 0;

  async do(one: Act) {
    const { sheet } = this.page;
    switch (one.act) {
      case "write":
        sheet.write(
          one.at.map((place) => ({ place: PLACES[place]!, entry: { typed: one.typed } })),
        );
        break;
      case "clear":
        sheet.write([{ place: PLACES[one.at]!, entry: null }]);
        break;
      case "undo":
        sheet.takeBack();
        break;
      case "let go":
        sheet.letGo(PLACES[one.at]!);
        break;
      case "resend":
        sheet.resend(PLACES[one.at]!, { typed: one.typed });
        break;
      case "over":
        if (sheet.cell(PLACES[one.at]!).refusal?.current)
          sheet.resend(PLACES[one.at]!, { over: true });
        break;
      case "net":
        this.server.net = one.net;
        break;
      case "turn":
        for (const timer of this.page.timers.splice(0)) timer();
        await this.page.flush();
        break;
      case "moment":
        for (let n = 0; n < one.long; n += 1) await Promise.resolve();
        break;
      case "reload":
        await this.page.flush();
        this.page.scope.stop();
        this.page = new Page(this.server, this.kept);
        await this.page.engine.load();
        await this.page.flush();
        break;
      case "other device": {
        const chain = this.server.chain(keyOf(PLACES[one.at]!));
        chain.push({ id: `theirs-${(this.made += 1)}`, typed: one.typed });
      }
    }
  }
  /** What the screen says of every place, beside what the server has. */
  compare() {
    return PLACES.map((place) => {
      const cell = this.page.sheet.cell(place);
      const there = this.server.state(place).typed;
      if (cell.state === "refused") return { place: place.pupilId, refused: true };
      expect(cell.state, place.pupilId).toBe(there === null ? "empty" : "saved");
      expect(cell.stands ? cell.typed : null, place.pupilId).toBe(there);
      return { place: place.pupilId, refused: false };
    });
  }
}

/** What a person means by their presses, where nobody else writes: the last good one stands. */
export class Meaning {
  stands = new Map<number, string | null>();
  refused = new Map<number, string>();
  steps: { at: number; before: string | null; bad: boolean }[][] = [];

  private drop(at: number) {
    if (!this.refused.delete(at)) return;
    for (const step of this.steps) {
      const place = step.findIndex((one) => one.at === at && one.bad);
      if (place >= 0) step.splice(place, 1);
    }
    this.steps = this.steps.filter((step) => step.length);
  }
  write(all: number[], typed: string | null) {
    for (const at of all) this.drop(at);
    const bad = typed !== null && BAD.has(typed);
    this.steps.push(all.map((at) => ({ at, before: this.stands.get(at) ?? null, bad })));
    for (const at of all) {
      if (bad) this.refused.set(at, typed);
      else this.stands.set(at, typed);
    }
  }
  undo() {
    for (const { at, before, bad } of this.steps.pop() ?? []) {
      if (bad) this.refused.delete(at);
      else this.stands.set(at, before);
    }
  }
}
