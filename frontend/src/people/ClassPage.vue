<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { answer, client } from "../api/client";
import LoadState from "../parts/LoadState.vue";
import { clockTime, shortDay } from "../parts/words";

const props = defineProps<{ classId: string }>();
const lessons = useQuery({
  queryKey: ["class-lessons", props.classId],
  queryFn: () =>
    answer(
      client.GET("/api/classes/{class_id}/lessons", {
        params: { path: { class_id: props.classId } },
      }),
    ),
  staleTime: 0,
});
const page = useQuery({
  queryKey: ["class", props.classId],
  queryFn: () =>
    answer(
      client.GET("/api/classes/{class_id}", { params: { path: { class_id: props.classId } } }),
    ),
});
</script>

<template>
  <main class="page">
    <LoadState :query="page">
      <template v-if="page.data.value">
        <div class="head">
          <div>
            <h1>{{ page.data.value.name }}</h1>
            <p class="quiet">
              {{ page.data.value.year_group }} · {{ page.data.value.pupils.length }} children
            </p>
          </div>
          <v-btn color="primary" :to="{ name: 'new-lesson', query: { class: page.data.value.id } }">
            New lesson
          </v-btn>
        </div>
        <hr class="court-line" />
        <h2>Lessons</h2>
        <p v-if="lessons.data.value && !lessons.data.value.length" class="quiet">
          None yet. “New lesson” plans the first.
        </p>
        <ul class="lessons">
          <li v-for="lesson in lessons.data.value" :key="lesson.id">
            <RouterLink
              :to="{ name: lesson.battery ? 'grid' : 'check', params: { lessonId: lesson.id } }"
            >
              {{ shortDay(lesson.starts_at) }}, {{ clockTime(new Date(lesson.starts_at)) }}
            </RouterLink>
            {{ lesson.battery ?? lesson.tests.join(", ") }}
            <span class="quiet">{{ lesson.closed ? "closed" : "open" }}</span>
          </li>
        </ul>
        <h2 class="mt-4">Children</h2>
        <div class="board">
          <table class="plain">
            <thead>
              <tr>
                <th scope="col">Child</th>
                <th scope="col">House</th>
                <th scope="col">Born</th>
                <th scope="col">Medical note</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="pupil in page.data.value.pupils" :key="pupil.id">
                <td>
                  <RouterLink :to="{ name: 'pupil', params: { pupilId: pupil.id } }">
                    {{ pupil.name }}
                  </RouterLink>
                </td>
                <td>{{ pupil.house }}</td>
                <td>{{ pupil.born ?? "not known" }}</td>
                <td>{{ pupil.medical_note }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.lessons {
  list-style: none;
  padding: 0;
  columns: 2 340px;
  margin-bottom: 12px;
}
.lessons li {
  padding: 7px 0;
  border-bottom: 1px solid var(--rule);
  break-inside: avoid;
}
</style>
