<script setup lang="ts">
/** How long a pulse is counted and written down. */
import { t } from "../../../messages/lessons";
import { COUNT_SECONDS } from "../../../api/vocabulary";
import type { EntryOf } from "../blocks";
import SecondsField from "../SecondsField.vue";

const form = defineModel<EntryOf<"pulse">>({ required: true });
</script>

<template>
  <SecondsField v-model="form.seconds" :words="t('secondsToWriteDown')" />
  <v-checkbox v-model="form.waits" :label="t('thenTheClockWaitsUntilEveryone')" />
  <v-select
    v-model="form.count_seconds"
    :label="t('countFor')"
    :items="COUNT_SECONDS.map((n) => ({ value: n, title: t('secondsShort', { n }) }))"
  />
</template>
