/** A reason that holds for a whole lesson: said at one of its tests, it is said at all. */
import type { Schemas } from "../../api/client";
import type { Entry, Place } from "../types";

type Reason = Schemas["ReasonRow"];
/** A child that is not there, is ill or has no kit is so in every test of the lesson. */
const OF_THE_LESSON = new Set(["absent", "sat_out", "no_kit"]);

/** A child's cell in another test of the lesson. */
export interface Other {
  at: string;
  reasons: Reason[];
  /** The child's form there. */
  variant: string;
  /** Whether nothing was entered for it there. */
  empty: boolean;
}

/** What an entry says of the other tests: the same reason, where nothing stands yet. */
export function inOtherTests(
  pupilId: string,
  typed: string,
  reasons: Reason[],
  others: Other[],
): { place: Place; entry: Entry }[] {
  const text = typed.trim().toLowerCase();
  const said = reasons.find((one) => one.key === text || one.words === text);
  if (!said || !OF_THE_LESSON.has(said.code)) return [];
  return others
    .filter((one) => one.empty && one.reasons.some((each) => each.code === said.code))
    .map(({ at, variant }) => ({
      place: { pupilId, at, slot: 1 },
      // In words: its letter may mean something else there.
      entry: { typed: said.words, variant },
    }));
}
