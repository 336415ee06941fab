/**
 * The progressive 20 m shuttle run: beeps, stage and shuttle, and the drop-outs. A tap says that a
 * child missed the line at the last beep; two in a row end the run.
 */
import { t } from "../../../messages/sheet";
import { useQuery } from "@tanstack/vue-query";
import { computed, onBeforeUnmount, ref, shallowReactive, watch } from "vue";
import { answer, client } from "../../../api/client";
import { playIn, wake } from "../../../parts/sound/sound";
import { now } from "../../../parts/time/timeSource";
import { toNext, useLooks } from "../../../parts/time/useLooks";
import { useLitScreen } from "../../../parts/sound/useLitScreen";
import { useUndoKey } from "../../../parts/form/useUndoKey";
import { useKeptByGo } from "../../useKeptByGo";
import { latestRun } from "../../useRun";
import { useTest, type Activity, type Row, type Written } from "../../useTest";
import { useWaves } from "../../useWaves";
import * as shuttle from "./shuttle";

/** From the press to the start: time to toe the line. */
const READY_MS = 5_000;
const AHEAD_MS = 900;

export const beepsPage = (activityId: string) => ({
  queryKey: ["beeps", activityId],
  queryFn: () =>
    answer(
      client.GET("/api/activities/{activity_id}/beeps", {
        params: { path: { activity_id: activityId } },
      }),
    ),
  staleTime: Infinity,
});

