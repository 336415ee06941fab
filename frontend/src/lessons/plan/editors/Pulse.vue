<script setup lang="ts">
/** How long a pulse is counted and written down. */
import { COUNT_SECONDS } from "../../../api/vocabulary";
import type { EntryOf } from "../blocks";
import SecondsField from "../SecondsField.vue";

const form = defineModel<EntryOf<"pulse">>({ required: true });
</script>

<template>
  <SecondsField v-model="form.seconds" words="Seconds to write down" />
  <label class="line">
    <input v-model="form.waits" type="checkbox" />
    then the clock waits until all are written down
  </label>
  <label class="labelled">
    Count for
    <select v-model.number="form.count_seconds" class="field">
      <option v-for="n in COUNT_SECONDS" :key="n" :value="n">{{ n }} s</option>
    </select>
  </label>
</template>
