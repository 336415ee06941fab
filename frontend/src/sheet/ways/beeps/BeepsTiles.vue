<script setup lang="ts">
/** A tile a runner: a tap says that the line was missed. */
import { t } from "../../../messages/sheet";
import StateMark from "../../../parts/StateMark.vue";
import type { Beeping } from "./useBeeps";

const props = defineProps<{ beeping: Beeping }>();
const { run, last, begun, shown, score, scoreWords, warned, tap, stops, goesOn, go, why } =
  props.beeping;
</script>

<template>
  <ul class="tiles">
    <li v-for="row in shown" :key="row.child.pupil_id">
      <button
        type="button"
        class="tile"
        :class="{ warned: warned(row), done: score(row) }"
        :disabled="score(row) !== null || (!why && (run.startedAt === null || last < 0))"
        @click="tap(row)"
      >
        <span class="number figure">{{ row.child.number }}</span>
        <span class="name">
          <span v-if="row.child.medical_note" class="note" :title="row.child.medical_note">
            ✚<span class="sr-only">{{
              t("medicalNoteNote", { note: row.child.medical_note })
            }}</span>
          </span>
          {{ row.child.name }}
        </span>
      </button>
      <span class="after">
        <b class="figure result">
          <template v-if="score(row)">{{ scoreWords(row) }}</template>
          <template v-else-if="warned(row)">{{ t("warned") }}</template>
          <template v-else>{{
            run.startedAt === null ? scoreWords(row) || row.shown : ""
          }}</template>
        </b>
        <StateMark v-if="score(row)" :state="row.cells[go - 1]?.state ?? 'empty'" />
        <v-btn
          v-if="score(row)"
          size="large"
          variant="text"
          :aria-label="t('childKeepsRunning', { child: row.child.name })"
          @click="goesOn(row)"
        >
          {{ t("keepsRunning") }}
        </v-btn>
        <v-btn
          v-else-if="begun"
          size="large"
          variant="text"
          :aria-label="t('childStops', { child: row.child.name })"
          @click="stops(row)"
        >
          {{ t("stops") }}
        </v-btn>
      </span>
    </li>
  </ul>
</template>

<style scoped>
/* The same height whatever is said in it. */
.tile {
  height: 48px;
  overflow: hidden;
}
.tiles li:has(.warned) {
  border-color: var(--pennant);
  outline: 5px double var(--pennant);
  outline-offset: -5px;
}
.tiles li:has(.done) {
  background: transparent;
  border-style: dashed;
}
.after {
  display: flex;
  align-items: center;
  height: 48px;
  padding-left: var(--gap-8);
}
.after .result {
  flex: 1;
  font-size: var(--type-18);
  min-width: 0;
  white-space: nowrap;
}
.after .v-btn {
  padding: 0 var(--gap-8);
}
</style>
