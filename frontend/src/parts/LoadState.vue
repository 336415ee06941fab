<script setup lang="ts">
/** Loading, failed with a way to try again, or the content. */
import { t } from "../messages/parts";
import type { UseQueryReturnType } from "@tanstack/vue-query";

defineProps<{ query: UseQueryReturnType<unknown, Error> }>();
</script>

<template>
  <p v-if="query.isPending.value" class="quiet" role="status">{{ t("loading") }}</p>
  <div v-else-if="query.isError.value && !query.data.value" class="board" role="alert">
    <p>{{ query.error.value?.message }}</p>
    <v-btn color="primary" class="mt-2" @click="query.refetch()">{{ t("tryAgain") }}</v-btn>
  </div>
  <slot v-else />
</template>
