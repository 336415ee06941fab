/**
 * Typing into a sheet by keyboard or pad: the cursor, the entry, the keys that mean something, and
 * what holds them. Every way that is typed in is a ground for it.
 */
import { useEventListener } from "@vueuse/core";
import { computed, ref, watch, type Ref } from "vue";
import { useUndoKey } from "../parts/form/useUndoKey";
import { useFrame } from "./frame";
import { useCursor, useField, useFinder } from "./useCursor";
import { useEntry, type Form, type Wrong } from "./useEntry";
import { KEPT, useHold } from "./useHold";
import { keyOf, type Cell, type Change, type Place } from "./types";
import type { Sheet } from "./useSheet";

export interface Ground {
  sheet: Sheet;
  names: () => string[];
  columns: (row: number) => number;
  cellAt: (row: number, column: number) => Cell | null;
  /** Row and column of a place. */
  find: (place: Place) => [number, number] | null;
  /** How the cell under the cursor is typed. */
  form: (column: number, row: number) => Form | null;
  /** What an entry changes: its own cell first, and what goes with it. */
  changes: (row: number, column: number, typed: string) => Change[];
  /** What speaks against an entry beside the rules of its form. */
  check?: (row: number, column: number, typed: string) => Wrong | null;
  /** Whether the typing comes to a cell by itself; without it, to those in which nothing stands. */
  isEmpty?: (row: number, column: number) => boolean;
  kept?: (row: number, column: number) => void;
  tookBack?: (place: Place) => void;
  /** What an open entry is corrected from; without it, what was typed. */
  textOf?: (cell: Cell) => string;
  /** What is to be filled in before the cell, as long as it is empty. */
  before?: () => HTMLElement | null;
  /** Left (−1) and right (1), where a row has one column. */
  turnAside?: (step: -1 | 1) => void;
  turnVariant?: (row: number, column: number) => void;
  turnWave?: (row: number) => void;
  along: Ref<boolean>;
  /** Where on the screen the cell that is typed in comes to stand. */
  block?: ScrollLogicalPosition;
}
/** A second press of Enter, Save or Next within this was not meant for the next child. */
export const REPEATED_MS = 400;

