/** One works, the partner counts: the partner says the score, one pair after the other. */
import { computed, reactive, ref } from "vue";
import { useTest, type Activity, type Row } from "../../useTest";
import { useTyping } from "../../useTyping";

export function usePartner(activity: () => Activity) {
  const test = useTest(activity);
  const { rows, sheet, variants } = test;
  const sayers = reactive(new Map<string, string>());
  /** Those who worked first, then their partners. */
  const turns = computed(() => [...rows.value].sort((a, b) => a.wave - b.wave));

  /** Neighbours in the list are partners; an odd one out is counted by the one before. */
  function sayer(row: Row): Row | undefined {
    const chosen = sayers.get(row.child.pupil_id);
    if (chosen) return rows.value.find((each) => each.child.pupil_id === chosen);
    const at = rows.value.findIndex((each) => each.child.pupil_id === row.child.pupil_id);
    return rows.value[at ^ 1] ?? rows.value[at - 1];
  }
  const typing = useTyping({
    sheet,
    names: () => turns.value.map((row) => row.child.name),
    columns: () => 1,
    cellAt: (at) => turns.value[at]?.cells[0] ?? null,
    find(place) {
      const at = turns.value.findIndex((row) => row.child.pupil_id === place.pupilId);
      return at < 0 ? null : [at, 0];
    },
    form: () => test.form.value,
    changes(at, _column, typed) {
      const row = turns.value[at];
      const more = { counted_by: row ? (sayer(row)?.child.pupil_id ?? null) : null };
      return row ? [test.change({ row, slot: 1, typed, more })] : [];
    },
    turnVariant(at) {
      const row = turns.value[at];
      if (row) variants.turn(test.doer(row));
    },
    along: ref(false),
  });
  const row = computed(() =>
    typing.cursor.rested.value ? null : (turns.value[typing.cursor.row.value] ?? null),
  );
  return {
    ...{ test, turns, row, sayer },
    say: (row: Row, pupilId: string) => sayers.set(row.child.pupil_id, pupilId),
    ...typing,
  };
}
