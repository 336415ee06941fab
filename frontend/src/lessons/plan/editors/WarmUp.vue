<script setup lang="ts">
/** Levels that are called one after the other, or a free game. */
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
  <label class="line">
    <input
      type="checkbox"
      :checked="!form.levels?.length"
      @change="asGame(Boolean(form.levels?.length))"
    />
    {{ t("aGameOfYourChoice") }}
  </label>
  <div v-for="(level, place) in form.levels" :key="place" class="line">
    <select v-model="level[0]" class="field" :aria-label="t('levelPlace', { place: place + 1 })">
      <option v-for="(words, at) in LEVELS" :key="words" :value="at + 1">
        {{ at + 1 }} {{ words }}
      </option>
    </select>
    <input
      v-model.lazy.number="level[1]"
      class="field num"
      type="number"
      min="1"
      :aria-label="t('secondsOfLevelPlace', { place: place + 1 })"
    />
    <v-btn
      size="small"
      variant="text"
      :aria-label="t('removeLevelPlace', { place: place + 1 })"
      @click="form.levels?.splice(place, 1)"
      >×</v-btn
    >
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
