<script setup lang="ts">
/** A quiet shape of what will come, what failed with a way to try again, or the content. */
import { t } from "../messages/parts";
import { refDebounced } from "@vueuse/core";
import { computed } from "vue";
import type { UseQueryReturnType } from "@tanstack/vue-query";

const props = defineProps<{ query: UseQueryReturnType<unknown, Error> }>();
/** There is no network, and this device has not kept it: it had a moment to look. */
const isPaused = computed(
  () => props.query.isPending.value && props.query.fetchStatus.value === "paused",
);
const wasPaused = refDebounced(isPaused, 500);
const isMissing = computed(() => isPaused.value && wasPaused.value);
</script>

<template>
  <div v-if="isMissing" class="board" role="alert">
    <p>{{ t("thisPageIsNotOnThisDevice") }}</p>
  </div>
  <div v-else-if="query.isPending.value" class="coming" data-loading role="status">
    <span class="sr-only">{{ t("loading") }}</span>
    <i v-for="n in 4" :key="n" />
  </div>
  <div v-else-if="query.isError.value && !query.data.value" class="board" role="alert">
    <p>{{ query.error.value?.message }}</p>
    <v-btn color="primary" class="mt-2" @click="query.refetch()">{{ t("tryAgain") }}</v-btn>
  </div>
  <slot v-else />
</template>

<style scoped>
.coming {
  display: grid;
  gap: var(--gap-12);
}
.coming i {
  height: 48px;
  border: var(--line-2) solid var(--rule);
  border-radius: var(--radius);
  background: var(--board);
  opacity: 0.6;
}
</style>
