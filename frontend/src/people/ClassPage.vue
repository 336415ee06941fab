<script setup lang="ts">
import { useQuery } from "@tanstack/vue-query";
import { answer, client } from "../api/client";
import LoadState from "../parts/LoadState.vue";

const props = defineProps<{ classId: string }>();
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
