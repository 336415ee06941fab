/** A helper's list: some of the class in one test, typed or counted by taps. */
import { computed, ref, watch } from "vue";
import { useSheet } from "../../useSheet";
import { useTyping } from "../../useTyping";
import { readingOf, useHelped, type HelpedLesson, type HelpedTest } from "../../sources/helped";
import type { Form } from "../../useEntry";
import { formOf } from "../../useTest";
import { useVariants } from "../../useVariants";

export function useHelper(
  lesson: () => HelpedLesson,
  test: () => HelpedTest,
  group: () => readonly string[] | null,
) {
  const nameOf = (id: string) => lesson().children.find((one) => one.pupil_id === id)?.name ?? "";
  const sheet = useSheet(useHelped(test, nameOf));
  const variants = useVariants(() => test().variants);
  const place = (pupilId: string, slot: number) => ({ pupilId, at: test().activity_id, slot });
  const rows = computed(() => {
    const chosen = group();
    const first = new Set(test().ask_first);
    const usual = new Map(test().forms.map((one) => [one.pupil_id, one.variant]));
    const theirs = new Set(
      test()
        .entries.filter((one) => !one.mine)
        .map((one) => one.pupil_id),
    );
    return lesson()
      .children.filter((one) => !chosen || chosen.includes(one.pupil_id))
      .map((child) => {
        const cells = Array.from({ length: test().tries }, (_, at) =>
          sheet.cell(place(child.pupil_id, at + 1)),
        );
        const empty = !cells.some((cell) => cell.stands);
        const variant = usual.get(child.pupil_id) ?? "";
        const doer = { pupilId: child.pupil_id, at: test().activity_id, variant, empty };
        return {
          child,
          cells,
          variant: cells.findLast((cell) => cell.variant)?.variant || variants.of(doer),
          doer,
          /** The teacher is to be asked before this child takes part. */
          ask: first.has(child.pupil_id),
          /** Somebody else has a score for it. */
          isCounted: theirs.has(child.pupil_id),
        };
      });
  });
  type Row = (typeof rows.value)[number];

  const form = computed<Form>(() => ({
    ...formOf(test()),
    reading: (typed) => readingOf(test().activity_id, typed),
  }));
  const typing = useTyping({
    sheet,
    names: () => rows.value.map((one) => one.child.name),
    columns: (row) => rows.value[row]?.cells.length ?? 1,
    cellAt: (row, column) => rows.value[row]?.cells[column] ?? null,
    // Whom somebody else has counted is not come to by itself.
    isEmpty: (row, column) => {
      const one = rows.value[row];
      return one?.cells[column]?.state === "empty" && !one.isCounted;
    },
    find(at) {
      const row = rows.value.findIndex((one) => one.child.pupil_id === at.pupilId);
      return row < 0 ? null : [row, at.slot - 1];
    },
    form: () => form.value,
    changes: (row, column, typed) => {
      const one = rows.value[row];
      if (!one) return [];
      const entry = { typed, variant: one.variant };
      return [{ place: place(one.child.pupil_id, column + 1), entry }];
    },
    turnVariant: (row) => {
      const one = rows.value[row];
      if (one) variants.turn(one.doer);
    },
    along: ref(true),
  });
  // Another part of the class begins at its own first empty cell.
  watch(group, () => typing.cursor.first());
  const row = computed<Row | null>(() =>
    typing.cursor.rested.value ? null : (rows.value[typing.cursor.row.value] ?? null),
  );
  /** One more was seen. */
  function countOne() {
    const { typed } = typing.entry;
    if (/^\d*$/.test(typed.value.trim())) typed.value = String(Number(typed.value) + 1);
  }
  return {
    sheet,
    rows,
    row,
    variants,
    countOne,
    done: computed(
      () =>
        rows.value.filter((one) => one.isCounted || one.cells.some((cell) => cell.stands)).length,
    ),
    ...typing,
  };
}
