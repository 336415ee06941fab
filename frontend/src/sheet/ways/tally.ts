/** Counts of up to six children at once, as values: every tap can be taken back. */
export interface Tally {
  /** Who is being counted, in the order of the areas. */
  pupils: string[];
  /** Whose every tap was, oldest first. */
  taps: string[];
  /** When the clock says go, in the time source's milliseconds; null while it is not used. */
  goAt: number | null;
  seconds: number;
}

export const MOST = 6;

export function begin(pupils: string[], seconds = 0): Tally {
  return { pupils: pupils.slice(0, MOST), taps: [], goAt: null, seconds };
}
export function count(state: Tally, pupilId: string): number {
  return state.taps.filter((one) => one === pupilId).length;
}
/** Whether a tap counts now: always without a clock, else from go to stop. */
export function open(state: Tally, now: number): boolean {
  return state.goAt === null || (now >= state.goAt && now < state.goAt + state.seconds * 1000);
}
export function tap(state: Tally, pupilId: string, now: number): Tally {
  if (!state.pupils.includes(pupilId) || !open(state, now)) return state;
  return { ...state, taps: [...state.taps, pupilId] };
}
/** The newest tap taken back: of everybody, or of one child. */
export function undo(state: Tally, pupilId?: string): Tally {
  const at = pupilId === undefined ? state.taps.length - 1 : state.taps.lastIndexOf(pupilId);
  return at < 0 ? state : { ...state, taps: state.taps.filter((_, place) => place !== at) };
}
/** Somebody else in an area; what was counted there goes with who leaves. */
export function replace(state: Tally, place: number, pupilId: string): Tally {
  const gone = state.pupils[place];
  if (state.pupils.includes(pupilId)) return state;
  const pupils = state.pupils.map((one, at) => (at === place ? pupilId : one));
  return { ...state, pupils, taps: state.taps.filter((one) => one !== gone) };
}
