/** Up to six children counted at once; the counts are entries once they are kept. */
import { t } from "../../../messages/sheet";
import { useLocalStorage } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { useUndoKey } from "../../../parts/form/useUndoKey";
import type { HallClock } from "../../types";
import { useTest, type Activity } from "../../useTest";
import * as tally from "./tally";

export function useTally(activity: () => Activity, clock: () => HallClock | null) {
  const test = useTest(activity);
  const { rows, sheet } = test;
  const state = useLocalStorage<tally.Tally>(`lauf.tally.${activity().id}`, tally.begin([]), {
    writeDefaults: false,
  });
  const problem = ref("");
  const saved = ref("");
  /** Whether the last press was "keep these": then that is what undo takes back. */
  const justKept = ref<tally.Tally | null>(null);

  const areas = computed(() =>
    state.value.pupils.flatMap((id) => rows.value.filter((row) => row.child.pupil_id === id)),
  );
  /** Between ready and stop nothing is kept yet. */
  const runs = computed(() => {
    const called = clock();
    return called !== null && (called.phase === "work" || called.phase === "ready");
  });
  /** The next ones without a score, those of the first wave first. */
  function next(): string[] {
    const empty = rows.value.filter((row) => row.empty);
    const wave = Math.min(...empty.map((row) => row.wave));
    return empty.filter((row) => row.wave === wave).map((row) => row.child.pupil_id);
  }
  watch(
    () => rows.value.length,
    (length) => {
      if (length && !state.value.pupils.length) state.value = tally.begin(next());
    },
    { immediate: true },
  );
  function add(pupilId: string) {
    const after = tally.tap(state.value, pupilId, clock());
    saved.value = "";
    problem.value = tally.shut(state.value, clock());
    if (after !== state.value) justKept.value = null;
    state.value = after;
  }
  function takeBack(pupilId?: string) {
    state.value = tally.undo(state.value, pupilId);
    problem.value = saved.value = "";
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
    justKept.value = state.value;
    const done = new Set(counted.map(({ row }) => row.child.pupil_id));
    problem.value = "";
    saved.value = t("nScoreSaved", done.size);
    state.value = tally.begin(next().filter((id) => !done.has(id)));
  }
  /** Why a child is not counted; the next one takes the area. */
  function giveReason(place: number, reason: string) {
    const pupilId = state.value.pupils[place];
    const row = rows.value.find((one) => one.child.pupil_id === pupilId);
    if (!row) return;
    const before = state.value;
    test.writeAll([{ row, slot: 1, typed: reason }]);
    const following = next().find((id) => id !== pupilId && !before.pupils.includes(id));
    state.value = following ? tally.replace(before, place, following) : tally.leave(before, place);
    justKept.value = before;
    problem.value = saved.value = "";
  }
  useUndoKey(undo);

  return {
    ...{ test, state, problem, saved, areas, runs, add, takeBack, undo, keep, giveReason },
    reasons: computed(() => test.board.value?.reasons ?? []),
    /** Counts that cannot be kept yet: their go is not over. */
    isOn: computed(() => runs.value && state.value.go === clock()?.go),
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
