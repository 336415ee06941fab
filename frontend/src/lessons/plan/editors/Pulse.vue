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
  <label class="line">
    <input v-model="form.waits" type="checkbox" />
    {{ t("thenTheClockWaitsUntilEveryone") }}
  </label>
  <label class="labelled">
    {{ t("countFor") }}
    <select v-model.number="form.count_seconds" class="field">
      <option v-for="n in COUNT_SECONDS" :key="n" :value="n">{{ t("secondsShort", { n }) }}</option>
    </select>
  </label>
</template>
