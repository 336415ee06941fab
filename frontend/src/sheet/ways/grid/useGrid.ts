/** A battery as one grid: children down, tests across, filled over several days. */
import { computed, ref } from "vue";
import { useBattery } from "../../sources/battery";
import { isIn } from "../../types";
import { useSheet } from "../../useSheet";
import { formOf, type Activity } from "../../useTest";
import { useTyping } from "../../useTyping";
import { openRunOf } from "../../useRun";
import { useVariants } from "../../useVariants";

export function useGrid(lesson: () => { id: string; activities: Activity[] }) {
  const comparedWith = ref<string | undefined>(undefined);
  const runsOf = (id: string) => lesson().activities.find((one) => one.id === id)?.runs ?? [];
  const { query, grid, source } = useBattery(
    lesson().id,
    () => lesson().activities.map((one) => one.id),
    comparedWith,
    (id) => openRunOf(id, runsOf(id)),
  );
  const sheet = useSheet(source);
  const children = computed(() => grid.value?.children ?? []);
  const tests = computed(() => grid.value?.tests ?? []);
  const variants = useVariants((at) => testAt(at)?.variants ?? []);
  const testAt = (at: string) => tests.value.find((one) => one.activity_id === at);

  function cellAt(row: number, column: number) {
    const child = children.value[row];
    const test = tests.value[column];
    if (!child || !test) return null;
    return sheet.cell({ pupilId: child.pupil_id, at: test.activity_id, slot: 1 });
  }
  function doer(row: number, column: number) {
    const cell = cellAt(row, column);
    return (
      cell && {
        pupilId: cell.place.pupilId,
        at: cell.place.at,
        variant: cell.variant,
        empty: !cell.stands,
      }
    );
  }
  function changes(row: number, column: number, typed: string) {
    const who = doer(row, column);
    const cell = cellAt(row, column);
    if (!who || !cell) return [];
    const conditions = children.value[row]?.cells[column]?.score?.conditions;
    const entry = { typed, variant: variants.of(who), ...(conditions && { conditions }) };
    return [{ place: cell.place, entry }];
  }

  const typing = useTyping({
    sheet,
    names: () => children.value.map((one) => one.name),
    columns: () => tests.value.length,
    cellAt,
    find(place) {
      const row = children.value.findIndex((one) => one.pupil_id === place.pupilId);
      const column = tests.value.findIndex((one) => one.activity_id === place.at);
      return row < 0 || column < 0 ? null : [row, column];
    },
    form: (column) => {
      const test = tests.value[column];
      return test ? formOf(test) : null;
    },
    changes,
    turnVariant(row, column) {
      const who = doer(row, column);
      if (who) variants.turn(who);
    },
    along: ref(false),
  });
  const { row, column, rested } = typing.cursor;
  const filled = computed(() =>
    children.value.reduce(
      (sum, _child, r) => sum + tests.value.filter((_test, c) => isIn(cellAt(r, c))).length,
      0,
    ),
  );
  return {
    ...{ query, grid, sheet, children, tests, variants, doer, cellAt, comparedWith, filled },
    test: computed(() => (rested.value ? null : (tests.value[column.value] ?? null))),
    child: computed(() => (rested.value ? null : (children.value[row.value] ?? null))),
    /** Everybody in the column under the cursor. */
    doers: computed(() => children.value.flatMap((_one, r) => doer(r, column.value) ?? [])),
    ...typing,
  };
}
export type Grid = ReturnType<typeof useGrid>;
