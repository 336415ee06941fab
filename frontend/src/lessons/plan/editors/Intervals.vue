<script setup lang="ts">
/** Movements, each with its seconds of work and rest. */
import { t } from "../../../messages/lessons";
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
      :aria-label="t('workAndRestForMovementPlace', { place: place + 1 })"
    />
    <v-btn
      size="small"
      variant="text"
      :aria-label="t('removeMovementPlace', { place: place + 1 })"
      @click="form.movements?.splice(place, 1)"
      >×</v-btn
    >
  </div>
  <v-btn variant="outlined" @click="form.movements?.push({ name: 'squats', efforts: '30/15' })">{{
    t("addMovement")
  }}</v-btn>
  <span class="quiet">{{ t("workAndRestInSeconds") }}</span>
</template>
