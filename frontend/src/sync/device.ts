/** What this device keeps until the server has acknowledged it. */
import Dexie, { type Table } from "dexie";
import type { ApiError, Schemas } from "../api/client";
import { ASIDE } from "./aside";
import { goLane, laneOf, tryOf } from "./lane";

/** Why the server would not take a write; it stays here until somebody decides. */
export type Refusal = Pick<
  ApiError,
  "status" | "message" | "accepted" | "choices" | "current" | "sure"
>;

export type NewAttempt = Schemas["NewAttempt"];
export type NewPulse = Schemas["NewPulse"];
export type HelperAttempt = Schemas["HelperAttempt"];
export type NewGo = Schemas["NewGo"];

interface Common {
  /** The id of the write itself: sent twice, it is stored once. */
  id: string;
  /** The activity or lesson it belongs to. */
  at: string;
  /** What is sent one after the other: a child's try, a clock. */
  lane: string;
  /** Nothing is sent while this lane has something to send: a time comes after its clock. */
  after?: string;
  /** Who made it: only this person's sign-in sends it. */
  by: string;
  /** Order within this device. */
  order: number;
  /** What is on screen for it meanwhile. */
  shown?: string;
  /** What stands by it, as it was typed, where it puts back an earlier entry. */
  typed?: string;
  /** Whose it is and where it was entered, for the list of what is not sent or not taken. */
  label?: { child: string; page: string };
  refusal?: Refusal;
}
export type Job = Common &
  (
    | { kind: "attempt"; body: NewAttempt }
    | { kind: "pulse"; body: NewPulse }
    | { kind: "helped"; body: HelperAttempt }
    | { kind: "go"; body: NewGo }
    | { kind: "run"; body: Schemas["RunRow"] }
    | { kind: "conduct"; body: Schemas["ConductState"] }
  );

/** What was entered, and is not the state of a clock. */
type Entered = Extract<Job, { kind: "attempt" | "pulse" | "helped" | "go" }>;

/** Whether a write is a score or a pulse, and not the state of a clock. */
export function isEntry(job: Job): job is Entered {
  return job.kind !== "run" && job.kind !== "conduct";
}
/** What is sent one after the other with an entry. */
function laneOfEntry(job: Entered): string {
  if (job.kind === "go") return goLane(job.body.id);
  const slot = job.kind === "pulse" ? job.body.position : tryOf(job.body);
  return laneOf(job.at, job.body.pupil_id, slot);
}

/** Where jobs are kept; a test may put another one in. */
export interface Store {
  all(): Promise<Job[]>;
  put(job: Job): Promise<void>;
  remove(id: string): Promise<void>;
}

export class Device extends Dexie implements Store {
  private jobs!: Table<Job, string>;

  constructor(name = "lauf") {
    super(name);
    this.version(1).stores({ jobs: "id" });
  }
  async all() {
    return this.jobs.toArray();
  }
  async put(job: Job) {
    // Structured cloning cannot take Vue's proxies.
    await this.jobs.put(JSON.parse(JSON.stringify(job)) as Job);
  }
  async remove(id: string) {
    await this.jobs.delete(id);
  }
}

const ENTRIES: ReadonlySet<string> = new Set<Entered["kind"]>(["attempt", "pulse", "helped", "go"]);

/** Entries that an earlier page kept in the browser's local storage: it was left before the database
 * had them, or is of a version without one. */
export async function takeOver(store: Store): Promise<void> {
  for (const key of Object.keys(localStorage).filter((name) => name.startsWith(ASIDE))) {
    try {
      const job = JSON.parse(localStorage.getItem(key) ?? "") as Job;
      if (!ENTRIES.has(job.kind) || !isEntry(job)) throw new Error("not an entry");
      await store.put({ ...job, id: job.body.id, lane: laneOfEntry(job) });
    } catch (error) {
      // One cut off while it was written was never shown as kept; a full device keeps it there.
      if (!(error instanceof SyntaxError) && (error as Error).message !== "not an entry") continue;
    }
    localStorage.removeItem(key);
  }
}
