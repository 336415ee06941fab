<script setup lang="ts">
import { mdiClose } from "@mdi/js";
/** Levels that are called one after the other, or a free game. */
import SettledField from "../../../parts/form/SettledField.vue";
import { t } from "../../../messages/lessons";
import type { EntryOf } from "../blocks";
import SecondsField from "../SecondsField.vue";

const form = defineModel<EntryOf<"warm_up">>({ required: true });
const LEVELS = [t("walk"), t("jog"), t("run"), t("sprint")];
const FIRST = [
  [1, 30],
  [2, 60],
  [3, 30],
  [1, 30],
];

function asGame(game: boolean) {
  form.value.levels = game ? [] : structuredClone(FIRST);
  form.value.seconds = game ? 240 : null;
}
</script>

<template>
  <SecondsField v-if="!form.levels?.length" v-model="form.seconds" />
  <v-checkbox
    :model-value="!form.levels?.length"
    :label="t('aGameOfYourChoice')"
    @update:model-value="asGame(Boolean(form.levels?.length))"
  />
  <div v-for="(level, place) in form.levels" :key="place" class="line">
    <v-select
      v-model="level[0]"
      :aria-label="t('levelPlace', { place: place + 1 })"
      :items="LEVELS.map((words, at) => ({ value: at + 1, title: `${at + 1} ${words}` }))"
    />
    <SettledField
      v-model.number="level[1]"
      class="num"
      type="number"
      min="1"
      :aria-label="t('secondsOfLevelPlace', { place: place + 1 })"
    />
    <v-btn
      :icon="mdiClose"
      variant="text"
      :aria-label="t('removeLevelPlace', { place: place + 1 })"
      @click="form.levels?.splice(place, 1)"
    />
  </div>
  <v-btn v-if="form.levels?.length" variant="outlined" @click="form.levels?.push([2, 30])">{{
    t("addLevel")
  }}</v-btn>
</template>

<style scoped>
.num {
  width: 96px;
}
</style>
