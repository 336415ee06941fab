<script setup lang="ts">
/** What a test needs, one thing a row, and for how many children each. */
import { t } from "../messages/catalogue";
import type { Schemas } from "../api/client";
import { KIT_FOR } from "../api/vocabulary";

const kit = defineModel<Schemas["KitItem"][]>({ required: true });
</script>

<template>
  <div v-for="(item, place) in kit" :key="place" class="line mt-2">
    <v-text-field
      v-model.number="item.each"
      class="num"
      type="number"
      step="0.5"
      :aria-label="t('howMany')"
    />
    <v-text-field v-model="item.item" :aria-label="t('item')" :placeholder="t('mat')" />
    {{ t("forEach") }}
    <v-select
      v-model="item.of"
      :aria-label="t('forEach2')"
      :items="KIT_FOR.map((one) => ({ value: one, title: one }))"
    />
    <v-btn variant="text" @click="kit = kit.filter((_, at) => at !== place)">{{
      t("delete")
    }}</v-btn>
  </div>
  <v-btn variant="outlined" class="mt-2" @click="kit = [...kit, { item: '', each: 1, of: 'pair' }]">
    {{ t("addKit") }}
  </v-btn>
</template>

<style scoped>
.num {
  width: 90px;
}
</style>
