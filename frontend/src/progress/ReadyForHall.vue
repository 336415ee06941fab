<script setup lang="ts">
/** How many lessons of today and tomorrow open on this device without network. */
import { t } from "../messages/progress";
import { useQueryClient } from "@tanstack/vue-query";
import { useOnline, useTimeoutFn } from "@vueuse/core";
import { computed, watch } from "vue";
import { useReadyForHall } from "../lessons/hall/readyForHall";

const props = defineProps<{ lessonIds: string[] }>();
const { here, spares, isFetching, failed, fetchAll } = useReadyForHall(useQueryClient());
const count = computed(() => props.lessonIds.filter((id) => here.value.includes(id)).length);
const isOnline = useOnline();
const fetchNow = () => fetchAll(props.lessonIds);

/** Whoever passes through has nothing fetched: the hall's own pages come first. */
const REST_MS = 3_000;
const { start } = useTimeoutFn(() => void (isOnline.value && fetchNow()), REST_MS);
// What was planned a moment ago is fetched as well.
watch(() => [isOnline.value, props.lessonIds.join()], start);
</script>

<template>
  <p class="line ready" role="status" data-testid="ready">
    <b v-if="isFetching">{{ t("fetchingForTheHall") }}</b>
    <b v-else-if="failed">{{ t("lessonsNotFetched") }}</b>
    <b v-else-if="count">{{ t("readyForTheHallNLesson", count) }}</b>
    <b v-else-if="lessonIds.length">{{ t("noLessonIsOnThisDeviceYet") }}</b>
    <span v-if="spares.length && !isFetching" class="quiet">{{
      t("aLessonCanBeBegunWithoutANetwork", { classes: spares.join(", ") })
    }}</span>
    <v-btn variant="outlined" size="small" :disabled="isFetching || !isOnline" @click="fetchNow">{{
      t("fetchNow")
    }}</v-btn>
  </p>
</template>

<style scoped>
.ready {
  margin-top: var(--gap-12);
}
</style>
