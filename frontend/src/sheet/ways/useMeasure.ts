/** One child after the other at the tape: the standing mark once, then a mark for each try. */
import { computed, nextTick, reactive, ref, watch } from "vue";
import { useUndoKey } from "../../parts/useUndoKey";
import { quickProblem } from "../check";
import type { Cell } from "../types";
import { useTest, type Activity } from "../useTest";

export function useMeasure(
  activity: () => Activity,
  focus: { standing(): void; tryField(slot: number): void },
) {
  const test = useTest(activity);
  const { board, rows, sheet } = test;
  const active = ref(0);
  const marks = reactive(new Map<string, string>());
  const typed = ref<Record<number, string>>({});
  const problem = ref("");

  const row = computed(() => rows.value[active.value] ?? null);
  const twoMarks = computed(() => board.value?.kind === "marks");
  const isReason = (text: string) =>
    board.value?.reasons.some((one) => one.key === text.toLowerCase()) ?? false;

  /** The two marks of an entry, as typed: 142 171. */
  function marksOf(cell: Cell): [string, string] | null {
    const found = /^(\S+)\s+(\S+)$/.exec(cell.stands ? cell.typed.trim() : "");
    return found ? [found[1] ?? "", found[2] ?? ""] : null;
  }
  /** The standing mark of a child: typed now, else the one its tries were measured from. */
  const mark = computed({
    get() {
      const one = row.value;
      if (!one) return "";
      const before = one.cells.map(marksOf).find(Boolean);
      return marks.get(one.child.pupil_id) ?? before?.[0] ?? "";
    },
    set(text) {
      if (row.value) marks.set(row.value.child.pupil_id, text);
    },
  });

  let placed = false;
  watch(
    () => rows.value.length,
    (length) => {
      if (!length || placed) return;
      placed = true;
      go(
        Math.max(
          0,
          rows.value.findIndex((one) => one.empty),
        ),
      );
    },
    { immediate: true },
  );
  function go(index: number) {
    active.value = Math.min(rows.value.length - 1, Math.max(0, index));
    typed.value = {};
    problem.value = "";
    void nextTick(() => {
      const first = row.value?.cells.findIndex((one) => !one.stands) ?? 0;
      if (twoMarks.value && !mark.value) focus.standing();
      else focus.tryField(first < 0 ? 1 : first + 1);
    });
  }
  /** What is wrong with an entry, if anything can be told here. */
  function wrong(text: string): string {
    if (!board.value) return "";
    const keys = board.value.reasons.map((one) => one.key);
    const said = quickProblem(text, board.value.quick_check, keys);
    return said ? `${said} ${board.value.accepted}` : "";
  }
  function save(slot: number, text = typed.value[slot] ?? "") {
    const entry = text.trim();
    if (!row.value || !board.value) return;
    if (!entry) {
      onwards(slot);
      return;
    }
    if (twoMarks.value && !isReason(entry) && !mark.value.trim()) {
      problem.value = "Measure the standing mark first.";
      focus.standing();
      return;
    }
    const jumped = twoMarks.value && !isReason(entry);
    const whole = jumped ? `${mark.value.trim()} ${entry}` : entry;
    const all = [{ row: row.value, slot, typed: whole }, ...(jumped ? fromNewMark(slot) : [])];
    problem.value = all.map((one) => wrong(one.typed)).find(Boolean) ?? "";
    if (problem.value) return;
    test.writeAll(all);
    typed.value = { ...typed.value, [slot]: "" };
    onwards(slot);
  }
  /** The jumps already kept that were measured from another standing mark, from the new one. */
  function fromNewMark(except = 0) {
    const one = row.value;
    const now = mark.value.trim();
    return (one?.cells ?? []).flatMap((cell, at) => {
      const held = marksOf(cell);
      if (!one || !now || !held || held[0] === now || at + 1 === except) return [];
      const more = { why: "another standing mark" };
      return [{ row: one, slot: at + 1, typed: `${now} ${held[1]}`, more }];
    });
  }
  /** Keep another standing mark: what was measured from the one before is worked out anew. */
  function keepMark() {
    const again = fromNewMark();
    problem.value = again.map((one) => wrong(one.typed)).find(Boolean) ?? "";
    if (problem.value) return;
    if (again.length) test.writeAll(again);
    const empty = row.value?.cells.findIndex((cell) => !cell.stands) ?? 0;
    focus.tryField(Math.max(0, empty) + 1);
  }
  /** To the next try of this child, or to the next child after the last. */
  function onwards(slot: number) {
    const tries = row.value?.cells.length ?? 1;
    if (slot < tries) focus.tryField(slot + 1);
    else if (active.value < rows.value.length - 1) go(active.value + 1);
  }
  function undo() {
    const place = sheet.takeBack();
    if (!place) return;
    marks.delete(place.pupilId);
    go(rows.value.findIndex((one) => one.child.pupil_id === place.pupilId));
  }
  useUndoKey(undo);

  return { test, active, row, twoMarks, mark, typed, problem, go, save, keepMark, undo };
}
