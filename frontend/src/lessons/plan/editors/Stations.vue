<script setup lang="ts">
/** Stations with their loads, the time at each, and the groups that go round. */
import { t } from "../../../messages/lessons";
import { LOADS } from "../../../api/vocabulary";
import type { EntryOf } from "../blocks";
import GroupMaker from "../GroupMaker.vue";

const form = defineModel<EntryOf<"stations">>({ required: true });
type Load = (typeof LOADS)[number];
const SECONDS = {
  work: [t("workSeconds"), 1],
  change: [t("moveOnSeconds"), 3],
  rounds: [t("rounds"), 1],
} as const;

function load(one: string): Load[] {
  return one ? [one as Load] : [];
}
</script>

<template>
  <div v-for="(one, place) in form.stations" :key="place" class="line">
    <input
      v-model.lazy="one.name"
      class="field"
      :aria-label="t('stationPlace', { place: place + 1 })"
    />
    <select
      class="field"
      :aria-label="t('whatStationPlaceWorks', { place: place + 1 })"
      :value="one.loads?.[0] ?? ''"
      @change="one.loads = load(($event.target as HTMLSelectElement).value)"
    >
      <option value="">{{ t("noLoad") }}</option>
      <option v-for="each in LOADS" :key="each" :value="each">{{ each }}</option>
    </select>
    <label class="line">
      {{ t("roomFor") }}
      <input
        v-model.lazy.number="one.room"
        class="field num small"
        type="number"
        min="1"
        max="8"
        :aria-label="t('groupsThatFitAtStationPlace', { place: place + 1 })"
      />
    </label>
    <v-btn
      size="small"
      variant="text"
      :aria-label="t('removeStationPlace', { place: place + 1 })"
      @click="form.stations?.splice(place, 1)"
      >×</v-btn
    >
  </div>
  <v-btn
    variant="outlined"
    @click="form.stations?.push({ name: 'squats', loads: ['legs'], room: 1 })"
    >{{ t("addStation") }}</v-btn
  >
  <label v-for="([words, least], name) in SECONDS" :key="name" class="labelled">
    {{ words }}
    <input v-model.lazy.number="form[name]" class="field num" type="number" :min="least" />
  </label>
  <GroupMaker
    :groups="form.groups ?? null"
    :stations="form.stations?.length ?? 4"
    @made="form.groups = $event"
  />
</template>

<style scoped>
.num {
  width: 96px;
}
.num.small {
  width: 64px;
}
</style>
