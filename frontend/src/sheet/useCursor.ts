/**
 * Where the typing goes: a row and a column, or nowhere once all are in. It never rests on a score
 * that is kept: after the last it stands beside the sheet.
 */
import { computed, nextTick, ref, watch, type Ref } from "vue";
import { isAimed } from "../parts/form/focus";

/** Of `useCursor`: what it goes over. */
export interface Cells {
  /** How many rows there are, and how many columns a row has. */
  rows(): number;
  columns(row: number): number;
  isEmpty(row: number, column: number): boolean;
  /** Along a row first, or down a column. */
  along: Ref<boolean>;
}

export function useCursor(ground: Cells) {
  const row = ref(0);
  const column = ref(0);
  /** All in: what is typed goes nowhere. */
  const rested = ref(false);
  /** Grows with every move, so that a screen can bring the cell into view. */
  const moves = ref(0);

  function go(toRow: number, toColumn = column.value) {
    row.value = Math.min(ground.rows() - 1, Math.max(0, toRow));
    column.value = Math.min(ground.columns(row.value) - 1, Math.max(0, toColumn));
    rested.value = false;
    moves.value += 1;
  }
  /** All cells in the order in which they are filled. */
  function* cells(): Generator<[number, number]> {
    const rows = ground.rows();
    if (ground.along.value) {
      for (let r = 0; r < rows; r += 1) {
        for (let c = 0; c < ground.columns(r); c += 1) yield [r, c];
      }
      return;
    }
    let most = 0;
    for (let r = 0; r < rows; r += 1) most = Math.max(most, ground.columns(r));
    for (let c = 0; c < most; c += 1) {
      for (let r = 0; r < rows; r += 1) if (c < ground.columns(r)) yield [r, c];
    }
  }
  function rest() {
    rested.value = true;
    moves.value += 1;
  }
  /** The first empty cell, or rest. */
  function first() {
    for (const [r, c] of cells()) {
      if (ground.isEmpty(r, c)) {
        go(r, c);
        return;
      }
    }
    rest();
  }
  /** The next empty cell after this one; none after the last. */
  function following(): [number, number] | null {
    let passed = false;
    for (const [r, c] of cells()) {
      if (passed && ground.isEmpty(r, c)) return [r, c];
      passed ||= r === row.value && c === column.value;
    }
    return null;
  }
  /** On to the next empty cell; after the last of them rest, whatever is missing before. */
  function next() {
    const to = following();
    if (to) go(...to);
    else rest();
  }
  return { row, column, rested, moves, go, first, following, next, rest };
}
export type Cursor = ReturnType<typeof useCursor>;

/**
 * Keeps what is under the cursor in focus and in view, whatever was pressed beside it: its field
 * says by `:ref="field"` that it is there, and so does what stands for "all in".
 */
export function useField(
  cursor: Cursor,
  block: ScrollLogicalPosition = "nearest",
  /** What is to be filled in before the cell, as long as it is empty. */
  before: () => HTMLElement | null = () => null,
  /** Whether what stands in the field is to be typed anew. */
  anew: () => boolean = () => true,
) {
  let there: HTMLElement | null = null;
  function focusNow() {
    (before() ?? there)?.focus({ preventScroll: true });
  }
  /** The field is not there yet: it takes the typing when it comes. */
  let wanted = false;
  async function focus() {
    await nextTick();
    wanted = !there?.isConnected;
    focusNow();
    if (there instanceof HTMLInputElement && there.value && anew()) there.select();
    there?.scrollIntoView({ block, inline: "nearest", behavior: "auto" });
  }
  // Where the cursor comes to by itself, as a sheet arrives, it robs no control of its Enter.
  watch(cursor.moves, (_now, before) => {
    if (before > 0 || !isAimed()) void focus();
  });
  const field = (element: unknown) => {
    if (!(element instanceof HTMLElement)) return;
    there = element;
    if (wanted) void focus();
  };
  return {
    field,
    focus,
    /** At once, so that the key that is being pressed goes there too. */
    focusNow,
  };
}

/** Children whose name, or a part of it, begins with the letters. */
export function useFinder(names: () => string[]) {
  const letters = ref<string | null>(null);
  const matches = computed(() => {
    const begin = (letters.value ?? "").trim().toLowerCase();
    if (!begin) return [];
    return names()
      .map((name, index) => ({ name, index }))
      .filter(({ name }) =>
        name
          .toLowerCase()
          .split(/[\s-]+/)
          .some((part) => part.startsWith(begin)),
      )
      .slice(0, 6);
  });
  return { letters, matches };
}
