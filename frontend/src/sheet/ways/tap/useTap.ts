/**
 * Hold and finish line: everybody starts together; a tap takes the time of a child as the form goes
 * or the line is crossed. Laps are counted, a wrong tap goes on, somebody unknown is named later.
 */
import { t } from "../../../messages/sheet";
import { computed, ref, shallowReactive, watch } from "vue";
import { play, wake } from "../../../parts/sound/sound";
import { now } from "../../../parts/time/timeSource";
import { useLitScreen } from "../../../parts/sound/useLitScreen";
import { useUndoKey } from "../../../parts/form/useUndoKey";
import { useKeptByGo } from "../../useKeptByGo";
import { useTest, type Activity, type Row, type Written } from "../../useTest";
import { useWaves } from "../../useWaves";
import type { Cell } from "../../types";
import * as taps from "./taps";

export function useTap(activity: () => Activity) {
  const test = useTest(activity);
  const { board, rows, sheet } = test;
  const lock = useLitScreen();
  const go = ref(1);
  const { waves, wave, group, own, goKey, toWave } = useWaves(activity, test, "taps", go);
  const state = useKeptByGo<taps.Taps>(`lauf.taps.${activity().id}`, goKey, taps.NONE);
  /** The presses of this go: what was tapped before each, and whether it kept a score. */
  const presses = shallowReactive<{ before: taps.Taps; kept: boolean }[]>([]);
  const problem = ref("");
  /** Why whoever is tapped next has no score of this go, as it is typed; "" for a time. */
  const why = ref("");

  const holds = computed(() => board.value?.better === "up");
  const laps = computed(() => state.value.laps ?? (holds.value ? 1 : (board.value?.laps ?? 1)));
  /** The test's own maximum, at which a hold ends by itself. */
  const cap = computed(() => (holds.value ? (board.value?.cap ?? null) : null));
  const unknown = computed(() => state.value.taps.filter((one) => one.pupilId === null));

  watch(
    [go, wave, own.goAt],
    (_now, before) => {
      if (before[1] !== wave.value) presses.length = 0;
      // A clock begun on another device, or again, has taps of its own.
      if (own.goAt.value !== null && own.goAt.value !== state.value.started) {
        state.value = taps.start(own.goAt.value, state.value.laps);
        presses.length = 0;
      }
    },
    { immediate: true },
  );

  // Tries beside the test's own are there again after a reload.
  watch(
    () => rows.value.length,
    () => test.openGo(go.value),
    { immediate: true },
  );

  const cellOf = (row: Row) => row.cells[go.value - 1] ?? null;
  const isDone = (row: Row) => taps.finished(state.value, row.child.pupil_id, laps.value);
  /** Who has neither finished nor a score of this go. */
  const left = computed(() => group.value.filter((row) => !isDone(row) && !cellOf(row)?.stands));

  function start() {
    // Waking the sound can take a tenth of a second, and nobody waits for it on the line.
    const at = now();
    wake();
    lock.hold();
    play("go");
    // Laps that were set here are so for the next go too.
    const setHere = state.value.laps;
    // Another go is kept beside the first, never over it.
    if (group.value.some((row) => isTime(cellOf(row)))) {
      const free = firstFreeGo();
      if (!test.openGo(free)) {
        problem.value = t("thereIsNoRoomForAnother2");
        return;
      }
      go.value = free;
    }
    presses.length = 0;
    state.value = taps.start(own.start(0, at), setHere);
  }
  /** Whether a time was taken: who is absent stands in nobody's way. */
  function isTime(cell: Cell | null): boolean {
    if (!cell?.stands) return false;
    return !board.value?.reasons.some(({ key }) => key === cell.typed);
  }
  function firstFreeGo(): number {
    const most = group.value.map((row) => row.cells.findLastIndex(isTime) + 1);
    return Math.max(0, ...most) + 1;
  }
  function typedOf(marks: taps.Taps, row: Row): string {
    const id = row.child.pupil_id;
    const held = taps.lapsOf(marks, id);
    if (cap.value !== null && held.length === 1 && (held[0] ?? 0) >= cap.value) {
      return board.value?.cap_typed ?? "";
    }
    return taps.entryOf(marks, id);
  }
  /** One press: who has finished by it is entered, who has no longer is taken back. */
  function press(after: taps.Taps) {
    const before = state.value;
    if (after === before) return;
    state.value = after;
    const all = group.value.flatMap((row): Written[] => {
      const id = row.child.pupil_id;
      const was = taps.finished(before, id, laps.value);
      const is = taps.finished(after, id, laps.value);
      const run_id = own.run.value?.id ?? null;
      const entry = { row, slot: go.value };
      if (is && (!was || typedOf(after, row) !== typedOf(before, row))) {
        return [{ ...entry, typed: typedOf(after, row), more: { run_id } }];
      }
      return was && !is ? [{ ...entry, typed: null, more: { why: t("wrongTap") } }] : [];
    });
    if (all.length) test.writeAll(all);
    presses.push({ before, kept: all.length > 0 });
  }
  function undo() {
    const last = presses.pop();
    problem.value = "";
    if (!last) {
      sheet.announcement.value = t("nothingToUndoInThisGo");
      return;
    }
    state.value = last.before;
    if (last.kept) sheet.takeBack();
    else sheet.announcement.value = t("theLastTapIsUndone");
  }
  /** Who has not finished keeps the laps that were run. */
  function endAll() {
    lock.release();
    play("stop");
    own.stop();
    const run_id = own.run.value?.id ?? null;
    const all = group.value.flatMap((row) => {
      const run = taps.lapsOf(state.value, row.child.pupil_id).length;
      const unfinished = !isDone(row) && run > 0 && board.value?.laps;
      return unfinished ? [{ row, slot: go.value, typed: t("nLap", run), more: { run_id } }] : [];
    });
    keepAll(all);
  }
  /** Everybody who still holds at the test's maximum has reached it. */
  function allReached() {
    const run_id = own.run.value?.id ?? null;
    const typed = board.value?.cap_typed ?? "";
    keepAll(left.value.map((row) => ({ row, slot: go.value, typed, more: { run_id } })));
    own.stop();
    lock.release();
  }
  function keepAll(all: Written[]) {
    if (!all.length) return;
    test.writeAll(all);
    presses.push({ before: state.value, kept: true });
  }
  function setLaps(number: number) {
    const whole = board.value?.laps;
    problem.value = "";
    // A few metres beyond the last whole lap are run on with it: one lap fewer fits too.
    if (whole && number !== whole && number !== whole - 1) {
      problem.value = t("theDistanceIsNLapsOf", { n: whole });
    } else {
      const held = number >= 1 && number <= 200 ? Math.floor(number) : null;
      state.value = { ...state.value, laps: held };
    }
  }
  /** Why a child has no score of this go. */
  function notDone(row: Row) {
    keepAll([{ row, slot: go.value, typed: why.value }]);
    why.value = "";
  }
  useUndoKey(undo);

  return {
    ...{
      test,
      go,
      own,
      state,
      presses,
      problem,
      holds,
      laps,
      cap,
      unknown,
      left,
      why,
      cellOf,
      isDone,
    },
    ...{ waves, wave, group, toWave },
    ...{ start, press, undo, endAll, allReached, setLaps, notDone },
    tap: (pupilId: string | null, at = now()) =>
      press(taps.tap(state.value, pupilId, laps.value, at)),
    goOn: (row: Row) => press(taps.resume(state.value, row.child.pupil_id)),
    name: (tapId: number, row: Row) => press(taps.name(state.value, tapId, row.child.pupil_id)),
  };
}
export type Tapping = ReturnType<typeof useTap>;
