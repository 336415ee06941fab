/** The words of the sheet: places, what stands in them, and where they come from. */
import type { Schemas } from "../api/client";
import type { Job, NewAttempt, NewPulse, Refusal } from "../sync/jobs";

export type State = "empty" | "saved" | "saving" | "waiting" | "refused";

/** One cell: a child's try at a test, or its pulse at a moment. */
export interface Place {
  pupilId: string;
  /** The activity, or the lesson of a pulse. */
  at: string;
  /** The try, or the position of the moment. */
  slot: number;
}

/** What the server knows of a place. */
export interface Kept {
  /** The newest entry, which a new one succeeds; taken back or not. */
  head: string | null;
  /** Whether that counts: false where nothing was entered, or it was taken back. */
  stands: boolean;
  typed: string;
  shown: string;
  variant: string;
}

export interface Cell extends Kept {
  place: Place;
  state: State;
  /** The write that is on its way, or wants a decision. */
  job: Job | null;
  refusal: Refusal | null;
}

/** A score or a reason that was taken, or is on its way; a refused one is not. */
export function isIn(cell: Cell | null): boolean {
  return cell !== null && cell.stands && cell.state !== "refused";
}

/** Whether two things say the same in each of their fields; where they stand is not asked. */
export function isSame<T extends object>(one: T, other: T): boolean {
  const fields = Object.keys(other) as (keyof T)[];
  return (
    fields.length === Object.keys(one).length &&
    fields.every((name) => name === "place" || isEqual(one[name], other[name]))
  );
}
function isEqual(one: unknown, other: unknown): boolean {
  if (!Array.isArray(one) || !Array.isArray(other)) return Object.is(one, other);
  return one.length === other.length && one.every((each, at) => Object.is(each, other[at]));
}

/** What is entered at a place; a pulse has fields of its own. */
export type Entry = { typed: string; sure?: boolean; recorded_at?: string } & Partial<
  Pick<NewAttempt, "variant" | "wave" | "conditions" | "counted_by" | "run_id" | "why">
> &
  Partial<Pick<NewPulse, "seconds" | "waited" | "confirmed">>;

/** What is put at a place: an entry, or null where what stands there is taken back (and `why`). */
export interface Change {
  place: Place;
  entry: Entry | null;
  why?: string;
}

/** An entry as it is shown, and as it was typed. */
export interface Text {
  shown: string;
  typed: string;
}
/** What one press changed at a place. */
export interface Done {
  place: Place;
  /** The newest entry there before, taken back or not. */
  head: string | null;
  /** What stood there, or nothing. */
  before: string | null;
  textBefore: Text;
  wrote: string;
}
/** One press of a person: a cell, or several by one button. */
export type Step = Done[];
/** What was done in a hall, for undo: it outlives the table it was done in. */
export interface History {
  steps: Step[];
  /** What became of an entry after an undo: the one that holds the same now. */
  again: Map<string, string>;
}

/** What is asked about a score that was kept: it may be right all the same. */
export interface Question {
  place: Place;
  shown: string;
  flags: { code: string; words: string }[];
  /** The entry that is asked about. */
  entryId: string;
}

/** Where the cells of a sheet come from: a test's lanes, a battery, a pulse series. */
export interface Source {
  kept(place: Place): Kept | null;
  /** What goes with an entry: a child that is absent is so for every test of the lesson. */
  alsoFor?(place: Place, entry: Entry): { place: Place; entry: Entry }[];
  /** Whether a place is one of this sheet's own, and not of what goes with it. */
  isOwn?(place: Place): boolean;
  /** A write for a place, without what every write has. */
  job(place: Place, entry: Entry): Pick<Job, "kind" | "body" | "after">;
  /** Whether a write belongs to this sheet, and to which place. */
  placeOf(job: Job): Place | null;
  /** Put in what the server answered. */
  take(job: Job, answer: unknown): void;
  name(pupilId: string): string;
  /** What the server said of a child's entry: how it is shown, in words. */
  announcementOf(job: Job, answer: unknown): string;
  questionsOf(job: Job, answer: unknown): Question | null;
  /** The teacher looked: it stands. Either an entry that says so, or what tells the server. */
  confirming?(question: Question): Entry | null;
  /** What is asked is right as it is; what is said of the score then, "" for nothing. */
  settle?(question: Question): Promise<string>;
}

export type Conditions = NonNullable<NewAttempt["conditions"]>;
export type Child = Schemas["Child"];
export type Board = Schemas["ClassLanes"];

export function keyOf(place: Place): string {
  return `${place.at} ${place.pupilId} ${place.slot}`;
}

/** The hall's clock as far as a way of taking scores goes by it: of one go of the test that is shown. */
export interface HallClock {
  /** Names the go that is on, was last, or comes next; "" before there is one. */
  go: string;
  phase: "before" | "ready" | "work" | "after";
  /** Whole seconds left of getting ready or of the work. */
  left: number;
  /** Whole seconds worked of it. */
  worked: number;
}
