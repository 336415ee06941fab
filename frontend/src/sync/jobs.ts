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

/** A lesson that was begun without a network, with the ids its scores are taken under. */
export type BegunLesson = Schemas["NewLesson"] & { id: string; activity_ids: string[] };

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
    | { kind: "lesson"; body: BegunLesson }
  );

/** What was entered, and is neither the state of a clock nor a lesson. */
export type Entered = Extract<Job, { kind: "attempt" | "pulse" | "helped" | "go" }>;

/** Whether a write is a score or a pulse. */
export function isEntry(job: Job): job is Entered {
  return job.kind !== "run" && job.kind !== "conduct" && job.kind !== "lesson";
}
/** The lessons that were begun here and are not sent, with their tests, by id. */
export function begunHere(jobs: readonly Job[]): Set<string> {
  return new Set(
    jobs.flatMap((job) => (job.kind === "lesson" ? [job.body.id, ...job.body.activity_ids] : [])),
  );
}
/** Whether a write is of a lesson that is still to be sent: before that, nobody knows its place. */
export function waitsForLesson(job: Job, begun: ReadonlySet<string>): boolean {
  return job.kind !== "lesson" && begun.has(job.at);
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
/** A write of a guest who has left this device, for the next one to send: it stays the one's who
 * counted it. */
export function adopted(job: Job, from: string): Job {
  if (job.kind !== "helped") return job;
  const counted_by = job.body.counted_by ?? from.slice(from.indexOf(" ") + 1);
  return { ...job, body: { ...job.body, counted_by } };
}
