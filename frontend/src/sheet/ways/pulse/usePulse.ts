/** Everyone's pulse: beats typed down the class, moment after moment. */
import { t } from "../../../messages/sheet";
import { computed, ref } from "vue";
import { REASONS } from "../../../api/vocabulary";
import { usePulses, type PulseChild } from "../../sources/pulse";
import { isIn } from "../../types";
import { useSheet } from "../../useSheet";
import { useTyping } from "../../useTyping";

export function usePulse(lessonId: string) {
  const formula = ref<"tanaka" | "220">("tanaka");
  const { query, page, moments, added, source } = usePulses(lessonId, formula);
  const sheet = useSheet(source);
  const seconds = ref(10);
  /** Seconds of rest before a count of recovery; null or "" while nobody has said. */
  const waited = ref<number | "" | null>(null);
  const rest = () => (typeof waited.value === "number" ? waited.value : undefined);
  const children = computed<PulseChild[]>(() => page.value?.children ?? []);
  const cellOf = (child: PulseChild, position: number) =>
    sheet.cell({ pupilId: child.pupil_id, at: lessonId, slot: position });

  const typing = useTyping({
    sheet,
    names: () => children.value.map((one) => one.name),
    columns: () => moments.value.length,
    cellAt(row, column) {
      const child = children.value[row];
      const moment = moments.value[column];
      return child && moment ? cellOf(child, moment.position) : null;
    },
    find(place) {
      const row = children.value.findIndex((one) => one.pupil_id === place.pupilId);
      const column = moments.value.findIndex((one) => one.position === place.slot);
      return row < 0 || column < 0 ? null : [row, column];
    },
    form: () => ({
      activityId: null,
      quick: { pattern: "\\d{1,4}", lowest: null, highest: null },
      reasons: REASONS,
      accepted: t("typeTheBeatsCountedInSeconds", { seconds: seconds.value }),
      counts: ["beat", "beats"].map((word) =>
        t("beatsInSecondsSOneBeat", {
          beats: word,
          seconds: seconds.value,
          each: 60 / seconds.value,
        }),
      ) as [string, string],
    }),
    changes(row, column, typed) {
      const child = children.value[row];
      const moment = moments.value[column];
      if (!child || !moment) return [];
      const place = { pupilId: child.pupil_id, at: lessonId, slot: moment.position };
      const entry = { typed, seconds: seconds.value, waited: rest() };
      return [{ place, entry }];
    },
    along: ref(false),
  });
  const { column } = typing.cursor;
  const moment = computed(() => moments.value[column.value] ?? null);

  function choose(at: number) {
    const empty = children.value.findIndex((child) => {
      const one = moments.value[at];
      return one && cellOf(child, one.position).state === "empty";
    });
    typing.cursor.go(Math.max(0, empty), at);
  }
  function addMoment(label: string) {
    const last = Math.max(-1, ...moments.value.map((one) => one.position));
    const words = label ? t("afterActivity", { activity: label }) : t("afterAnActivity");
    added.value.push({ position: last + 1, moment: "activity", label, words, n: 0, median: null });
    choose(moments.value.length - 1);
  }
  /** What the belts say goes the way of every typed pulse: one press, which undo takes back. */
  function takeBelts(pulses: { pupilId: string; bpm: number }[]) {
    const slot = moment.value?.position ?? 0;
    sheet.write(
      pulses.map(({ pupilId, bpm }) => ({
        place: { pupilId, at: lessonId, slot },
        entry: { typed: String(bpm), seconds: 60, waited: rest() },
      })),
    );
  }
  const done = computed(
    () =>
      children.value.filter((one) => moment.value && isIn(cellOf(one, moment.value.position)))
        .length,
  );
  return {
    ...{ query, page, sheet, children, moments, moment, seconds, waited, formula, done, cellOf },
    ...{ choose, addMoment, takeBelts },
    ...typing,
  };
}
export type Pulsing = ReturnType<typeof usePulse>;
