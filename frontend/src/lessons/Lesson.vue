<script setup lang="ts">
import { computed, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import LoadState from "../parts/LoadState.vue";
import { clockTime, dayWords } from "../parts/words";
import { WAYS, waysOf } from "../sheet/ways";
import ConductStrip from "./ConductStrip.vue";
import { useSession } from "../people/session";
import { provideConductor } from "./useConductor";
import { provideLesson } from "./useLesson";

const props = defineProps<{ lessonId: string }>();
const { query, lesson, activity } = provideLesson(props.lessonId);
const lead = provideConductor(props.lessonId);
const started = computed(() => lesson.value && new Date(lesson.value.starts_at));
const route = useRoute();
const router = useRouter();
const session = useSession();
const tabs = computed(() => [
  ...(lesson.value?.battery
    ? [{ name: "grid", label: "Grid" }]
    : [
        { name: "plan", label: "Plan" },
        { name: "conduct", label: "Conduct" },
      ]),
  ...(activity.value
    ? [
        { name: "run", label: "Run" },
        { name: "list", label: "Capture" },
      ]
    : []),
  { name: "pulse", label: "Pulse" },
  ...(activity.value ? [{ name: "check", label: "Check" }] : []),
]);
/** A lesson without a test opens with its conductor. */
watch(
  () => lesson.value && !activity.value && route.name === "run",
  (lost) => {
    if (lost) void router.replace({ name: "conduct" });
  },
  { immediate: true },
);
/** The screen that is open, or the list where this kind of score has no such way. */
function screenFor(kind: string): string {
  const name = String(route.name);
  const isWay = WAYS.some((way) => way.name === name);
  return isWay && !waysOf(kind).some((way) => way.name === name) ? "list" : name;
}
watch(
  () => activity.value && screenFor(activity.value.kind),
  (name) => {
    if (name && name !== route.name && WAYS.some((way) => way.name === route.name)) {
      void router.replace({ name, query: route.query });
    }
  },
  { immediate: true },
);
const WHOLE = ["grid", "pulse", "plan", "conduct", "stations"];
/** How the scores of this test can be taken, on the screens where they are. */
const ways = computed(() => waysOf(activity.value?.kind ?? ""));
const capturing = computed(() => ways.value.some((way) => way.name === route.name));
/** Seconds worked by the conductor's clock in the block of the open test; null before it. */
const conducted = computed(() => {
  const block = lead.plan.value?.blocks.findIndex((one) => one.activity_id === activity.value?.id);
  const work = lead.plan.value?.segments.find((one) => one.block === block && one.phase === "work");
  if (!lead.state.value || !work) return null;
  const place = Math.min(lead.place.value, work.to_ms) - work.from_ms;
  return Math.max(0, Math.floor(place / 1000));
});
/** What the way that is open is handed. */
const held = computed(() => {
  const name = String(route.name);
  if (name === "grid") return { lesson: lesson.value };
  if (name === "pulse") {
    const check = route.query.check === undefined ? null : Number(route.query.check);
    return { lessonId: props.lessonId, standIns: session.standIns, check };
  }
  if (!WAYS.some((way) => way.name === name)) return {};
  const more = { tap: { standIns: session.standIns }, target: { conducted: conducted.value } };
  return { activity: activity.value, ...more[name as keyof typeof more] };
});
const live = computed(() => lead.state.value !== null && !lead.state.value.ended);
/** A screen of one test is made anew for another test. */
const screenKey = computed(() =>
  WHOLE.includes(String(route.name)) ? "whole" : activity.value?.id,
);
</script>

<template>
  <main id="main" tabindex="-1" class="page lesson">
    <LoadState :query="query">
      <template v-if="lesson && started">
        <header class="head">
          <h1>{{ lesson.class_name }}</h1>
          <p class="facts">
            {{ lesson.battery ? `Battery of ${lesson.activities.length} ·` : "" }}
            {{ !lesson.battery && activity ? `${activity.test} ·` : "" }} {{ lesson.place }} ·
            {{ dayWords(started) }}, {{ clockTime(started) }} · {{ lesson.children }} children
            <strong v-if="lesson.closed_at" class="closed">closed</strong>
          </p>
          <nav class="tabs no-print" aria-label="Lesson">
            <RouterLink
              v-for="tab in tabs"
              :key="tab.name"
              :to="{ name: tab.name, query: route.query }"
              :class="{ 'router-link-active': tab.name === 'list' && capturing }"
            >
              {{ tab.label }}
            </RouterLink>
          </nav>
        </header>
        <div v-if="screenKey !== 'whole'" class="navs no-print">
          <nav v-if="lesson.activities.length > 1" class="tests" aria-label="Tests">
            <RouterLink
              v-for="one in lesson.activities"
              :key="one.id"
              class="tag"
              :class="{ strong: one.id === activity?.id }"
              :to="{ name: screenFor(one.kind), query: { ...route.query, activity: one.id } }"
            >
              {{ one.test }}
            </RouterLink>
          </nav>
          <nav v-if="capturing && ways.length > 1" class="tests ways" aria-label="Ways to capture">
            <RouterLink
              v-for="way in ways"
              :key="way.name"
              class="tag"
              :class="{ strong: way.name === route.name }"
              :to="{ name: way.name, query: route.query }"
            >
              {{ way.label }}
            </RouterLink>
          </nav>
        </div>
        <ConductStrip v-if="live && route.name !== 'conduct'" />
        <p v-if="!activity && screenKey !== 'whole'" class="board">
          This lesson has no test.
          <RouterLink :to="{ name: 'plan' }">Plan it</RouterLink> or
          <RouterLink :to="{ name: 'conduct' }">conduct it</RouterLink>.
        </p>
        <RouterView v-else v-slot="{ Component }">
          <component :is="Component" :key="screenKey" v-bind="held">
            <template #test="{ test }">
              <RouterLink :to="{ name: 'list', query: { activity: test.activity_id } }">
                {{ test.test }}
              </RouterLink>
            </template>
            <template #after>
              <p class="after no-print">
                <v-btn color="primary" size="large" :to="{ name: 'check', query: route.query }">
                  Check the scores
                </v-btn>
              </p>
            </template>
          </component>
        </RouterView>
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
.navs {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 8px 20px;
  margin-bottom: 10px;
}
.tests {
  display: flex;
  overflow-x: auto;
  gap: 8px;
  min-width: 0;
}
.after {
  margin-top: 18px;
  text-align: right;
}
.ways a {
  border-style: dashed;
}
.ways a.strong {
  border-style: solid;
}
.tests a {
  white-space: nowrap;
  min-height: 48px;
  padding: 12px 14px;
  text-decoration: none;
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
