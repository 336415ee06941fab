<script setup lang="ts">
import { t } from "../messages/lessons";
import { computed } from "vue";
import { useRoute } from "vue-router";
import LoadState from "../parts/LoadState.vue";
import { clockTime, dayWords } from "../parts/words";
import LessonSettings from "./LessonSettings.vue";
import { provideConductor } from "./hall/clock/useConductor";
import { provideLesson } from "./useLesson";

const props = defineProps<{ lessonId: string }>();
const { query, lesson, line } = provideLesson(props.lessonId);
const route = useRoute();
/** The hall is a frame that does not scroll: it has one line above it. */
const framed = computed(() => route.name === "hall");
provideConductor(props.lessonId);
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
  padding: 0 16px 4px;
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
  margin-bottom: 4px;
  gap: 12px;
}
.framed .head h1 {
  font-size: 1.75rem;
  padding: 0;
  white-space: nowrap;
}
.framed .line {
  flex: 1;
  flex-wrap: nowrap;
  min-width: 0;
}
.framed .tabs a {
  padding: 10px 14px;
  min-height: 44px;
}
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
  .facts,
  .framed .line {
    display: none;
  }
  .framed {
    padding: 0 4px 2px;
  }
  .framed .head {
    height: 45px;
    margin-bottom: 2px;
    padding: 0 4px;
  }
  .framed .head h1 {
    flex: 1;
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
    font-size: 1.15rem;
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
    padding: 12px 8px;
    font-size: 1.15rem;
  }
}
@media (max-height: 500px) {
  .framed {
    padding: 0 4px 4px;
  }
  .framed .head {
    height: 44px;
    margin-bottom: 2px;
  }
  .framed .tabs a {
    padding: 6px 10px;
    min-height: 40px;
  }
}
</style>
