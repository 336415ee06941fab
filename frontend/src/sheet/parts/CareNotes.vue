<script setup lang="ts">
/** Who is kept from what is on, by the family's or a doctor's word; the teacher's goes over it. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed } from "vue";
import { answer, client, type Schemas } from "../../api/client";

const props = defineProps<{ lessonId: string; activityId: string | null }>();
const queries = useQueryClient();
const lanes = useQuery({
  queryKey: computed(() => ["lanes", props.activityId ?? ""]),
  queryFn: () =>
    answer(
      client.GET("/api/activities/{activity_id}/lanes", {
        params: { path: { activity_id: props.activityId ?? "" } },
      }),
    ),
  enabled: computed(() => props.activityId !== null),
});
const grid = useQuery({
  queryKey: computed(() => ["grid", props.lessonId, ""]),
  queryFn: () =>
    answer(
      client.GET("/api/lessons/{lesson_id}/grid", {
        params: { path: { lesson_id: props.lessonId } },
      }),
    ),
  enabled: computed(() => props.activityId === null),
});
interface Note {
  key: string;
  pupil: string;
  name: string;
  test: string;
  care: Schemas["CareRow"];
}
const notes = computed<Note[]>(() => {
  if (props.activityId !== null) {
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
      return cell.care ? [{ key, pupil: one.pupil_id, name: one.name, test, care: cell.care }] : [];
    }),
  );
});
const allowing = useMutation({
  async mutationFn(note: Note) {
    await answer(
      client.PUT("/api/lessons/{lesson_id}/allowed", {
        params: { path: { lesson_id: props.lessonId } },
        body: { pupil_id: note.pupil, what: note.care.what, allowed: !note.care.allowed },
      }),
    );
    await Promise.all(
      ["lanes", "grid"].map((key) => queries.invalidateQueries({ queryKey: [key] })),
    );
  },
});
</script>

<template>
  <div v-if="notes.length" class="board care" role="group" aria-label="Kept from it">
    <p v-for="note in notes" :key="note.key" class="line">
      <span class="mark" aria-hidden="true">{{ note.care.allowed ? "✓" : "⊘" }}</span>
      <span>
        <strong>{{ note.name }}</strong> {{ note.care.words
        }}<template v-if="note.test"> ({{ note.test }})</template
        ><template v-if="note.care.allowed">: may today, by your word</template>
      </span>
      <v-btn
        size="small"
        variant="outlined"
        :aria-label="`${note.care.allowed ? 'Not after all' : 'May today'}: ${note.name}`"
        @click="allowing.mutate(note)"
      >
        {{ note.care.allowed ? "Not after all" : "May today" }}
      </v-btn>
    </p>
    <p v-if="allowing.error.value" role="alert" class="problem">
      {{ allowing.error.value.message }}
    </p>
  </div>
</template>

<style scoped>
.care {
  padding: 6px 14px;
  margin-bottom: 6px;
}
.mark {
  font-size: 1.3rem;
  color: rgb(var(--v-theme-warning));
}
</style>
