/**
 * A rep target while it is on: what a child has done of a movement since the last time adds up; the
 * warm-up's reps are carried in once.
 */
import { t } from "../../../messages/sheet";
import { useQuery } from "@tanstack/vue-query";
import { useDebounceFn, useIntervalFn } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { unlessTold } from "../../../sync/live";
import { answer, client, type Schemas } from "../../../api/client";
import { now } from "../../../parts/time/timeSource";
import type { Form } from "../../useEntry";
import { useOwnRun } from "../../useRun";
import { useTest, type Activity } from "../../useTest";
import { useTyping } from "../../useTyping";
import type { HallClock } from "../../types";
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
/** Reps are read here: what they are added to is. */
const FORM: Form = {
  activityId: null,
  quick: { pattern: ".*", lowest: null, highest: null },
  reasons: [],
  accepted: "",
  counts: null,
};
/** Counting and writing down take their time: so many reps more than the clock explains are fine. */
const SPARE_REPS = 60;

/** @param elapsed seconds since the go began */
export const targetPage = (activityId: string, elapsed: () => number) => ({
  queryKey: ["target", activityId],
  queryFn: () =>
    answer(
      client.GET("/api/activities/{activity_id}/target", {
        params: { path: { activity_id: activityId }, query: { elapsed: elapsed() } },
      }),
    ),
});

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
    ...targetPage(id, () => elapsed.value),
    // Also while an entry waits: it holds up nobody but its child.
    refetchInterval: () => unlessTold(5_000),
  });
  const page = query.data;
  const refresh = useDebounceFn(() => query.refetch(), 400);
  watch(sheet.sync.waiting, () => void refresh());

  const movement = ref(0);
  /** When a child's reps were last written down, in elapsed seconds. */
  const written = new Map<string, number>();

  const children = computed(() => page.value?.children ?? []);
  const names = computed(() => page.value?.names ?? []);
  const carries = computed(() => page.value?.carries ?? "");
  const apart = computed(() => page.value?.apart ?? false);
  const called = computed(() => page.value?.called ?? null);
  const left = computed(() => Math.max(0, (page.value?.seconds ?? 0) - elapsed.value));
  const rowOf = (one: Child) => rows.value.find((row) => row.child.pupil_id === one.pupil_id);
  /** What counts for a child: its entry on the way, else the one that was acknowledged last. The
   * page of sums comes a moment later: reps are never added to it, nor to what was not taken. */
  function partsOf(one: Child): Parts {
    const typed = sheet.counted(test.place(one.pupil_id, 1));
    const found = parts(reasonOf(typed) ? "" : typed);
    // What a rep counts stays as it was when the first was kept.
    return found.reps.length ? found : { ...found, weights: page.value?.weights };
  }
  function cellOf(at: number) {
    const one = children.value[at];
    return (one && rowOf(one)?.cells[0]) ?? null;
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

  const typing = useTyping({
    sheet,
    names: () => children.value.map((one) => one.name),
    columns: () => 1,
    cellAt: (at) => cellOf(at),
    find(place) {
      const at = children.value.findIndex((one) => one.pupil_id === place.pupilId);
      return at < 0 ? null : [at, 0];
    },
    form: () => ({ ...FORM, reasons: test.board.value?.reasons ?? [], words: wordsOf }),
    isEmpty: () => true, // reps are added to whatever stands
    check(at, _column, text) {
      const one = children.value[at];
      if (!one) return null;
      const why = reasonOf(text);
      if (why) {
        const message = t("childHasRepsAlreadyUndoThem", { child: one.name });
        return total(one) ? { message, accepted: "", sure: false } : null;
      }
      const after = read(text, partsOf(one));
      if (typeof after === "string") return { message: after, accepted: "", sure: false };
      const doubt = doubtOf(one, after, text);
      return doubt ? { message: doubt, accepted: "", sure: true } : null;
    },
    changes(at, _column, text) {
      const one = children.value[at];
      const row = one && rowOf(one);
      const why = reasonOf(text);
      if (row && why) return [test.change({ row, slot: 1, typed: why.key, more: { wave: null } })];
      const after = one && read(text, partsOf(one));
      if (!row || !after || typeof after === "string") return [];
      return [test.change({ row, slot: 1, typed: asTyped(after) || null, more: { wave: null } })];
    },
    kept(at) {
      const one = children.value[at];
      if (one) written.set(one.pupil_id, elapsed.value);
    },
    // Reps are added anew, to what was kept before the entry that was not taken.
    textOf: () => "",
    turnAside(step) {
      movement.value = (movement.value + step + names.value.length) % names.value.length;
    },
    along: ref(false),
  });
  const { cursor, focus } = typing;
  const child = computed(() =>
    cursor.rested.value ? null : (children.value[cursor.row.value] ?? null),
  );
  /** Why a child has no reps, where that was typed. */
  function reasonOf(text: string) {
    const typed = text.trim().toLowerCase();
    return test.board.value?.reasons.find(({ key, words }) => typed === key || typed === words);
  }
  /** What stands as a child's total: a number, a reason, or nothing yet. */
  function shownOf(one: Child): string {
    const cell = rowOf(one)?.cells[0];
    if (!cell?.stands) return "–";
    return reasonOf(cell.typed)?.words ?? String(total(one));
  }
  /** What the child has by what is typed. */
  function wordsOf(text: string): string {
    const why = reasonOf(text);
    if (why) return why.words;
    const after = child.value ? read(text, partsOf(child.value)) : "";
    return typeof after === "string" ? "" : t("nInTotal", { n: totalOf(after) });
  }
  /** What speaks against an entry that can be read; nothing where it is believable. */
  function doubtOf(one: Child, after: Parts, text: string): string {
    if (called.value !== null && after.carried > called.value && isCarried(text)) {
      return t("calledMovementWereCalledNIs", {
        called: called.value,
        movement: carries.value,
        n: after.carried,
      });
    }
    const more = plainly(added(text, apart.value) ?? NONE);
    return more > 0 && isTooMany(one, more)
      ? t("movementSinceLastTimeIsMore", { movement: more })
      : "";
  }
  /** What an entry makes of a child's parts, or what is wrong with it. */
  function read(text: string, before: Parts): Parts | string {
    const carried = isCarried(text);
    if (carried && !carries.value) {
      return t("nothingCanBeCarriedInThe");
    }
    if (carried) return { ...before, carried: Number(carried) };
    const more = added(text, apart.value);
    if (!more) {
      const forms = [
        t("repsToAdd"),
        t("n5ToRemoveFive"),
        ...(apart.value ? [t("n20e105hForEasierUsual")] : []),
        ...(carries.value ? [t("c40For40CarriedIn")] : []),
      ];
      return t("typeFormsOrLast", { forms: forms.slice(0, -1).join(", "), last: forms.at(-1) });
    }
    return withReps(before, movement.value, more) ?? t("thatWouldBeLessThanZero");
  }
  /** Those whose count of what was called is not carried in yet. */
  const toCarry = computed(() =>
    children.value.filter((one) => one.offered && !partsOf(one).carried),
  );
  function carryIn() {
    for (const one of toCarry.value) {
      const row = rowOf(one);
      const before = partsOf(one);
      const guess = before.guess || one.offered_about;
      const after = { ...before, carried: one.offered ?? 0, ...(guess && { guess: true }) };
      if (row) test.write(row, 1, asTyped(after), { wave: null });
    }
    void focus();
  }
  return {
    ...{ test, query, page, own, movement, children, names, carries },
    ...{ apart, called, toCarry, carryIn, child },
    ...{ left, rowOf, partsOf, shownOf },
    ...typing,
    idle: computed(() => clock() === null && own.goAt.value === null),
  };
}
