import { t } from "../../../messages/sheet";
import type { HallClock } from "../../types";

/** Counts of up to six children at once, as values: every tap can be taken back. */
export interface Tally {
  /** Who is being counted, in the order of the areas. */
  pupils: string[];
  /** Whose every tap was, oldest first. */
  taps: string[];
  /** The go of the hall's clock that they were counted in; "" where no clock is called. */
  go: string;
}

export const MOST = 6;

export function begin(pupils: string[]): Tally {
  return { pupils: pupils.slice(0, MOST), taps: [], go: "" };
}
export function count(state: Tally, pupilId: string): number {
  return state.taps.filter((one) => one === pupilId).length;
}
/** Why a tap does not count now; "" where it does: always while no clock is used, else during the
 * work. */
export function shut(state: Tally, clock: HallClock | null): string {
  if (!clock?.go) return "";
  if (clock.phase !== "work") return t("theClockIsNotRunningSo");
  const isOther = state.taps.length > 0 && state.go !== clock.go;
  return isOther ? t("saveTheCountsOfTheLast") : "";
}
export function tap(state: Tally, pupilId: string, clock: HallClock | null): Tally {
  if (!state.pupils.includes(pupilId) || shut(state, clock)) return state;
  return { ...state, taps: [...state.taps, pupilId], go: clock?.go ?? "" };
}
/** The newest tap taken back: of everybody, or of one child. */
export function undo(state: Tally, pupilId?: string): Tally {
  const at = pupilId === undefined ? state.taps.length - 1 : state.taps.lastIndexOf(pupilId);
  return at < 0 ? state : { ...state, taps: state.taps.filter((_, place) => place !== at) };
}
/** Nobody more in an area; what was counted there goes. */
export function leave(state: Tally, place: number): Tally {
  const gone = state.pupils[place];
  const stay = (one: string) => one !== gone;
  return { ...state, pupils: state.pupils.filter(stay), taps: state.taps.filter(stay) };
}
/** Somebody else in an area; what was counted there goes with who leaves. */
export function replace(state: Tally, place: number, pupilId: string): Tally {
  const gone = state.pupils[place];
  if (state.pupils.includes(pupilId)) return state;
  const pupils = state.pupils.map((one, at) => (at === place ? pupilId : one));
  return { ...state, pupils, taps: state.taps.filter((one) => one !== gone) };
}
