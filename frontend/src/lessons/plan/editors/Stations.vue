<script setup lang="ts">
/** Stations with their loads, the time at each, and the groups that go round. */
import { LOADS } from "../../../api/vocabulary";
import type { EntryOf } from "../blocks";
import GroupMaker from "../GroupMaker.vue";

const form = defineModel<EntryOf<"stations">>({ required: true });
type Load = (typeof LOADS)[number];
const SECONDS = {
  work: ["Work, s", 1],
  change: ["Move on, s", 3],
  rounds: ["Rounds", 1],
} as const;

function load(one: string): Load[] {
  return one ? [one as Load] : [];
}
</script>

<template>
  <div v-for="(one, place) in form.stations" :key="place" class="line">
    <input v-model.lazy="one.name" class="field" :aria-label="`Station ${place + 1}`" />
    <select
      class="field"
      :aria-label="`What station ${place + 1} loads`"
      :value="one.loads?.[0] ?? ''"
      @change="one.loads = load(($event.target as HTMLSelectElement).value)"
    >
      <option value="">no load</option>
      <option v-for="each in LOADS" :key="each" :value="each">{{ each }}</option>
    </select>
    <label class="line">
      room for
      <input
        v-model.lazy.number="one.room"
        class="field num small"
        type="number"
        min="1"
        max="8"
        :aria-label="`Groups that have room at station ${place + 1}`"
      />
    </label>
    <v-btn
      size="small"
      variant="text"
      :aria-label="`Take station ${place + 1} out`"
      @click="form.stations?.splice(place, 1)"
      >×</v-btn
    >
  </div>
  <v-btn
    variant="outlined"
    @click="form.stations?.push({ name: 'squats', loads: ['legs'], room: 1 })"
    >Add a station</v-btn
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
