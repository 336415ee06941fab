<script setup lang="ts">
/** The free conditions of a test: set once for the class, changed for one child. */
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, ref } from "vue";
import { answer, client, type Schemas } from "../../api/client";
import type { Conditions } from "../types";

const props = defineProps<{
  board: Pick<Schemas["ClassLanes"], "activity_id" | "conditions">;
  /** The child whose own conditions are changed; nobody for the class. */
  child: string | null;
  own: Conditions;
}>();
const emit = defineEmits<{ own: [conditions: Conditions] }>();
const queries = useQueryClient();
/** The condition that is a length of a course. */
const COURSE = "course_mm";
const open = ref<string | null>(null);
const typed = ref("");
const forChild = ref(false);
const problem = ref("");
/** The courses the school has measured: chosen by name, they fill in their length. */
const courses = useQuery({
  queryKey: ["courses"],
  queryFn: () => answer(client.GET("/api/courses")),
  enabled: computed(() => open.value === COURSE),
});

function edit(code: string, shown: string) {
  open.value = open.value === code ? null : code;
  typed.value = shown;
  problem.value = "";
}
async function keep(code: string) {
  const held = { [code]: typed.value };
  if (forChild.value && props.child) {
    emit("own", { ...props.own, ...held });
    open.value = null;
    return;
  }
  try {
    await answer(
      client.PUT("/api/activities/{activity_id}/conditions", {
        params: { path: { activity_id: props.board.activity_id } },
        body: { conditions: held },
      }),
    );
    open.value = null;
    await queries.invalidateQueries({ queryKey: ["lanes", props.board.activity_id] });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
</script>

<template>
  <div v-if="board.conditions.length" class="conditions no-print">
    <template v-for="one in board.conditions" :key="one.code">
      <button type="button" class="tag strong" @click="edit(one.code, one.shown)">
        {{ one.words }}: {{ one.shown }}
        <template v-if="own[one.code]"> ({{ child }}: {{ own[one.code] }})</template>
      </button>
      <form v-if="open === one.code" class="line board" @submit.prevent="keep(one.code)">
        <label class="labelled">
          {{ one.words }}
          <input v-model="typed" class="field" autofocus @keydown.stop />
        </label>
        <span v-if="one.code === COURSE && courses.data.value?.length" class="line">
          Measured:
          <button
            v-for="course in courses.data.value"
            :key="course.id"
            type="button"
            class="tag"
            @click="((typed = `${course.lap_mm}mm`), keep(one.code))"
          >
            {{ course.name }}
          </button>
        </span>
        <label v-if="child" class="line">
          <input v-model="forChild" type="checkbox" /> only for {{ child }}
        </label>
        <v-btn type="submit" color="primary">Set</v-btn>
        <v-btn variant="text" @click="open = null">Not now</v-btn>
        <span class="quiet">Usual: {{ one.usual }}. Scores already taken keep theirs.</span>
        <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
      </form>
    </template>
  </div>
</template>

<style scoped>
.conditions {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 8px;
}
.conditions .tag {
  min-height: 44px;
  padding: 0 14px;
  background: var(--board);
}
.conditions form {
  width: 100%;
}
</style>
