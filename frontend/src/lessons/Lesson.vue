<script setup lang="ts">
import { t } from "../messages/lessons";
import { computed } from "vue";
import { useRoute } from "vue-router";
import LoadState from "../parts/LoadState.vue";
import { clockTime, dayWords } from "../parts/words";
import LessonSettings from "./LessonSettings.vue";
import { provideConductor } from "./hall/clock/useConductor";
import { provideLesson } from "./useLesson";
import { useLessonLive } from "./useLessonLive";

const props = defineProps<{ lessonId: string }>();
const { query, lesson, line } = provideLesson(props.lessonId);
const route = useRoute();
/** The hall is a frame that does not scroll: it has one line above it. */
const framed = computed(() => route.name === "hall");
provideConductor(props.lessonId);
useLessonLive(props.lessonId);
const TABS = [
  { name: "plan", label: t("plan") },
  { name: "hall", label: t("hall") },
  { name: "results", label: t("results") },
];
</script>

<template>
  <main id="main" tabindex="-1" class="page lesson" :class="{ framed }">
    <LoadState :query="query">
      <template v-if="lesson">
        <header class="head">
          <h1>{{ lesson.class_name }}</h1>
          <div v-if="framed" :ref="(found) => (line = found as HTMLElement | null)" class="line" />
          <p v-else class="facts">
            {{ lesson.battery ? `${t("batteryOfNTest", lesson.activities.length)} ·` : "" }}
            {{ lesson.activities.length === 1 ? `${lesson.activities[0]?.test} ·` : "" }}
            {{ lesson.place }} · {{ dayWords(lesson.starts_at) }},
            {{ clockTime(lesson.starts_at) }} · {{ t("nChild", lesson.children) }}
            <strong v-if="lesson.closed_at" class="closed">{{ t("closed") }}</strong>
            <LessonSettings :lesson="lesson" />
          </p>
          <nav class="tabs no-print" :aria-label="t('lesson')">
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
.framed {
  flex: 1;
  min-height: 0;
  max-width: none;
  padding: 0 var(--gap-16) var(--gap-4);
  display: flex;
  flex-direction: column;
}
.framed > :deep(.hall) {
  flex: 1;
}
.framed .head {
  flex: none;
  flex-wrap: nowrap;
  align-items: center;
  height: 50px;
  margin-bottom: var(--gap-4);
  gap: var(--gap-12);
}
.framed .head h1 {
  font-size: var(--type-28);
  padding: 0;
  white-space: nowrap;
}
.framed .line {
  flex: 1;
  flex-wrap: nowrap;
  min-width: 0;
}
.framed .tabs a {
  padding: var(--gap-8) var(--gap-12);
  min-height: 44px;
}
.lesson {
  padding-top: var(--gap-12);
}
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: var(--gap-4) var(--gap-16);
  border-bottom: var(--line-3) solid var(--line);
  margin-bottom: var(--gap-12);
}
.facts {
  flex: 1 1 280px;
  padding-bottom: var(--gap-8);
}
.closed {
  border: var(--line-2) solid var(--line);
  padding: 0 var(--gap-8);
  border-radius: var(--radius);
}
.tabs {
  display: flex;
  gap: var(--gap-4);
}
.tabs a {
  font-family: var(--figure);
  font-weight: 600;
  font-size: var(--type-24);
  line-height: 1;
  padding: var(--gap-12) var(--gap-16);
  min-height: 48px;
  text-decoration: none;
  color: var(--ink);
  border: var(--line-2) solid var(--rule);
  border-bottom: 0;
  border-radius: var(--radius) var(--radius) 0 0;
}
.tabs a.router-link-active {
  background: var(--line);
  border-color: var(--line);
  color: rgb(var(--v-theme-on-primary));
}
.head h1 {
  padding-bottom: var(--gap-8);
}
@media (max-width: 600px) {
  .head {
    gap: 0 var(--gap-8);
    margin-bottom: var(--gap-8);
  }
  .facts,
  .framed .line {
    display: none;
  }
  .framed {
    padding: 0 var(--gap-4);
  }
  .framed .head {
    height: 45px;
    margin-bottom: 0;
    padding: 0 var(--gap-4);
  }
  .framed .head h1 {
    flex: 1;
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
    font-size: var(--type-18);
  }
  .framed .tabs {
    width: auto;
  }
  .tabs {
    width: 100%;
    min-width: 0;
    overflow-x: auto;
  }
  .tabs a {
    flex: 1 0 auto;
    text-align: center;
    padding: var(--gap-12) var(--gap-8);
    font-size: var(--type-18);
  }
}
@media (max-height: 500px) {
  .framed {
    padding: 0 var(--gap-4);
  }
  .framed .head {
    height: 44px;
    margin-bottom: 0;
  }
  .framed .tabs a {
    padding: var(--gap-8) var(--gap-8);
    min-height: var(--control);
  }
}
</style>
