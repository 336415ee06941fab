/**
 * Typing into a sheet by keyboard or pad: the cursor, the entry, the keys that mean something. The
 * list, the grid and the pulses are grounds for it.
 */
import { computed, ref, watch, type Ref } from "vue";
import { useUndoKey } from "../parts/useUndoKey";
import { useCursor, useField, useFinder } from "./useCursor";
import { useEntry, type Form } from "./useEntry";
import type { Cell, Place, Question } from "./types";
import type { Sheet } from "./useSheet";

export interface Ground {
  sheet: Sheet;
  names(): string[];
  columns(row: number): number;
  cellAt(row: number, column: number): Cell | null;
  /** Row and column of a place. */
  find(place: Place): [number, number] | null;
  /** How the column under the cursor is typed. */
  form(column: number): Form | null;
  write(row: number, column: number, typed: string): void;
  turnVariant?(row: number, column: number): void;
  turnWave?(row: number): void;
  along: Ref<boolean>;
  /** Where on the screen the cell that is typed in comes to stand. */
  block?: ScrollLogicalPosition;
}

export function useTyping(ground: Ground) {
  const { sheet, along } = ground;
  const keysShown = ref(false);
  const cursor = useCursor({
    rows: () => ground.names().length,
    columns: ground.columns,
    isEmpty: (row, column) => ground.cellAt(row, column)?.state === "empty",
    along,
  });
  const { field, focus } = useField(cursor, ground.block);
  const cell = computed(() =>
    cursor.rested.value ? null : ground.cellAt(cursor.row.value, cursor.column.value),
  );
  const entry = useEntry(
    () => (cell.value ? ground.form(cursor.column.value) : null),
    (typed) => {
      ground.write(cursor.row.value, cursor.column.value, typed);
      cursor.next();
    },
  );
  const finder = useFinder(ground.names);

  // A sheet opens at its first empty cell, once it is there.
  let placed = false;
  watch(
    () => ground.names().length,
    (length) => {
      if (length && !placed) cursor.first();
      placed ||= length > 0;
    },
    { immediate: true },
  );
  // Wherever the cursor comes to, nothing is typed yet; a refused entry is there to be put right.
  watch(
    cursor.moves,
    () => entry.clear(cell.value?.refusal?.status === 422 ? cell.value.typed : ""),
    { flush: "sync" },
  );
  /** What the rules refuse comes back to the cursor, unless the next child is being typed already. */
  watch(
    () => sheet.refused.value.at(-1),
    (last, before) => {
      if (!last || last.job.id === before?.job.id || entry.typed.value) return;
      if (last.refusal.status === 422) goTo(last.place);
    },
  );

  function goTo(place: Place) {
    const found = ground.find(place);
    if (found) cursor.go(...found);
  }
  /** Keep what is typed and go on; with nothing typed, go on. */
  function save() {
    if (!entry.typed.value.trim()) cursor.next();
    else entry.save();
  }
  function takeBack() {
    const place = sheet.takeBack();
    if (place) goTo(place);
    else void focus();
  }
  useUndoKey(takeBack);

  const lastAsked = computed<Question | null>(() => sheet.questions.value.at(-1) ?? null);
  function correct(question: Question) {
    sheet.unask(question);
    goTo(question.place);
  }
  function pick(index: number | undefined) {
    finder.letters.value = null;
    if (index !== undefined) cursor.go(index);
    else void focus();
  }

  /** A cell was pressed: the cursor goes there, and the typing with it. */
  function press(row: number, column: number, event: Event) {
    const here = !cursor.rested.value && row === cursor.row.value && column === cursor.column.value;
    if (!here) cursor.go(row, column);
    else if (!(event.target instanceof HTMLInputElement)) void focus();
  }

  /** Where an arrow leads; null for other keys. */
  function arrow(key: string): [number, number] | null {
    const { row, column, rested } = cursor;
    const from = rested.value ? ground.names().length : row.value;
    const down = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 }[key];
    if (down) return [from + down, column.value];
    if (entry.typed.value) return null;
    const side = { ArrowRight: 1, ArrowLeft: -1 }[key];
    if (side && ground.columns(row.value) > 1) return [row.value, column.value + side];
    if (key === "Home") return [0, column.value];
    return key === "End" ? [ground.names().length - 1, column.value] : null;
  }
  function onKey(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const { key } = event;
    const to = arrow(key);
    const asked = lastAsked.value;
    if (to) cursor.go(...to);
    else if (key === "Enter") save();
    else if (key === "Escape") entry.clear();
    // What was begun takes all that is typed: "24?" is not an exact 24 and a look at the keys.
    else if (entry.typed.value) return;
    else if (key === "?") keysShown.value = !keysShown.value;
    else if (key === "*") ground.turnVariant?.(cursor.row.value, cursor.column.value);
    else if (key === "#") ground.turnWave?.(cursor.row.value);
    else if (key === "!" && asked) sheet.settle(asked);
    else if (key === "<" && asked) correct(asked);
    else if (key === "/") finder.letters.value = "";
    else return;
    event.preventDefault();
  }
  function onPad(key: string) {
    const { typed } = entry;
    if (key === "save") save();
    else if (key === "undo") takeBack();
    else if (key === "back") typed.value = typed.value.slice(0, -1);
    else if (key === "variant") ground.turnVariant?.(cursor.row.value, cursor.column.value);
    else if (key === "wave") ground.turnWave?.(cursor.row.value);
    else if (ground.form(cursor.column.value)?.reasons.some((one) => one.key === key)) {
      typed.value = key;
    } else typed.value += key;
  }

  return {
    ...{ along, keysShown, cursor, field, focus, cell, entry, finder, lastAsked },
    ...{ press, goTo, save, takeBack, correct, pick, onKey, onPad },
  };
}
export type Typing = ReturnType<typeof useTyping>;
