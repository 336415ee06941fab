/** What this device keeps until the server has acknowledged it. */
import Dexie, { type Table } from "dexie";
import type { ApiError, Schemas } from "../api/client";
import { ASIDE } from "./aside";
import { laneOf, tryOf } from "./lane";

/** Why the server would not take a write; it stays here until somebody decides. */
export type Refusal = Pick<
  ApiError,
  "status" | "message" | "accepted" | "choices" | "current" | "sure"
>;

export type NewAttempt = Schemas["NewAttempt"];
export type NewPulse = Schemas["NewPulse"];
export type HelperAttempt = Schemas["HelperAttempt"];

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
    | { kind: "run"; body: Schemas["RunRow"] }
    | { kind: "conduct"; body: Schemas["ConductState"] }
  );

/** Whether a write is a score or a pulse, and not the state of a clock. */
export function isEntry(job: Job): boolean {
  return job.kind === "attempt" || job.kind === "pulse" || job.kind === "helped";
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

/** Entries that an earlier page kept in the browser's local storage: it was left before the database
 * had them, or is of a version without one. */
export async function takeOver(store: Store): Promise<void> {
  for (const key of Object.keys(localStorage).filter((name) => name.startsWith(ASIDE))) {
    try {
      const { kind, at, by, order, body, ...more } = JSON.parse(
        localStorage.getItem(key) ?? "",
      ) as Job;
      if (kind !== "attempt" && kind !== "pulse" && kind !== "helped") {
        throw new Error("not an entry");
      }
      const slot = kind === "pulse" ? body.position : tryOf(body);
      const lane = laneOf(at, body.pupil_id, slot);
      await store.put({ ...more, id: body.id, kind, at, by, order, body, lane } as Job);
    } catch (error) {
      // One cut off while it was written was never shown as kept; a full device keeps it there.
      if (!(error instanceof SyntaxError) && (error as Error).message !== "not an entry") continue;
    }
    localStorage.removeItem(key);
  }
}
