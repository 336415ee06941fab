/** Up to six children counted at once; the counts are entries once they are kept. */
import { useLocalStorage, useRafFn } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { play, wake } from "../../parts/sound";
import { now } from "../../parts/timeSource";
import { useLitScreen } from "../../parts/useLitScreen";
import { useUndoKey } from "../../parts/useUndoKey";
import { useOwnRun } from "../useRun";
import { useTest, type Activity } from "../useTest";
import * as tally from "./tally";

const READY_MS = 3_000;

export function useTally(activity: () => Activity) {
  const test = useTest(activity);
  const { rows, sheet } = test;
  const lock = useLitScreen();
  const own = useOwnRun(activity, "tally");
  const state = useLocalStorage<tally.Tally>(`lauf.tally.${activity().id}`, tally.begin([]), {
    writeDefaults: false,
  });
  const at = ref(now());
  const said = ref("");
  /** Whether the last press was "keep these": then that is what undo takes back. */
  const justKept = ref<tally.Tally | null>(null);

  const seconds = computed(() => activity().seconds ?? 0);
  const areas = computed(() =>
    state.value.pupils.flatMap((id) => rows.value.filter((row) => row.child.pupil_id === id)),
  );
  const passed = computed(() => (state.value.goAt === null ? null : at.value - state.value.goAt));
  const left = computed(() => {
    if (passed.value === null) return null;
    if (passed.value < 0) return Math.ceil(-passed.value / 1000);
    return Math.max(0, Math.ceil((state.value.seconds * 1000 - passed.value) / 1000));
  });
  const ready = computed(() => passed.value !== null && passed.value < 0);
  const stopped = computed(
    () => passed.value !== null && passed.value >= state.value.seconds * 1000,
  );

  /** The next ones without a score, those of the first wave first. */
  function next(): string[] {
    const empty = rows.value.filter((row) => row.empty);
    const wave = Math.min(...empty.map((row) => row.wave));
    return empty.filter((row) => row.wave === wave).map((row) => row.child.pupil_id);
  }
  watch(
    () => rows.value.length,
    (length) => {
      if (length && !state.value.pupils.length) state.value = tally.begin(next(), seconds.value);
    },
    { immediate: true },
  );
  own.follow(
    () => state.value.goAt,
    (goAt) => (state.value = { ...state.value, taps: [], goAt, seconds: seconds.value }),
  );
  useRafFn(() => {
    const before = at.value;
    at.value = now();
    const go = state.value.goAt;
    if (go === null) return;
    const cue = (moment: number) => before < moment && at.value >= moment;
    const stop = go + state.value.seconds * 1000;
    if (cue(go)) play("go");
    else if (cue(stop)) {
      play("stop");
      lock.release();
    } else if ([3, 2, 1].some((n) => cue(go - n * 1000))) play("count");
    else if ([5, 4, 3, 2, 1].some((n) => cue(stop - n * 1000))) play("last");
  });

  function start() {
    wake();
    lock.hold();
    play("count");
    justKept.value = null;
    const goAt = own.start(READY_MS);
    state.value = { ...state.value, taps: [], goAt, seconds: seconds.value };
  }
  function add(pupilId: string) {
    const after = tally.tap(state.value, pupilId, now());
    said.value = after === state.value ? "The clock does not run: that does not count." : "";
    if (after !== state.value) justKept.value = null;
    state.value = after;
  }
  function takeBack(pupilId?: string) {
    state.value = tally.undo(state.value, pupilId);
    said.value = "";
  }
  /** The last thing done: a tap, or that the counts were kept. */
  function undo() {
    if (justKept.value === null) {
      takeBack();
      return;
    }
    sheet.takeBack();
    state.value = justKept.value;
    justKept.value = null;
  }
  function keep() {
    const counted = areas.value.flatMap((row) => {
      const number = tally.count(state.value, row.child.pupil_id);
      return number ? [{ row, slot: 1, typed: String(number) }] : [];
    });
    test.writeAll(counted);
    own.stop();
    justKept.value = state.value;
    const done = new Set(counted.map(({ row }) => row.child.pupil_id));
    said.value = `${done.size} kept.`;
    state.value = tally.begin(
      next().filter((id) => !done.has(id)),
      seconds.value,
    );
  }
  useUndoKey(undo);

  return {
    ...{ test, state, said, seconds, areas, left, ready, stopped },
    ...{ start, add, takeBack, undo, keep },
    canUndo: computed(() => state.value.taps.length > 0 || justKept.value !== null),
    /** Those counted now who have a score already. */
    again: computed(() =>
      areas.value.filter((row) => !row.empty && tally.count(state.value, row.child.pupil_id)),
    ),
    count: (pupilId: string) => tally.count(state.value, pupilId),
    others: computed(() =>
      rows.value.filter((row) => !state.value.pupils.includes(row.child.pupil_id)),
    ),
    replace: (place: number, pupilId: string) =>
      (state.value = tally.replace(state.value, place, pupilId)),
  };
}
export type Tallying = ReturnType<typeof useTally>;
