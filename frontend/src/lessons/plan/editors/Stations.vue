<script setup lang="ts">
import { mdiClose } from "@mdi/js";
/** Stations with their loads, the time at each, and the groups that go round. */
import SettledField from "../../../parts/form/SettledField.vue";
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
    <SettledField v-model="one.name" :aria-label="t('stationPlace', { place: place + 1 })" />
    <v-select
      :aria-label="t('whatStationPlaceWorks', { place: place + 1 })"
      :model-value="one.loads?.[0] ?? ''"
      :items="[
        { value: '', title: t('noLoad') },
        ...LOADS.map((each) => ({ value: each, title: each })),
      ]"
      @update:model-value="one.loads = load($event)"
    />
    <SettledField
      v-model.number="one.room"
      class="num small"
      type="number"
      min="1"
      max="8"
      :aria-labelledby="undefined"
      :aria-label="t('groupsThatFitAtStationPlace', { place: place + 1 })"
      :label="t('roomFor')"
    />
    <v-btn
      :icon="mdiClose"
      variant="text"
      :aria-label="t('removeStationPlace', { place: place + 1 })"
      @click="form.stations?.splice(place, 1)"
    />
  </div>
  <v-btn
    variant="outlined"
    @click="form.stations?.push({ name: 'squats', loads: ['legs'], room: 1 })"
    >{{ t("addStation") }}</v-btn
  >
  <SettledField
    v-for="([words, least], name) in SECONDS"
    :key="name"
    v-model.number="form[name]"
    class="num"
    type="number"
    :min="least"
    :label="words"
  />
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
