/** Who is kept from what is on, by the family's or a doctor's word; the teacher's goes over it. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed } from "vue";
import { answer, client, type Schemas } from "../api/client";

export interface CareNote {
  key: string;
  pupil: string;
  name: string;
  test: string;
  care: Schemas["KeptFrom"];
}

/** Of one test of a lesson ("" for none), or of all where it is null. */
export function useCare(lessonId: string, activityId: () => string | null) {
  const queries = useQueryClient();
  const lanes = useQuery({
    queryKey: computed(() => ["lanes", activityId() ?? ""]),
    queryFn: () =>
      answer(
        client.GET("/api/activities/{activity_id}/lanes", {
          params: { path: { activity_id: activityId() ?? "" } },
        }),
      ),
    enabled: computed(() => Boolean(activityId())),
  });
  const grid = useQuery({
    queryKey: computed(() => ["grid", lessonId, ""]),
    queryFn: () =>
      answer(
        client.GET("/api/lessons/{lesson_id}/grid", {
          params: { path: { lesson_id: lessonId } },
        }),
      ),
    enabled: computed(() => activityId() === null),
  });
  const notes = computed<CareNote[]>(() => {
    if (activityId() !== null) {
      return (lanes.data.value?.children ?? []).flatMap((one) =>
        one.care
          ? [{ key: one.pupil_id, pupil: one.pupil_id, name: one.name, test: "", care: one.care }]
          : [],
      );
    }
    return (grid.data.value?.children ?? []).flatMap((one) =>
      one.cells.flatMap((cell, at) => {
        const test = grid.data.value?.tests[at]?.test ?? "";
        const key = one.pupil_id + cell.activity_id;
        const { pupil_id: pupil, name } = one;
        return cell.care ? [{ key, pupil, name, test, care: cell.care }] : [];
      }),
    );
  });
  const allowing = useMutation({
    async mutationFn(note: CareNote) {
      await answer(
        client.PUT("/api/lessons/{lesson_id}/allowed", {
          params: { path: { lesson_id: lessonId } },
          body: { pupil_id: note.pupil, what: note.care.what, allowed: !note.care.allowed },
        }),
      );
      await Promise.all(
        ["lanes", "grid"].map((key) => queries.invalidateQueries({ queryKey: [key] })),
      );
    },
  });
  return { notes, allowing };
}