export function useTyping(ground: Ground) {
  const { sheet, along } = ground;
  const { drawer, early, turning } = useFrame();
  const isEmpty =
    ground.isEmpty ??
    ((row: number, column: number) => ground.cellAt(row, column)?.state === "empty");
  const cursor = useCursor({
    rows: () => ground.names().length,
    columns: ground.columns,
    isEmpty,
    along,
  });
  const { field, focus, focusNow } = useField(
    cursor,
    ground.block,
    ground.before,
    () => hold.correcting.value !== null,
  );
  const cell = computed(() =>
    cursor.rested.value ? null : ground.cellAt(cursor.row.value, cursor.column.value),
  );
  const entry = useEntry(() =>
    cell.value ? ground.form(cursor.column.value, cursor.row.value) : null,
  );
  const finder = useFinder(ground.names);
  const hold = useHold(sheet);
  const { matter } = hold;

  /** Where the typing was when it was called away to put something right. */
  let back: { row: number; column: number; rested: boolean } | null = null;
  /** Where the typing is, if it does not find its place again by what is empty. */
  function place() {
    if (!ground.isEmpty) return null;
    return { row: cursor.row.value, column: cursor.column.value, rested: cursor.rested.value };
  }
  /** On to where the typing was called away from, else to the next. */
  function goOn() {
    const to = back;
    if (!to) cursor.next();
    else if (to.rested) cursor.rest();
    else {
      cursor.go(to.row, to.column);
      // Somebody else may have filled it.
      if (!isEmpty(to.row, to.column)) cursor.next();
    }
  }

  // A sheet opens at its first empty cell, once it is there.
  const placed = ref(false);
  watch(
    () => ground.names().length,
    (length) => {
      if (!length || placed.value) return;
      placed.value = true;
      cursor.first();
    },
    { immediate: true },
  );
  // Wherever the cursor comes to, nothing is typed yet; an open entry is there to be put right.
  watch(
    cursor.moves,
    () => {
      const here = cell.value && keyOf(cell.value.place);
      if (hold.correcting.value && hold.correcting.value !== here) leave();
      const text = (one: Cell) => ground.textOf?.(one) ?? one.typed;
      entry.clear(cell.value && hold.correcting.value === here ? text(cell.value) : "");
      back = null;
    },
    { flush: "sync" },
  );
  // What comes while the next child is typed holds that: it is shown, and kept for nobody.
  watch(
    () => matter.value?.id,
    () => {
      const now = matter.value;
      if (!now || now.kind === "local" || !entry.typed.value) return;
      hold.hold(entry.typed.value);
      entry.clear();
    },
    { flush: "sync" },
  );
  /** The cell that was to be corrected was left: it stays open. */
  function leave() {
    const at = hold.correcting.value;
    for (const { job, place } of sheet.refused.value) if (keyOf(place) === at) hold.putOff(job.id);
    for (const one of sheet.questions.value) {
      if (keyOf(one.place) === at) hold.putOff(one.entryId);
    }
    hold.correcting.value = null;
  }

  function goTo(place: Place) {
    const found = ground.find(place);
    if (found) cursor.go(...found);
  }
  let lastSaved = -Infinity;
  /** Keep what is typed and go on; with nothing typed, go on. */
  function save(sure = false) {
    const text = entry.text.value;
    const again = performance.now() - lastSaved < REPEATED_MS;
    if (!text) {
      if (again) return;
      lastSaved = performance.now();
      cursor.next();
      return;
    }
    lastSaved = performance.now();
    const here = cell.value;
    if (!here) return;
    const { row, column } = cursor;
    const fault = ground.check?.(row.value, column.value, text) ?? entry.wrongWith(text);
    if (fault && !(sure && fault.sure)) {
      entry.problem.value = fault;
      hold.refuse({ place: here.place, typed: text, ...fault });
      return;
    }
    const all = ground.changes(row.value, column.value, text);
    // What is kept is no longer being typed, before anything else can ask.
    entry.clear();
    sheet.write(all);
    hold.forgetLocal();
    hold.correcting.value = null;
    ground.kept?.(row.value, column.value);
    goOn();
  }
  function takeBack() {
    hold.forgetLocal();
    const place = sheet.takeBack();
    if (place) ground.tookBack?.(place);
    if (place) goTo(place);
    else void focus();
  }
  useUndoKey(takeBack);

  /** Type what was held, as it was typed: each entry goes to where the cursor is by then. */
  function giveHeld() {
    give(hold.takeHeld());
  }
  function give(keys: string[]) {
    while (keys.length && !matter.value) {
      const key = keys.shift() ?? "";
      if (key !== KEPT) entry.typed.value += key;
      else {
        lastSaved = -Infinity;
        save();
      }
    }
    // Something is asked again: the rest waits for that.
    hold.hold(keys.join(""));
    void focus();
  }
  // What was typed before the sheet was there means what it would have meant in it.
  watch(
    [placed, turning, early],
    () => {
      if (!placed.value || turning.value || !early.value) return;
      const keys = early.value.split("");
      early.value = "";
      give(keys);
    },
    { immediate: true },
  );
  /** To the cell that is asked about, to be typed again. */
  function correct() {
    const now = matter.value;
    if (!now?.place) return;
    const text = now.kind === "local" ? now.local.typed : "";
    const here = cell.value && keyOf(cell.value.place) === keyOf(now.place);
    const from = here ? back : place();
    hold.correcting.value = keyOf(now.place);
    hold.forgetLocal();
    goTo(now.place);
    back = from;
    if (text) entry.clear(text);
    void focus();
  }
  /** Leave it open at its cell and go on; what was typed meanwhile goes to the next. */
  function later() {
    leaveIt();
    giveHeld();
  }
  function leaveIt() {
    const now = matter.value;
    if (!now) return;
    if (now.kind === "local") {
      const { place, typed, message, accepted } = now.local;
      hold.forgetLocal();
      entry.clear();
      const variant = ground.cellAt(cursor.row.value, cursor.column.value)?.variant ?? "";
      hold.putOff(sheet.leaveOpen(place, { typed, variant }, { message, accepted }));
      goOn();
    } else hold.postpone();
  }
  /** It is right as it is. */
  function right() {
    const now = matter.value;
    if (now?.kind === "local" && now.local.sure) save(true);
    else if (!hold.right()) return;
    giveHeld();
  }
  /** What was held is what was meant for the child that is asked about. */
  function giveHere() {
    if (!matter.value?.place || !hold.held.value.length) return;
    const keys = hold.takeHeld();
    correct();
    entry.clear();
    hold.hold(keys.join(""));
    giveHeld();
  }
  /** What was decided at the message line: another reading, another device's, or nothing. */
  function decide(change: { typed?: string; over?: boolean } | null) {
    const now = matter.value;
    hold.decide(change);
    if (now?.kind === "aside") hold.takeHeld();
    giveHeld();
  }

  function pick(index: number | undefined) {
    finder.letters.value = null;
    if (index !== undefined) cursor.go(index);
    else void focus();
  }
  /** A cell was pressed: the cursor goes there, and the typing with it. */
  function press(row: number, column: number, event: Event) {
    const now = matter.value;
    const place = ground.cellAt(row, column)?.place;
    if (now?.place && place && keyOf(place) === keyOf(now.place)) {
      correct();
      return;
    }
    leaveIt();
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
  /** A key while something wants an answer. Returns whether it was one of ours. */
  function onHeldKey(key: string): boolean {
    if (key === "Enter") {
      if (hold.enter()) correct();
    } else if (key === "Backspace") {
      if (hold.backspace()) correct();
    } else if (key === "<") correct();
    else if (key === "Escape" && matter.value?.kind === "local") correct();
    else if (key === ">" || key === "Escape") later();
    else if (key === "!") right();
    else if (key === "=") giveHere();
    else if (key.length === 1) hold.hold(key);
    else return key.startsWith("Arrow") || key.startsWith("Page");
    return true;
  }
  function onKey(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const { key } = event;
    if (matter.value) {
      if (onHeldKey(key)) event.preventDefault();
      return;
    }
    const to = arrow(key);
    const aside = entry.typed.value ? undefined : { ArrowRight: 1, ArrowLeft: -1 }[key];
    if (to) cursor.go(...to);
    else if (aside && ground.turnAside) ground.turnAside(aside as -1 | 1);
    else if (key === "Enter") save();
    else if (key === "Escape") entry.clear();
    // What was begun takes all that is typed: "24?" is not an exact 24 and a look at the keys.
    else if (entry.typed.value) return;
    else if (key === "?") drawer.value = drawer.value === "keys" ? null : "keys";
    else if (key === "*") ground.turnVariant?.(cursor.row.value, cursor.column.value);
    else if (key === "#") ground.turnWave?.(cursor.row.value);
    else if (key === "/") finder.letters.value = "";
    else return;
    event.preventDefault();
  }
  function onPad(key: string) {
    if (key === "undo") takeBack();
    else if (matter.value) onHeldKey({ save: "Enter", back: "Backspace" }[key] ?? key);
    else if (key === "save") save();
    else if (key === "back") entry.typed.value = entry.typed.value.slice(0, -1);
    else if (key === "variant") ground.turnVariant?.(cursor.row.value, cursor.column.value);
    else if (key === "wave") ground.turnWave?.(cursor.row.value);
    else if (
      ground.form(cursor.column.value, cursor.row.value)?.reasons.some((one) => one.key === key)
    ) {
      entry.typed.value = key;
    } else entry.typed.value += key;
  }
  /** The whole of an entry by one press of the pad. */
  function onPadText(text: string) {
    if (matter.value) {
      hold.takeHeld();
      hold.hold(text);
    } else entry.typed.value = text;
  }
  // A digit goes to the cell wherever the keyboard was left: no button takes the typing away.
  useEventListener(window, "keydown", (event) => {
    const target = event.target as HTMLElement;
    if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
    if (!/^\d$/.test(event.key) || target.closest(TYPED_IN)) return;
    if (matter.value) {
      hold.hold(event.key);
      event.preventDefault();
    } else focusNow();
  });

  return {
    ...{ along, cursor, field, focus, cell, entry, finder, hold },
    ...{ press, goTo, save, takeBack, pick, onKey, onPad, onPadText },
    ...{ correct, later, right, giveHere, decide },
    /** Something beside the cells was kept by Enter or Save: the next press at once does nothing. */
    wasSaved: () => (lastSaved = performance.now()),
    /** To whom goes what is held, where it goes on. */
    nextName(): string {
      if (cursor.rested.value) return "";
      const isLocal = matter.value?.kind === "local";
      const at = isLocal ? cursor.following()?.[0] : cursor.row.value;
      return at === undefined ? "" : (ground.names()[at] ?? "");
    },
  };
}
const TYPED_IN = "input,select,textarea,[data-cell],.v-overlay";
export type Typing = ReturnType<typeof useTyping>;
