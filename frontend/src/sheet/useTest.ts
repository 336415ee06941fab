/** One test of a lesson as a sheet: a row a child, a cell a try. What most ways stand on. */
import { computed, reactive } from "vue";
import type { Schemas } from "../api/client";
import { shownOf, useLanes } from "./sources/lanes";
import type { Form } from "./useEntry";
import { isIn, isSame, type Board, type Cell, type Child, type Conditions } from "./types";
import type { Change, Entry, Place, State } from "./types";
import { openRunOf } from "./useRun";
import { useSheet } from "./useSheet";
import { useVariants } from "./useVariants";

export type Activity = Schemas["ActivityPage"];

export interface Row {
  child: Child;
  cells: Cell[];
  /** The worst state of its tries, so that nothing unsent looks done. */
  state: State;
  /** What to show as the score: typed text on its way, or the score that counts. */
  shown: string;
  variant: string;
  wave: number;
  empty: boolean;
}
/** One of the entries that a press keeps; null takes back what is there. */
export interface Written {
  row: Row;
  slot: number;
  typed: string | null;
  more?: Partial<Entry>;
}
const WORST: State[] = ["refused", "waiting", "saving", "saved", "empty"];

export function useTest(activity: () => Activity) {
  const id = activity().id;
  const { query, board, source } = useLanes(id, () => openRunOf(id, activity().runs));
  const sheet = useSheet(source);
  const variants = useVariants(() => board.value?.variants ?? []);
  const waves = reactive(new Map<string, number>());
  const own = reactive(new Map<string, Conditions>());
  /** Goes that were asked for beside the test's own tries. */
  const goes = reactive(new Map<string, number>());

  const place = (pupilId: string, slot: number): Place => ({ pupilId, at: id, slot });
  /** A row that says the same as before is the same: it is not drawn anew. */
  const rows = computed<Row[]>((before) => {
    const known = new Map(before?.map((row) => [row.child.pupil_id, row]));
    return (board.value?.children ?? []).map((child) => {
      const row = rowOf(child);
      const was = known.get(child.pupil_id);
      return was && isSame(was, row) ? was : row;
    });
  });

  function rowOf(child: Child): Row {
    const pupilId = child.pupil_id;
    const tries = Math.max(child.tries.length, goes.get(pupilId) ?? 0);
    const cells = Array.from({ length: tries }, (_, at) => sheet.cell(place(pupilId, at + 1)));
    const state = WORST.find((one) => cells.some((cell) => cell.state === one)) ?? "empty";
    const moving = cells.findLast((cell) => cell.job);
    const empty = !cells.some(isIn);
    const doer = { pupilId, at: id, variant: moving?.variant || child.variant, empty };
    return {
      child,
      cells,
      state,
      shown: cells.length === 1 ? (cells[0]?.shown ?? "") : child.score ? shownOf(child.score) : "",
      variant: variants.of(doer),
      wave: waves.get(pupilId) ?? child.wave,
      empty,
    };
  }
  const doer = (row: Row) => ({
    pupilId: row.child.pupil_id,
    at: id,
    variant: row.variant,
    empty: row.empty,
  });

  function entry(row: Row, slot: number, typed: string, more: Partial<Entry> = {}): Entry {
    const { pupil_id, tries } = row.child;
    // A correction keeps the conditions the score was made under.
    const made = tries.find((one) => one.number === slot)?.score?.conditions;
    const conditions = own.get(pupil_id) ?? made ?? {};
    return { typed, variant: row.variant, wave: row.wave, conditions, ...more };
  }
  /** Keep an entry of a child; null takes its entry back. */
  function write(row: Row, slot: number, typed: string | null, more: Partial<Entry> = {}) {
    writeAll([{ row, slot, typed, more }]);
  }
  function writeAll(all: Written[]) {
    sheet.write(all.map(change));
  }
  /** An entry of a child as the sheet keeps it. */
  function change({ row, slot, typed, more }: Written): Change {
    const at = place(row.child.pupil_id, slot);
    if (typed === null) return { place: at, entry: null, why: more?.why };
    return { place: at, entry: entry(row, slot, typed, more) };
  }
  /** One more try beside those there are; its number, or null where there is no room for more. */
  function anotherGo(row: Row): number | null {
    const next = row.cells.length + 1;
    if (next > (board.value?.most_tries ?? 1)) return null;
    goes.set(row.child.pupil_id, next);
    return next;
  }

  /** The same go for everybody; false where there is no room for it. */
  function openGo(slot: number): boolean {
    if (slot > (board.value?.most_tries ?? 1)) return false;
    for (const { child } of rows.value) {
      goes.set(child.pupil_id, Math.max(slot, goes.get(child.pupil_id) ?? 0));
    }
    return true;
  }
  /** How a score of this test is typed. */
  const form = computed<Form | null>(() => (board.value ? formOf(board.value) : null));

  return {
    query,
    board,
    form,
    rows,
    sheet,
    variants,
    doer,
    doers: computed(() => rows.value.map(doer)),
    own,
    place,
    write,
    writeAll,
    change,
    anotherGo,
    openGo,
    setWave: (pupilId: string, wave: number) => waves.set(pupilId, wave),
    done: computed(() => rows.value.filter((row) => !row.empty).length),
    many: computed(() => (board.value?.tries ?? 1) > 1 || goes.size > 0),
  };
}
/** What typing has to know of a test. */
export function formOf(
  test: Pick<Board, "activity_id" | "quick_check" | "reasons" | "accepted" | "kind">,
): Form {
  const { activity_id, quick_check, reasons, accepted, kind } = test;
  const counts: Form["counts"] = kind === "count" ? ["rep", "reps"] : null;
  return { activityId: activity_id, quick: quick_check, reasons, accepted, counts };
}
export type TestSheet = ReturnType<typeof useTest>;
