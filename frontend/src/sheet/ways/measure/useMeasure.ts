/** One child after the other at the tape: the standing mark once, then a mark for each try. */
import { t } from "../../../messages/sheet";
import { computed, reactive, ref } from "vue";
import { REPEATED_MS, useTyping } from "../../useTyping";
import type { Form, Wrong } from "../../useEntry";
import type { Cell } from "../../types";
import { useTest, type Activity, type Row } from "../../useTest";

export function useMeasure(activity: () => Activity, standing: () => HTMLElement | null) {
  const test = useTest(activity);
  const { board, rows, sheet } = test;
  const marks = reactive(new Map<string, string>());
  const markProblem = ref("");
  const twoMarks = computed(() => board.value?.kind === "marks");
  const isReason = (text: string) =>
    board.value?.reasons.some((one) => one.key === text.toLowerCase()) ?? false;

  /** The two marks of an entry, as typed: 142 171. */
  function marksOf(cell: Cell): [string, string] | null {
    const found = /^(\S+)\s+(\S+)$/.exec(cell.stands ? cell.typed.trim() : "");
    return found ? [found[1] ?? "", found[2] ?? ""] : null;
  }
  /** The standing mark of a child: typed now, else the one its tries were measured from. */
  function markOf(one: Row): string {
    const before = one.cells.map(marksOf).find(Boolean);
    return marks.get(one.child.pupil_id) ?? before?.[0] ?? "";
  }
  const rowAt = (at: number) => rows.value[at] ?? null;

  const typing = useTyping({
    sheet,
    names: () => rows.value.map((one) => one.child.name),
    columns: (at) => rowAt(at)?.cells.length ?? 1,
    cellAt: (at, column) => rowAt(at)?.cells[column] ?? null,
    find(place) {
      const at = rows.value.findIndex((one) => one.child.pupil_id === place.pupilId);
      return at < 0 ? null : [at, place.slot - 1];
    },
    form: (_column, at): Form | null => {
      const form = test.form.value;
      const one = rowAt(at);
      const mark = one ? markOf(one).trim() : "";
      if (!form || !twoMarks.value) return form;
      return { ...form, whole: (text) => (mark ? `${mark} ${text}` : text) };
    },
    check(at, _column, text): Wrong | null {
      const one = rowAt(at);
      if (!one || !twoMarks.value || isReason(text) || markOf(one).trim()) return null;
      standing()?.focus();
      const accepted = t("typeTheStandingReachInUnit", { unit: board.value?.unit ?? "" });
      return { message: t("measureTheStandingReachFirst"), accepted, sure: false };
    },
    changes(at, column, text) {
      const one = rowAt(at);
      if (!one) return [];
      const jumped = twoMarks.value && !isReason(text);
      const whole = jumped ? `${markOf(one).trim()} ${text}` : text;
      const all = [{ row: one, slot: column + 1, typed: whole }];
      return [...all, ...(jumped ? fromNewMark(one, column + 1) : [])].map(test.change);
    },
    // Only the mark at the top is typed again.
    before: () => (wantsMark.value && !entry.typed.value ? standing() : null),
    turnVariant(at) {
      const one = rowAt(at);
      if (one) test.variants.turn(test.doer(one));
    },
    textOf: (cell) => (twoMarks.value ? (marksOf(cell)?.[1] ?? cell.typed) : cell.typed),
    tookBack: (place) => marks.delete(place.pupilId),
    along: ref(true),
    block: "nearest",
  });
  const { cursor, hold, entry } = typing;
  const row = computed(() => rows.value[cursor.row.value] ?? null);
  const mark = computed({
    get: () => (row.value ? markOf(row.value) : ""),
    set(text) {
      if (row.value) marks.set(row.value.child.pupil_id, text);
      markProblem.value = "";
    },
  });

  const wantsMark = computed(() => twoMarks.value && !mark.value && !cursor.rested.value);
  /** The standing mark is being typed: the pad's keys go there. */
  const atMark = ref(false);
  function onPad(key: string) {
    if (!atMark.value || hold.matter.value || key === "undo") typing.onPad(key);
    else if (isReason(key)) {
      typing.onPad(key);
      void typing.focus();
    } else if (key === "save") keepMark();
    else mark.value = key === "back" ? mark.value.slice(0, -1) : mark.value + key;
  }

  /** The jumps already kept that were measured from another standing mark, from the new one. */
  function fromNewMark(one: Row, except = 0) {
    const now = markOf(one).trim();
    return one.cells.flatMap((cell, at) => {
      const held = marksOf(cell);
      if (!now || !held || held[0] === now || at + 1 === except) return [];
      const more = { why: t("newStandingReach") };
      return [{ row: one, slot: at + 1, typed: `${now} ${held[1]}`, more }];
    });
  }
  /** Keep another standing mark: what was measured from the one before is worked out anew. */
  function keepMark() {
    const one = row.value;
    if (!one) return;
    const again = fromNewMark(one);
    const wrong = again
      .map(({ typed }) => entry.wrongWith(typed.split(" ")[1] ?? ""))
      .find(Boolean);
    markProblem.value = wrong ? `${wrong.message} ${wrong.accepted}` : "";
    if (wrong) return;
    if (again.length) test.writeAll(again);
    // The mark at the top that waited for this one stands in its field still.
    if (hold.matter.value?.kind === "local") {
      hold.forgetLocal();
      entry.problem.value = null;
    }
    typing.wasSaved();
    void typing.focus();
  }
  let wentAt = -Infinity;
  /** Another child; a second press at once was not meant for the one after. */
  function go(index: number, isStep = false) {
    if (isStep && performance.now() - wentAt < REPEATED_MS) return;
    wentAt = performance.now();
    const first = rowAt(index)?.cells.findIndex((one) => !one.stands) ?? 0;
    cursor.go(index, Math.max(0, first));
  }
  function voided(column: number) {
    if (hold.matter.value) return;
    cursor.go(cursor.row.value, column);
    entry.typed.value = "v";
    typing.save();
  }
  return {
    ...{ test, row, twoMarks, mark, markProblem, wantsMark, atMark, go, keepMark, voided },
    ...typing,
    onPad,
  };
}
