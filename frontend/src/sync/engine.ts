/**
 * The one engine for every write made in the hall. A write is kept on the device, sent in the order
 * of its lane, retried by one policy, and told of to the other tabs. Lanes do not wait for each
 * other: a refused or failing write holds up nothing but what follows it in its own.
 */
import { computed, ref, shallowReactive } from "vue";
import { ApiError } from "../api/client";
import {
  adopted,
  begunHere,
  isEntry,
  waitsForLesson,
  type Job,
  type Refusal,
  type Store,
} from "./jobs";
import { isForAll, verdict } from "./policy";

export type Answered = unknown;
export type Heard = (job: Job, answer: Answered) => void;
/** What tabs of one device tell each other. */
export type Told =
  | { what: "kept"; job: Job }
  | { what: "gone"; id: string }
  | { what: "saved"; job: Job; answer: Answered };

export interface Surroundings {
  store: Store;
  /** Sends one write and answers what the server said; throws ApiError. */
  send: (job: Job) => Promise<Answered>;
  /** Only one tab at a time sends of a lane. */
  alone?: <T>(lane: string, work: () => Promise<T>) => Promise<T>;
  /** Tell the other tabs. */
  tell?: (told: Told) => void;
  setTimeout?: (work: () => void, ms: number) => number;
  clearTimeout?: (timer: number) => void;
}

/** So many lanes are sent at the same time. */
const AT_ONCE = 4;
/** What another tab has kept and not sent for so long is sent by this one. */
const TAKE_OVER_MS = 5_000;

