/**
 * A rep target while it is on: what a child has done of a movement since the last time adds up; the
 * warm-up's reps are carried in once.
 */
import { useQuery } from "@tanstack/vue-query";
import { useDebounceFn, useIntervalFn } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { answer, client, type Schemas } from "../../api/client";
import { now } from "../../parts/timeSource";
import { useUndoKey } from "../../parts/useUndoKey";
import { useCursor, useField } from "../useCursor";
import { useOwnRun } from "../useRun";
import { useTest, type Activity } from "../useTest";
import type { HallClock } from "../types";
import {
  added,
  asTyped,
  parts,
  plainly,
  totalOf,
  withReps,
  type Levels,
  type Parts,
} from "./total";

const NONE: Levels = [0, 0, 0];
const isCarried = (text: string) => /^c(\d{1,4})$/i.exec(text)?.[1];
type Child = Schemas["TargetChild"];
/** Counting and writing down take their time: so many reps more than the clock explains are fine. */
const SPARE_REPS = 60;

export function useTarget(
  activity: () => Activity,
  /** The hall's clock, where that is the one of this test. */
  clock: () => HallClock | null,
) {
  const test = useTest(activity);
  const { rows, sheet } = test;
  const id = activity().id;
  const own = useOwnRun(activity, "target");
  const at = ref(now());
  useIntervalFn(() => (at.value = now()), 1_000);
  const elapsed = computed(() => {
    const called = clock();
    if (called) return called.worked;
    const from = own.goAt.value;
    return from === null ? 0 : Math.max(0, Math.floor((at.value - from) / 1000));
  });
  const query = useQuery({
    queryKey: ["target", id],
    queryFn: () =>
      answer(
        client.GET("/api/activities/{activity_id}/target", {
          params: { path: { activity_id: id }, query: { elapsed: elapsed.value } },
        }),
      ),
    // Also while an entry waits: it holds up nobody but its child.
    refetchInterval: 5_000,
  });
  const page = query.data;
  const refresh = useDebounceFn(() => query.refetch(), 400);
  watch(sheet.sync.waiting, () => void refresh());

  const movement = ref(0);
  const typed = ref("");
  const problem = ref("");
  /** More than the clock or the calls explain, until somebody says that it is right. */
  const doubted = ref(false);
  /** When a child's reps were last written down, in elapsed seconds. */
  const written = new Map<string, number>();

  const children = computed(() => page.value?.children ?? []);
  const names = computed(() => page.value?.names ?? []);
  const carries = computed(() => page.value?.carries ?? "");
  const apart = computed(() => page.value?.apart ?? false);
  const called = computed(() => page.value?.called ?? null);
  const left = computed(() => Math.max(0, (page.value?.seconds ?? 0) - elapsed.value));
  const cursor = useCursor({
    rows: () => children.value.length,
    columns: () => 1,
    isEmpty: () => true, // reps are added to whatever stands
    along: ref(false),
  });
  const { field, focus } = useField(cursor);
  const child = computed(() =>
    cursor.rested.value ? null : (children.value[cursor.row.value] ?? null),
  );
  watch(cursor.moves, clear, { flush: "sync" });
  let placed = false;
  watch(
    () => children.value.length,
    (length) => {
      if (length && !placed) cursor.go(0);
      placed ||= length > 0;
    },
    { immediate: true },
  );
  function clear() {
    typed.value = problem.value = "";
    doubted.value = false;
  }

  const rowOf = (one: Child) => rows.value.find((row) => row.child.pupil_id === one.pupil_id);
  /** What stands for a child: its entry on the way, else the one that was acknowledged last. The
   * page of sums comes a moment later: reps are never added to it. */
  function partsOf(one: Child): Parts {
    const cell = rowOf(one)?.cells[0];
    const stands = cell?.stands ? cell.typed : "";
    const found = parts(cell?.refusal ? (rowOf(one)?.child.tries[0]?.score?.typed ?? "") : stands);
    // What a rep counts stays as it was when the first was kept.
    return found.reps.length ? found : { ...found, weights: page.value?.weights };
  }
  const total = (one: Child) => totalOf(partsOf(one));
  /** Whether so many reps are more than anybody does in the time: since the child was written down
   * last, or, together with what it has done, since the start. */
  function isTooMany(one: Child, more: number): boolean {
    const rate = page.value?.most_a_second ?? 1;
    const since = Math.max(0, elapsed.value - (written.get(one.pupil_id) ?? 0));
    const done = partsOf(one).reps.reduce((sum, each) => sum + plainly(each), 0);
    return more > SPARE_REPS + since * rate || done + more > SPARE_REPS + elapsed.value * rate;
  }

  function save(sure = false) {
    const one = child.value;
    const row = one && rowOf(one);
    const text = typed.value.trim();
    if (!one || !row || !text) {
      cursor.next();
      return;
    }
    const after = read(text, partsOf(one));
    if (typeof after === "string") {
      problem.value = after;
      return;
    }
    const doubt = sure ? "" : doubtOf(one, after, text);
    if (doubt) {
      doubted.value = true;
      problem.value = doubt;
      void focus();
      return;
    }
    written.set(one.pupil_id, elapsed.value);
    test.write(row, 1, asTyped(after) || null, { wave: null });
    cursor.next();
  }
  /** What speaks against an entry that can be read; nothing where it is believable. */
  function doubtOf(one: Child, after: Parts, text: string): string {
    if (called.value !== null && after.carried > called.value && isCarried(text)) {
      return `${called.value} ${carries.value} were called: ${after.carried} is more.`;
    }
    const more = plainly(added(text, apart.value) ?? NONE);
    return more > 0 && isTooMany(one, more)
      ? `${more} since the last time is more than the clock explains.`
      : "";
  }
  /** What an entry makes of a child's parts, or what is wrong with it. */
  function read(text: string, before: Parts): Parts | string {
    const carried = isCarried(text);
    if (carried && !carries.value) {
      return "Nothing is carried in: the plan names no movement for it.";
    }
    if (carried) return { ...before, carried: Number(carried) };
    const more = added(text, apart.value);
    if (!more) {
      const forms = [
        "reps to add",
        "−5 to take five away",
        ...(apart.value ? ["20e/10/5h for easier, usual and harder ones"] : []),
        ...(carries.value ? ["c40 for 40 carried in"] : []),
      ];
      return `Type ${forms.slice(0, -1).join(", ")} or ${forms.at(-1)}.`;
    }
    return (
      withReps(before, movement.value, more) ?? "That would be less than none of this movement."
    );
  }
  /** Those whose count of what was called is not carried in yet. */
  const toCarry = computed(() =>
    children.value.filter((one) => one.offered && !partsOf(one).carried),
  );
  function carryIn() {
    for (const one of toCarry.value) {
      const row = rowOf(one);
      const after = { ...partsOf(one), carried: one.offered ?? 0 };
      if (row) test.write(row, 1, asTyped(after), { wave: null });
    }
    void focus();
  }
  function undo() {
    const place = sheet.takeBack();
    const index = children.value.findIndex((one) => one.pupil_id === place?.pupilId);
    if (index >= 0) cursor.go(index);
    else void focus();
  }
  function onKey(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const from = cursor.rested.value ? children.value.length : cursor.row.value;
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const side = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (event.key === "Enter") save();
    else if (event.key === "!" && doubted.value) save(true);
    else if (event.key === "Escape") clear();
    else if (step) cursor.go(from + step);
    else if (side && !typed.value) {
      movement.value = (movement.value + side + names.value.length) % names.value.length;
    } else return;
    event.preventDefault();
  }
  useUndoKey(undo);

  return {
    ...{ test, query, page, own, movement, typed, problem, doubted, children, names, carries },
    ...{ apart, called, toCarry, carryIn },
    ...{ left, cursor, field, focus, rowOf, partsOf, total, save, undo, onKey },
    idle: computed(() => clock() === null && own.goAt.value === null),
  };
}
