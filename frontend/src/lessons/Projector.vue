<script setup lang="ts">
/**
 * The hall's wall: the conductor's clock without names or scores, within a second of it. A window of
 * the same device hears it at once; another device asks.
 */
import { useIntervalFn, useRafFn } from "@vueuse/core";
import { computed, onBeforeUnmount, ref } from "vue";
import { useTheme } from "vuetify";
import { answer, client } from "../api/client";
import LoadState from "../parts/LoadState.vue";
import * as conductor from "./conductor";
import HallClock from "./HallClock.vue";
import { now } from "./timeSource";
import { channel, newer, useTimeline } from "./useConductor";

const props = defineProps<{ lessonId: string }>();
useTheme().change("dark");
const query = useTimeline(props.lessonId);
const heard = ref<conductor.Conduct | null>(null);
const at = ref(now());
const lost = ref(false);
const state = computed(() => newer(heard.value, query.data.value?.conduct ?? null));
const plan = computed(() =>
  query.data.value ? conductor.edited(query.data.value, state.value?.edits ?? []) : null,
);
const place = computed(() => (state.value ? conductor.offset(state.value, at.value) : 0));
/** A visual cue for every sound, two seconds long. */
const flash = computed(() => {
  if (!plan.value || !state.value || state.value.paused_ms != null) return "";
  const cue = conductor.passed(plan.value, place.value - 2_000, place.value).at(-1);
  return cue && !["last", "count", "go"].includes(cue.kind) ? cue.say : "";
});

const air = channel(props.lessonId);
air.onmessage = (message: MessageEvent<conductor.Conduct>) => {
  heard.value = newer(heard.value, message.data);
};
onBeforeUnmount(() => air.close());
let asking = false;
useIntervalFn(async () => {
  if (asking) return;
  asking = true;
  try {
    const found = await answer(
      client.GET("/api/lessons/{lesson_id}/conduct", {
        params: { path: { lesson_id: props.lessonId } },
      }),
    );
    lost.value = false;
    heard.value = newer(heard.value, found ?? null);
    if (found && found.plan_revision !== query.data.value?.plan_revision) await query.refetch();
  } catch {
    lost.value = true;
  } finally {
    asking = false;
  }
}, 500);
useRafFn(() => {
  at.value = now();
});
</script>

<template>
  <main class="wall">
    <LoadState :query="query">
      <template v-if="plan">
        <h1 class="sr-only">{{ query.data.value?.class_name }}</h1>
        <HallClock :plan="plan" :state="state" :place="place" :flash="flash" />
        <p v-if="!state" class="figure waiting">Waiting for the start</p>
        <p v-if="lost" class="waiting" role="status">
          The conductor cannot be heard; the clock goes on by itself.
        </p>
      </template>
    </LoadState>
  </main>
</template>

<style scoped>
.wall {
  min-height: 100vh;
  display: grid;
  align-content: center;
  padding: 2vh 3vw;
}
.waiting {
  text-align: center;
  font-size: 2rem;
}
</style>
