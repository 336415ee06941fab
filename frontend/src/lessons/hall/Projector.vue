<script setup lang="ts">
/**
 * The hall's wall: the conductor's clock, within a second of it; names and scores only when the
 * conductor chose so. A window of the same device hears it at once; another device asks.
 */
import { t } from "../../messages/lessons";
import { useQuery } from "@tanstack/vue-query";
import { useDebounceFn, useIntervalFn } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { useTheme } from "vuetify";
import { answer, client } from "../../api/client";
import LoadState from "../../parts/LoadState.vue";
import * as conductor from "./clock/conductor";
import HallClock from "./clock/HallClock.vue";
import { useMoment } from "./clock/useMoment";
import { newer, useAir, useConduct, useTimeline } from "./clock/useConductor";
import { unlessTold, useLive } from "../../sync/live";
import { resultsPage } from "../useResults";

/** Where events are barred, the clock is asked for so often. */
const ASK_MS = 500;
/** Scores that come together are counted together. */
const TOGETHER_MS = 300;

const props = defineProps<{ lessonId: string }>();
void useTheme().change("dark");
const query = useTimeline(props.lessonId);
const heard = ref<conductor.Conduct | null>(null);
const state = computed(() => newer(heard.value, query.data.value?.conduct ?? null));
const plan = computed(() =>
  query.data.value ? conductor.standing(query.data.value, state.value) : null,
);
const at = useMoment(plan, state);
const place = computed(() =>
  state.value && plan.value ? conductor.placeAt(plan.value, state.value, at.value) : 0,
);
/** A visual cue for every sound, two seconds long. */
const flash = computed(() => {
  if (!plan.value || !state.value || state.value.paused_ms != null) return "";
  if (conductor.isWaiting(plan.value, state.value, at.value)) return "";
  const cue = conductor.passed(plan.value, place.value - 2_000, place.value).at(-1);
  return cue && !["last", "count", "go"].includes(cue.kind) ? cue.say : "";
});

useAir(props.lessonId, (said) => (heard.value = newer(heard.value, said)));
const wall = computed(() => (state.value?.ended ? "clock" : (state.value?.wall ?? "clock")));
const showsNames = computed(() => wall.value === "names" || wall.value === "scores");
const blockAt = computed(() =>
  plan.value
    ? (plan.value.segments[Math.max(0, conductor.segmentAt(plan.value, place.value))]?.block ?? -1)
    : -1,
);
const block = computed(() => plan.value?.blocks[blockAt.value]);
/** Names, and scores as they come in: asked for only while they are chosen to be shown. */
const scores = useQuery({
  queryKey: computed(() => ["wall", block.value?.activity_id]),
  queryFn: () =>
    answer(
      client.GET("/api/activities/{activity_id}/wall", {
        params: { path: { activity_id: block.value?.activity_id ?? "" } },
      }),
    ),
  enabled: computed(() => showsNames.value && Boolean(block.value?.activity_id)),
  refetchInterval: () => unlessTold(2_000),
});
const stations = useQuery({
  queryKey: computed(() => ["stations", props.lessonId, blockAt.value]),
  queryFn: () =>
    answer(
      client.GET("/api/lessons/{lesson_id}/stations/{block}", {
        params: { path: { lesson_id: props.lessonId, block: blockAt.value } },
      }),
    ),
  enabled: computed(() => showsNames.value && Boolean(block.value?.rotation)),
});
const names = computed(() => {
  if (!showsNames.value || !block.value?.activity_id) return [];
  return (scores.data.value ?? []).map((one) => ({
    name: one.name,
    score: wall.value === "scores" ? one.shown : "",
  }));
});
function inGroup(group: string): string {
  if (!showsNames.value) return "";
  const found = stations.data.value?.groups.find((one) => one.name === group);
  return (found?.children ?? []).map((one) => one.name).join(", ");
}
const conduct = useConduct(props.lessonId);
watch(conduct.data, (found) => {
  heard.value = newer(heard.value, found ?? null);
  if (found && found.plan_revision !== query.data.value?.plan_revision) void query.refetch();
});
const told = useLive(`/api/lessons/${props.lessonId}/live`, ({ what }) => {
  if (what === "clock" || what === "gap") void conduct.refetch();
  if (what === "score" || what === "gap") void refreshScores();
  if (what === "helpers" || what === "gap") void helpers.refetch();
});
useIntervalFn(() => void (told.value || conduct.refetch()), ASK_MS);
const lost = computed(() => conduct.isError.value || conduct.fetchStatus.value === "paused");
const refreshScores = useDebounceFn(() => {
  void results.refetch();
  if (scores.data.value) void scores.refetch();
}, TOGETHER_MS);
/** How many scores of the test that is on are in: a number, and nobody's name. */
const results = useQuery({
  ...resultsPage(props.lessonId),
  refetchInterval: () => unlessTold(20_000),
});
const inSoFar = computed(() => {
  const one = results.data.value?.tests.find(
    (test) => test.activity_id === block.value?.activity_id,
  );
  return one ? t("nOfManyAreIn", { n: one.recorded, many: one.recorded + one.missing }) : "";
});
const showsCode = computed(() => wall.value === "code");
const helpers = useQuery({
  queryKey: ["helpers", props.lessonId],
  queryFn: () =>
    answer(
      client.GET("/api/lessons/{lesson_id}/helpers", {
        params: { path: { lesson_id: props.lessonId } },
      }),
    ),
  enabled: showsCode,
});
</script>

