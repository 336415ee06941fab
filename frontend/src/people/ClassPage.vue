<script setup lang="ts">
import { useQueryClient } from "@tanstack/vue-query";
import { ref } from "vue";
import { answer, client } from "../api/client";
import LoadState from "../parts/LoadState.vue";
import { clockTime, shortDay } from "../parts/words";
import PupilForm from "./PupilForm.vue";
import { useClass, useClassLessons } from "./useClass";

const props = defineProps<{ classId: string }>();
const lessons = useClassLessons(props.classId);
const page = useClass(props.classId);
const queries = useQueryClient();
const ordering = ref(false);
/** The child that is changed, or "new". */
const edited = ref<string | null>(null);
const problem = ref("");
async function keepOrder(pupils: string[]) {
  problem.value = "";
  try {
    const params = { path: { class_id: props.classId } };
    const kept = await answer(
      client.PUT("/api/classes/{class_id}/order", { params, body: { pupils } }),
    );
    queries.setQueryData(["class", props.classId], kept);
    await queries.invalidateQueries({ queryKey: ["lanes"] });
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
async function move(from: number, to: number) {
  const ids = page.data.value?.pupils.map((one) => one.id) ?? [];
  if (to < 0 || to >= ids.length) return;
  const [one] = ids.splice(from, 1);
  if (one) ids.splice(to, 0, one);
  await keepOrder(ids);
}
function onKey(event: KeyboardEvent, index: number) {
  const to = { ArrowUp: index - 1, ArrowDown: index + 1 }[event.key];
  if (!ordering.value || !event.altKey || to === undefined) return;
  event.preventDefault();
  void move(index, to);
}
</script>

<template>
  <main id="main" tabindex="-1" class="page">
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
              :to="{ name: lesson.battery ? 'hall' : 'results', params: { lessonId: lesson.id } }"
            >
              {{ shortDay(lesson.starts_at) }}, {{ clockTime(new Date(lesson.starts_at)) }}
            </RouterLink>
            {{ lesson.battery ?? lesson.tests.join(", ") }}
            <span class="quiet">{{ lesson.closed ? "closed" : "open" }}</span>
          </li>
        </ul>
        <div class="line mt-4">
          <h2>Children</h2>
          <span class="space" />
          <template v-if="!ordering">
            <v-btn variant="outlined" @click="ordering = true">Order they sit in</v-btn>
            <v-btn v-if="page.data.value.may_change" color="primary" @click="edited = 'new'">
              Add a child
            </v-btn>
          </template>
          <template v-else>
            <span class="quiet">
              ↑ ↓ move a child, <kbd>Alt</kbd> with an arrow too; every list keeps this order.
            </span>
            <v-btn variant="outlined" @click="keepOrder([])">By name</v-btn>
            <v-btn color="primary" @click="ordering = false">Done</v-btn>
          </template>
        </div>
        <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
        <PupilForm
          v-if="edited === 'new'"
          :page="page.data.value"
          :pupil="null"
          @done="edited = null"
        />
        <div class="board">
          <table class="plain">
            <thead>
              <tr>
                <th scope="col">Child</th>
                <th scope="col">House</th>
                <th scope="col">Born</th>
                <th scope="col">Medical note</th>
                <th v-if="page.data.value.may_change" scope="col">
                  <span class="sr-only">What to do</span>
                </th>
              </tr>
            </thead>
            <tbody>
              <template v-for="(pupil, index) in page.data.value.pupils" :key="pupil.id">
                <tr v-if="edited === pupil.id">
                  <td :colspan="5">
                    <PupilForm :page="page.data.value" :pupil="pupil" @done="edited = null" />
                  </td>
                </tr>
                <tr v-else @keydown="onKey($event, index)">
                  <td>
                    <template v-if="ordering">
                      <v-btn
                        variant="text"
                        :aria-label="`Move ${pupil.name} up`"
                        :disabled="index === 0"
                        @click="move(index, index - 1)"
                        >↑</v-btn
                      >
                      <v-btn
                        variant="text"
                        :aria-label="`Move ${pupil.name} down`"
                        :disabled="index === page.data.value.pupils.length - 1"
                        @click="move(index, index + 1)"
                        >↓</v-btn
                      >
                    </template>
                    <RouterLink :to="{ name: 'pupil', params: { pupilId: pupil.id } }">
                      {{ pupil.name }}
                    </RouterLink>
                  </td>
                  <td>{{ pupil.house }}</td>
                  <td>{{ pupil.born ?? "not known" }}</td>
                  <td>{{ pupil.medical_note }}</td>
                  <td v-if="page.data.value.may_change">
                    <v-btn
                      size="small"
                      variant="text"
                      :aria-label="`Change ${pupil.name}`"
                      @click="edited = pupil.id"
                    >
                      Change
                    </v-btn>
                  </td>
                </tr>
              </template>
            </tbody>
          </table>
        </div>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.space {
  flex: 1;
}
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
