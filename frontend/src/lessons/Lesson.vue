<script setup lang="ts">
import LoadState from "../parts/LoadState.vue";
import { clockTime, dayWords } from "../parts/words";
import LessonSettings from "./LessonSettings.vue";
import { provideConductor } from "./useConductor";
import { provideLesson } from "./useLesson";

const props = defineProps<{ lessonId: string }>();
const { query, lesson } = provideLesson(props.lessonId);
provideConductor(props.lessonId);
const TABS = [
  { name: "plan", label: "Plan" },
  { name: "hall", label: "Hall" },
  { name: "results", label: "Results" },
];
</script>

<template>
  <main id="main" tabindex="-1" class="page lesson">
    <LoadState :query="query">
      <template v-if="lesson">
        <header class="head">
          <h1>{{ lesson.class_name }}</h1>
          <p class="facts">
            {{ lesson.battery ? `Battery of ${lesson.activities.length} ·` : "" }}
            {{ lesson.activities.length === 1 ? `${lesson.activities[0]?.test} ·` : "" }}
            {{ lesson.place }} · {{ dayWords(lesson.starts_at) }},
            {{ clockTime(lesson.starts_at) }} · {{ lesson.children }} children
            <strong v-if="lesson.closed_at" class="closed">closed</strong>
            <LessonSettings :lesson="lesson" />
          </p>
          <nav class="tabs no-print" aria-label="Lesson">
            <RouterLink v-for="tab in TABS" :key="tab.name" :to="{ name: tab.name }">
              {{ tab.label }}
            </RouterLink>
          </nav>
        </header>
        <RouterView />
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.lesson {
  padding-top: 12px;
}
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 4px 18px;
  border-bottom: 3px solid var(--line);
  margin-bottom: 14px;
}
.facts {
  flex: 1 1 280px;
  padding-bottom: 8px;
}
.closed {
  border: 2px solid var(--line);
  padding: 0 8px;
  border-radius: 3px;
}
.tabs {
  display: flex;
  gap: 4px;
}
.tabs a {
  font-family: var(--figure);
  font-weight: 600;
  font-size: 1.35rem;
  line-height: 1;
  padding: 12px 18px;
  min-height: 48px;
  text-decoration: none;
  color: var(--ink);
  border: 2px solid var(--rule);
  border-bottom: 0;
  border-radius: 4px 4px 0 0;
}
.tabs a.router-link-active {
  background: var(--line);
  border-color: var(--line);
  color: rgb(var(--v-theme-on-primary));
}
.head h1 {
  padding-bottom: 6px;
}
@media (max-width: 600px) {
  .head {
    gap: 0 10px;
    margin-bottom: 8px;
  }
  .facts {
    display: none;
  }
  .tabs {
    width: 100%;
    min-width: 0;
    overflow-x: auto;
  }
  .tabs a {
    flex: 1 0 auto;
    text-align: center;
    padding: 12px 8px;
    font-size: 1.15rem;
  }
}
</style>
