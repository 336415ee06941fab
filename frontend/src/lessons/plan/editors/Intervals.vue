<script setup lang="ts">
/** Movements, each with its seconds of work and rest. */
import type { EntryOf } from "../blocks";

const form = defineModel<EntryOf<"intervals">>({ required: true });
</script>

<template>
  <div v-for="(one, place) in form.movements" :key="place" class="line">
    <input v-model.lazy="one.name" class="field" :aria-label="`Movement ${place + 1}`" />
    <input
      v-model.lazy="one.efforts"
      class="field"
      placeholder="25/15/25"
      :aria-label="`Work and rest of movement ${place + 1}`"
    />
    <v-btn
      size="small"
      variant="text"
      :aria-label="`Take movement ${place + 1} out`"
      @click="form.movements?.splice(place, 1)"
      >×</v-btn
    >
  </div>
  <v-btn variant="outlined" @click="form.movements?.push({ name: 'squats', efforts: '30/15' })"
    >Add a movement</v-btn
  >
  <span class="quiet">Seconds of work and rest in turn.</span>
</template>
