/** The list: one child a row, typed down the class or along its tries. */
import { computed, ref } from "vue";
import { useTest, type Activity, type Row } from "../../useTest";
import { useTyping } from "../../useTyping";

export function useList(activity: () => Activity) {
  const test = useTest(activity);
  const { board, rows, sheet, variants } = test;
  const typing = useTyping({
    sheet,
    names: () => rows.value.map((one) => one.child.name),
    columns: (row) => rows.value[row]?.cells.length ?? 1,
    cellAt: (row, column) => rows.value[row]?.cells[column] ?? null,
    find(place) {
      const at = rows.value.findIndex((one) => one.child.pupil_id === place.pupilId);
      return at < 0 ? null : [at, place.slot - 1];
    },
    form: () => test.form.value,
    changes: (row, column, typed) => {
      const one = rows.value[row];
      return one ? [test.change({ row: one, slot: column + 1, typed })] : [];
    },
    turnVariant: (row) => {
      const one = rows.value[row];
      if (one) variants.turn(test.doer(one));
    },
    turnWave(row) {
      const one = rows.value[row];
      const waves = board.value?.waves ?? 1;
      if (one && waves > 1) test.setWave(one.child.pupil_id, (one.wave % waves) + 1);
    },
    along: ref(false),
  });
  const row = computed(() =>
    typing.cursor.rested.value ? null : (rows.value[typing.cursor.row.value] ?? null),
  );
  function anotherGo(one: Row) {
    const slot = test.anotherGo(one);
    if (slot) typing.goTo(test.place(one.child.pupil_id, slot));
  }
  /** Whether something of a child waits for an answer. */
  const isOpen = (one: Row) =>
    one.cells.some((cell) => cell.refusal !== null) ||
    typing.hold.matter.value?.place?.pupilId === one.child.pupil_id;
  return { test, row, anotherGo, isOpen, ...typing };
}
export type List = ReturnType<typeof useList>;
