/** The writes that are made on a device, and what is told of them. It knows no database: that is fetched
 * once somebody is signed in. */
import type { ApiError, Schemas } from "../api/client";
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
export type Entered = Extract<Job, { kind: "attempt" | "pulse" | "helped" | "go" }>;

/** Whether a write is a score or a pulse, and not the state of a clock. */
export function isEntry(job: Job): job is Entered {
  return job.kind !== "run" && job.kind !== "conduct";
}
/** What is sent one after the other with an entry. */
export function laneOfEntry(job: Entered): string {
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