export function createEngine(around: Surroundings) {
  const { store, send } = around;
  const alone = around.alone ?? ((_lane, work) => work());
  const tell = around.tell ?? (() => undefined);
  const later = around.setTimeout ?? ((work, ms) => window.setTimeout(work, ms));
  const stop = around.clearTimeout ?? ((timer) => window.clearTimeout(timer));

  const jobs = shallowReactive(new Map<string, Job>());
  const sending = shallowReactive(new Set<string>());
  const person = ref<string | null>(null);
  const signedOut = ref(false);
  /** What is wrong with this device's clock, as the server said last; "" for nothing. */
  const deviceClock = ref("");
  /** Writes that are on this screen only, because the device would not keep them. */
  const unkept = shallowReactive(new Set<string>());
  /** Writes that the device has kept. */
  const stored = new Set<string>();
  /** What a refused write was to replace: who follows it follows that. */
  const fell = new Map<string, string | null>();
  /** Every write that was made on this device, as far back as this page goes. */
  const written = new Set<string>();
  const listeners = new Set<Heard>();
  const refusals = new Set<(job: Job, refusal: Refusal) => void>();
  /** Failures in a row, of a lane or (under "") of the way to the server; and when to try again. */
  const failures = new Map<string, number>();
  const waits = new Map<string, number>();

  /** Jobs by age; the map changes seldom, and rows ask for it often. */
  const inOrder = computed(() => [...jobs.values()].sort((a, b) => a.order - b.order));
  const mine = computed(() => inOrder.value.filter((job) => job.by === person.value));

  async function keep(job: Job) {
    jobs.set(job.id, job);
    written.add(job.id);
    tell({ what: "kept", job: plain(job) });
    try {
      await store.put(job);
      unkept.delete(job.id);
      stored.add(job.id);
    } catch {
      unkept.add(job.id);
    }
  }
  async function forget(id: string, said: Told = { what: "gone", id }) {
    jobs.delete(id);
    unkept.delete(id);
    stored.delete(id);
    tell(said);
    await store.remove(id).catch(() => undefined);
  }

  /** The oldest of each lane that nobody has to decide about. */
  const heads = computed(() => {
    const found = new Map<string, Job>();
    for (const job of mine.value) {
      if (!job.refusal && !found.has(job.lane)) found.set(job.lane, job);
    }
    return found;
  });
  function isHead(job: Job): boolean {
    return heads.value.get(job.lane)?.id === job.id;
  }
  const begun = computed(() => begunHere(mine.value));
  function isReady(job: Job): boolean {
    // Nothing is sent before the device has it, or has said that it cannot.
    return (
      (stored.has(job.id) || unkept.has(job.id)) &&
      !job.refusal &&
      !sending.has(job.lane) &&
      !waits.has(job.lane) &&
      isHead(job) &&
      !waitsForLesson(job, begun.value) &&
      !(job.after && heads.value.has(job.after))
    );
  }

  function pump() {
    if (!person.value || signedOut.value || waits.has("")) return;
    for (const job of mine.value) {
      if (sending.size >= AT_ONCE) return;
      if (isReady(job)) void deliver(job);
    }
  }

  async function deliver(job: Job) {
    const { lane } = job;
    sending.add(lane);
    try {
      await alone(lane, async () => {
        // Another tab may have sent it, or the device lost it: sent once more it is stored once, and
        // what this screen shows is never dropped on a guess.
        if (!jobs.has(job.id)) return;
        const answer = await send(plain(job));
        failures.delete(lane);
        failures.delete("");
        // What the server knows takes the place of the write in one go: at no moment is it neither.
        hear(job, answer);
        // A newer state of the same thing has taken its place meanwhile: that is still to be sent.
        if (jobs.get(job.id) === job) {
          await forget(job.id, { what: "saved", job: plain(job), answer });
        }
      });
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      await fail(job, error);
    } finally {
      sending.delete(lane);
      pump();
    }
  }

  async function fail(job: Job, error: ApiError) {
    const key = isForAll(error) ? "" : job.lane;
    // Several that were on their way when the network went are one failure.
    const count = (failures.get(key) ?? 0) + (waits.has(key) ? 0 : 1);
    failures.set(key, count);
    const said = verdict(error, count);
    if (said.kind === "signed_out") signedOut.value = true;
    else if (said.kind === "unreachable") wait("", said.waitMs);
    else if (said.kind === "later") wait(job.lane, said.waitMs);
    else await refuse(job, error);
  }

  function wait(key: string, ms: number) {
    if (waits.has(key)) return;
    const timer = later(() => {
      waits.delete(key);
      pump();
    }, ms);
    waits.set(key, timer);
  }
  function wake() {
    for (const timer of waits.values()) stop(timer);
    waits.clear();
    pump();
  }

  /**
   * Keep it for its person to settle, unless they have typed over it already. What followed it now
   * follows what it followed, and what was to put it back puts that back.
   */
  async function refuse(job: Job, error: ApiError) {
    failures.delete(job.lane);
    const { status, message, accepted, choices, current, sure } = error;
    const refusal: Refusal = { status, message, accepted, choices, current, sure };
    const later = mine.value.filter((one) => one.lane === job.lane && one.order > job.order);
    if (job.kind === "attempt" || job.kind === "pulse") {
      const succeeds = (job.body as Following).succeeds ?? null;
      fell.set(job.id, succeeds);
      for (const next of later) {
        const body = withoutRefused(next.body as Following, job.id, succeeds);
        if (body !== next.body) await keep({ ...next, body } as Job);
      }
    }
    // The state of a clock is not a score: where another one counts, that is taken up instead.
    const isState = job.kind === "run" || job.kind === "conduct";
    if (isState || later.length) await forget(job.id);
    else await keep({ ...job, refusal });
    for (const refused of refusals) refused(job, refusal);
  }

  function hear(job: Job, answer: Answered) {
    const said = (answer as { device_clock?: string } | null | undefined)?.device_clock;
    if (said !== undefined) deviceClock.value = said;
    for (const heard of listeners) heard(job, answer);
  }

  /** Keep a write and send it. A write with the id of an unsent one takes its place. */
  function put(job: Omit<Job, "by" | "order">): Promise<void> {
    if (!person.value) throw new Error("nobody is signed in");
    // Later than everything before it, on this device and since the last reload.
    const last = inOrder.value.at(-1)?.order ?? 0;
    const order = jobs.get(job.id)?.order ?? Math.max(Date.now(), last + 1);
    const whole = { ...job, by: person.value, order } as Job;
    const kept = keep(whole);
    void kept.then(pump);
    return kept;
  }

  return {
    signedOut,
    deviceClock,
    /** This person's writes that are not acknowledged, oldest first. */
    mine,
    /** How many are on their way or want a decision. */
    waiting: computed(() => mine.value.length),
    /** How many of them are scores and pulses; the rest are states of clocks. */
    entries: computed(() => mine.value.filter(isEntry).length),
    /** How many scores and pulses are still to be sent, without those that were refused. */
    unsent: computed(() => mine.value.filter((job) => !job.refusal && isEntry(job)).length),
    /** How many the server would not take: they are on this device, for their person to settle. */
    refused: computed(() => mine.value.filter((job) => job.refusal).length),
    /** Entries that the device does not have yet. */
    notYetKept: () => [...jobs.values()].filter((job) => !stored.has(job.id) && isEntry(job)),
    /** How many are on this screen only: the device is full, or keeps nothing. */
    unkept: computed(() => unkept.size),

    /** Take up what was kept before this page was opened. */
    async load() {
      for (const job of await store.all().catch(() => [])) {
        stored.add(job.id);
        written.add(job.id);
        if (!jobs.has(job.id)) jobs.set(job.id, job);
      }
      pump();
    },
    signedIn(id: string | null) {
      person.value = id;
      signedOut.value = false;
      wake();
    },
    /** What one helper could not send is sent by the one who came in on this device after it. */
    async adopt(from: string, to: string) {
      for (const job of jobs.values()) {
        if (job.by === from) await keep({ ...adopted(job, from), by: to, refusal: undefined });
      }
      pump();
    },
    /** Try again at once: the network is back. */
    wake,
    put,
    /** Keep a write that was not taken here already: it is open until its person settles it. */
    putRefused(job: Omit<Job, "by" | "order">, refusal: Refusal) {
      fell.set(job.id, (job.body as Following).succeeds ?? null);
      return put({ ...job, refusal });
    },
    /** Let a refused write go. */
    dismiss(id: string) {
      const job = jobs.get(id);
      if (job) fell.set(id, (job.body as Following).succeeds ?? null);
      void forget(id).then(pump);
    },
    /** How a write on its way stands. */
    stateOf(job: Job): "refused" | "saving" | "waiting" {
      if (job.refusal) return "refused";
      return sending.has(job.lane) && isHead(job) && !signedOut.value ? "saving" : "waiting";
    },
    /** The entry that a write which may have been refused stands on: itself, unless it was. */
    standing(id: string | null): string | null {
      let found = id;
      while (found !== null && fell.has(found)) found = fell.get(found) ?? null;
      return found;
    },
    /** Whether a write was made on this device: its answer comes here by itself. */
    wrote: (id: string) => written.has(id),
    /** Whether an entry was refused: it was never kept. */
    wasRefused: (id: string) => fell.has(id),
    /** Hear of every acknowledged write; returns what stops it. */
    onSaved(heard: Heard): () => void {
      listeners.add(heard);
      return () => listeners.delete(heard);
    },
    /** Hear of every write the server would not take; returns what stops it. */
    onRefused(refused: (job: Job, refusal: Refusal) => void): () => void {
      refusals.add(refused);
      return () => refusals.delete(refused);
    },
    /** What another tab told. */
    told(told: Told) {
      if (told.what === "kept") {
        jobs.set(told.job.id, told.job);
        written.add(told.job.id);
        stored.add(told.job.id);
        // Its own tab sends it; this one only if that is closed before.
        wait(told.job.lane, TAKE_OVER_MS);
        return;
      }
      const id = told.what === "gone" ? told.id : told.job.id;
      if (told.what === "saved") hear(told.job, told.answer);
      jobs.delete(id);
      stored.delete(id);
      pump();
    },
  };
}

export type Engine = ReturnType<typeof createEngine>;

/** What an entry says of earlier ones. */
interface Following {
  succeeds?: string | null;
  restores?: string | null;
  withdrawn?: boolean;
}
/** An entry as it is where the one it speaks of was never kept. */
function withoutRefused(body: Following, refused: string, succeeds: string | null): Following {
  let made = body;
  if (body.succeeds === refused) made = { ...made, succeeds };
  if (body.restores === refused) {
    made = { ...made, restores: succeeds, withdrawn: succeeds === null };
  }
  return made;
}

function plain<T>(value: T): T {
  return JSON.parse(JSON.stringify(value)) as T;
}
