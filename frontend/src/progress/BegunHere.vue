<script setup lang="ts">
/** Lessons that were begun without a network and are still to be sent. */
import { computed } from "vue";
import { t } from "../messages/progress";
import { clockTime } from "../parts/words";
import { useSync } from "../sync/useSync";

const sync = useSync();
const lessons = computed(() =>
  sync.mine.value.flatMap((job) => (job.kind === "lesson" ? [{ ...job.body, job }] : [])),
);
</script>

<template>
  <section v-if="lessons.length" class="board begun" :aria-label="t('begunHereNotSentYet')">
    <h2>{{ t("begunHereNotSentYet") }}</h2>
    <ul class="short">
      <li v-for="{ id, starts_at, place, job } in lessons" :key="id">
        <RouterLink :to="{ name: 'hall', params: { lessonId: id } }">
          {{ clockTime(starts_at) }}, {{ job.label?.child }}
        </RouterLink>
        · {{ job.shown }}, {{ place }}
        <b v-if="job.refusal">{{ job.refusal.message }}</b>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.begun {
  margin-bottom: var(--gap-16);
}
</style>