<template>
  <main class="wall" :class="{ 'with-code': showsCode }">
    <LoadState :query="query">
      <template v-if="plan">
        <h1 class="sr-only">{{ query.data.value?.class_name }}</h1>
        <HallClock
          :plan="plan"
          :state="state"
          :place="place"
          :waiting="plan !== null && conductor.isWaiting(plan, state, at)"
          :flash="flash"
        >
          <template #group="{ group }">
            <span class="members">{{ inGroup(group) }}</span>
          </template>
          <template v-if="names.length" #default>
            <ul class="names" data-testid="names">
              <li v-for="one in names" :key="one.name">
                {{ one.name }} <b v-if="one.score" class="figure">{{ one.score }}</b>
              </li>
            </ul>
          </template>
        </HallClock>
        <p v-if="inSoFar" class="figure waiting" data-testid="in-so-far">{{ inSoFar }}</p>
        <section v-if="helpers.data.value?.code && showsCode" class="join">
          <img :src="helpers.data.value.qr" :alt="t('squareForHelpers')" />
          <p>
            {{ t("helpersOpen", { address: helpers.data.value.address.split("#")[0] ?? "" }) }}
            <b class="figure" data-testid="code">{{ helpers.data.value.code }}</b>
          </p>
        </section>
        <p v-if="!state" class="figure waiting">{{ t("waitingForTheStart") }}</p>
        <p v-if="lost" class="waiting" role="status">
          {{ t("lostContactWithTheTeachersDevice") }}
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
.wall :deep(.hall-clock:not(.shared) .digits) {
  font-size: clamp(7rem, min(46vh, 36vw), 40rem);
}
/* The code is to be read from the door too. */
.with-code :deep(.hall-clock:not(.shared) .digits) {
  font-size: clamp(5rem, min(22vh, 24vw), 20rem);
}
.members {
  max-width: 15em;
}
.names {
  list-style: none;
  padding: 0;
  columns: 5 11em;
  font-size: clamp(1rem, 1.5vw, 1.5rem);
}
.names b {
  font-size: 1.3em;
}
.join {
  display: flex;
  justify-content: center;
  align-items: center;
  gap: var(--gap-24);
  font-size: var(--type-28);
}
.join img {
  width: min(32vh, 320px);
}
.join b {
  display: block;
  font-size: var(--type-64);
}
.waiting {
  text-align: center;
  font-size: var(--type-28);
}
</style>