export function useBeeps(activity: () => Activity) {
  const test = useTest(activity);
  const { rows, sheet } = test;
  const id = activity().id;
  const schedule = useQuery(beepsPage(id));
  const beeps = computed(() => schedule.data.value?.beeps ?? []);
  const lock = useLitScreen();
  const go = ref(1);
  const goes = useWaves(activity, test, "beeps", go);
  const { waves, wave, own, group: shown } = goes;
  const run = useKeptByGo<shuttle.Run>(`lauf.shuttle.${id}`, goes.goKey, shuttle.NONE);
  // Tries beside the test's own are there again after a reload.
  watch(
    () => rows.value.length,
    () => test.openGo(go.value),
    { immediate: true },
  );
  const presses = shallowReactive<{ before: shuttle.Run; kept: boolean }[]>([]);
  const problem = ref("");
  const ahead = new Map<number, () => void>();
  /** The beep that sounded last: everything on screen but the runner changes with it only. */
  const last = ref(-1);
  const begun = ref(false);
  const countdown = ref(0);

  own.follow(
    () => run.value.startedAt,
    (startedAt) => (run.value = { startedAt, runners: {} }),
  );
  const on = computed(() => beeps.value[Math.min(beeps.value.length - 1, last.value + 1)]);
  const score = (row: Row) => shuttle.runner(run.value, row.child.pupil_id).score;
  const warned = (row: Row) =>
    shuttle.isWarned(shuttle.runner(run.value, row.child.pupil_id), last.value);
  const reasons = computed(() => test.board.value?.reasons ?? []);
  /** Why somebody does not run: said in any go, it holds for the next. */
  const reasonOf = (row: Row) =>
    row.cells.find((cell) =>
      reasons.value.some(({ key, words }) => [key, words].includes(cell.typed)),
    )?.typed;
  /** What the next tap keeps of a child instead of a line missed. */
  const why = ref("");
  const running = computed(() => shown.value.filter((row) => !score(row)).length);
  const ended = computed(
    () => run.value.startedAt !== null && shown.value.length > 0 && !running.value,
  );
  const msNow = () => (run.value.startedAt === null ? 0 : now() - run.value.startedAt);

  function look() {
    const ms = msNow();
    last.value = run.value.startedAt === null ? -1 : shuttle.lastBeep(beeps.value, ms);
    begun.value = run.value.startedAt !== null && ms > 0;
    countdown.value = ms < 0 ? Math.ceil(-ms / 1000) : 0;
    if (run.value.startedAt === null || ended.value) {
      hush();
      return;
    }
    // Tones go to the sound card ahead of time: a busy page does not delay them.
    for (const [place, beep] of beeps.value.entries()) {
      if (place <= last.value) continue;
      if (beep.at_ms - ms > AHEAD_MS) break;
      if (ahead.has(place)) continue;
      const nextStage = beeps.value[place + 1]?.stage !== beep.stage;
      const takeBack = playIn(nextStage ? "next_stage" : "beep", beep.at_ms - ms);
      if (takeBack) ahead.set(place, takeBack);
    }
  }
  function hush() {
    for (const takeBack of ahead.values()) takeBack();
    ahead.clear();
  }
  useLooks(
    look,
    () => run.value.startedAt !== null && !ended.value,
    () => {
      const ms = msNow();
      return ms < 0 ? toNext(1000, ms) : (beeps.value[last.value + 1]?.at_ms ?? Infinity) - ms;
    },
  );
  onBeforeUnmount(hush);

  function start() {
    wake();
    lock.hold();
    hush();
    problem.value = "";
    presses.length = 0;
    const taken = shown.value.map((row) => row.cells.findLastIndex((cell) => cell.stands) + 1);
    const free = Math.max(0, ...taken) + 1;
    // Another go is kept beside the first, never over it.
    if (run.value.startedAt !== null && free > go.value) {
      if (!test.openGo(free)) {
        problem.value = t("thereIsNoRoomForAnother");
        return;
      }
      go.value = free;
    }
    for (const n of [3, 2, 1]) playIn("count", READY_MS - n * 1000);
    playIn("go", READY_MS);
    const still = shown.value.flatMap((row) => {
      const reason = reasonOf(row);
      return reason ? [[row.child.pupil_id, { warned: null, score: reason }] as const] : [];
    });
    run.value = { startedAt: own.start(READY_MS), runners: Object.fromEntries(still) };
  }
  /** One press: who is out by it is entered, who is no longer is taken back. */
  function press(after: shuttle.Run, of: Row[]) {
    const before = run.value;
    if (after === before) return;
    run.value = after;
    const all = of.flatMap((row): Written[] => {
      const was = shuttle.runner(before, row.child.pupil_id).score;
      const is = score(row);
      if (is && is !== was) return [{ row, slot: go.value, typed: is }];
      return was && !is ? [{ row, slot: go.value, typed: null, more: { why: t("wrongTap") } }] : [];
    });
    if (all.length) test.writeAll(all);
    presses.push({ before, kept: all.length > 0 });
  }
  /** Another wave has a run, taps and a go of its own. */
  function toWave(to: number | "all") {
    hush();
    presses.length = 0;
    problem.value = "";
    const at = to === "all" ? null : to;
    go.value = latestRun(id, activity().runs, "beeps", at)?.try_number ?? 1;
    goes.toWave(to);
    test.openGo(go.value);
  }
  function undo() {
    const step = presses.pop();
    problem.value = "";
    if (!step) {
      sheet.announcement.value = t("nothingToUndoInThisGo");
      return;
    }
    run.value = step.before;
    if (step.kept) sheet.takeBack();
    else sheet.announcement.value = t("theLastTapIsUndone");
  }
  function endAll() {
    const left = shown.value.filter((row) => !score(row));
    const ms = msNow();
    const after = left.reduce(
      (state, row) => shuttle.stop(state, beeps.value, row.child.pupil_id, ms),
      run.value,
    );
    press(after, left);
    own.stop();
    hush();
    lock.release();
  }
  useUndoKey(undo);

  return {
    ...{
      test,
      run,
      own,
      presses,
      waves,
      wave,
      toWave,
      problem,
      beeps,
      last,
      on,
      begun,
      countdown,
      go,
    },
    ...{ shown, running, ended, score, warned, start, undo, endAll, msNow },
    ...{ reasons, why },
    /** What stands of a child in this go: a stage and shuttle, or why there is none. */
    scoreWords: (row: Row): string => {
      const is = score(row) ?? (run.value.startedAt === null ? reasonOf(row) : null);
      return reasons.value.find(({ key }) => key === is)?.words ?? is ?? "";
    },
    tap: (row: Row) => {
      const { pupil_id } = row.child;
      const reason = why.value;
      why.value = "";
      press(
        reason
          ? shuttle.out(run.value, pupil_id, reason)
          : shuttle.miss(run.value, beeps.value, pupil_id, msNow()),
        [row],
      );
    },
    stops: (row: Row) =>
      press(shuttle.stop(run.value, beeps.value, row.child.pupil_id, msNow()), [row]),
    goesOn: (row: Row) => press(shuttle.goesOn(run.value, row.child.pupil_id), [row]),
  };
}
export type Beeping = ReturnType<typeof useBeeps>;
