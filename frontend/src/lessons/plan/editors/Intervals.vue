<script setup lang="ts">
import { mdiClose } from "@mdi/js";
/** Movements, each with its seconds of work and rest. */
import SettledField from "../../../parts/form/SettledField.vue";
import { t } from "../../../messages/lessons";
import type { EntryOf } from "../blocks";

const form = defineModel<EntryOf<"intervals">>({ required: true });
</script>

<template>
  <div v-for="(one, place) in form.movements" :key="place" class="line">
    <SettledField v-model="one.name" :aria-label="t('movementN', { n: place + 1 })" />
    <SettledField
      v-model="one.efforts"
      placeholder="25/15/25"
      :aria-label="t('workAndRestForMovementPlace', { place: place + 1 })"
    />
    <v-btn
      :icon="mdiClose"
      variant="text"
      :aria-label="t('removeMovementPlace', { place: place + 1 })"
      @click="form.movements?.splice(place, 1)"
    />
  </div>
  <v-btn variant="outlined" @click="form.movements?.push({ name: 'squats', efforts: '30/15' })">{{
    t("addMovement")
  }}</v-btn>
  <span class="quiet">{{ t("workAndRestInSeconds") }}</span>
</template>
