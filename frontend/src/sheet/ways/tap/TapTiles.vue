<script setup lang="ts">
/** A tile a child: one tap takes the time; who is done can go on. */
import { t } from "../../../messages/sheet";
import StateMark from "../../../parts/StateMark.vue";
import type { Row } from "../../useTest";
import * as taps from "./taps";
import type { Tapping } from "./useTap";

const props = defineProps<{ tapping: Tapping; naming: number | null }>();
const emit = defineEmits<{ tap: [row: Row] }>();
const { group, state, laps, why, isDone, cellOf, goOn } = props.tapping;

function last(row: Row): string {
  const mine = taps.lapsOf(state.value, row.child.pupil_id);
  return mine.length ? taps.asTyped(mine.at(-1) ?? 0) : "";
}
const run = (row: Row) => taps.lapsOf(state.value, row.child.pupil_id).length;
const shown = (row: Row) => cellOf(row)?.shown || last(row);
</script>

<template>
  <ul class="tiles">
    <li v-for="row in group" :key="row.child.pupil_id" :class="{ done: isDone(row) }">
      <button
        type="button"
        class="tile"
        :disabled="!why && (state.started === null || (isDone(row) && naming === null))"
        @click="emit('tap', row)"
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
        <span v-if="!isDone(row)" class="figure result">{{ last(row) || shown(row) }}</span>
        <span v-if="laps > 1" class="quiet lap">
          {{ run(row) }} / {{ laps
          }}<template v-if="!isDone(row) && run(row)"
            ><i18n-t keypath="sheet.nToGoBrLapTime" scope="global"
              ><template #n>{{ laps - run(row) }}</template
              ><template #time>{{ taps.asTyped(taps.lastLap(state, row.child.pupil_id)) }}</template
              ><template #br><br /></template></i18n-t
          ></template>
        </span>
      </button>
      <span v-if="isDone(row)" class="after">
        <b class="figure result">{{ last(row) || shown(row) }}</b>
        <StateMark class="kept" :state="cellOf(row)?.state ?? 'empty'" />
        <v-btn
          size="large"
          variant="text"
          :aria-label="t('childGoesOn', { child: row.child.name })"
          @click="goOn(row)"
        >
          {{ t("goesOn") }}
        </v-btn>
      </span>
    </li>
  </ul>
</template>

<style scoped>
/* The same height before and after a tap: nothing moves under the next finger. */
.tiles li {
  position: relative;
  display: grid;
  grid-template-rows: 1fr auto;
  min-height: 104px;
}
.tiles li:has(.tile:enabled) {
  border-color: var(--line);
}
.tiles li.done {
  background: transparent;
  border-color: var(--ink);
}
.lap {
  grid-column: 2;
}
.done .name {
  padding-right: var(--gap-12);
}
.after {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding-left: var(--gap-8);
}
.after .v-btn {
  padding: 0 var(--gap-8);
}
.kept {
  position: absolute;
  top: 4px;
  right: 4px;
}
</style>
