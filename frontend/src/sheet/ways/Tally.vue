<script setup lang="ts">
/**
 * Up to six children counted at once by tapping large areas. Nothing is a score before it is kept;
 * who was not tapped stays blank.
 */
import { useEventListener } from "@vueuse/core";
import { ref } from "vue";
import Confirm from "../../parts/Confirm.vue";
import LoadState from "../../parts/LoadState.vue";
import FormsLine from "../parts/FormsLine.vue";
import SheetNotes from "../parts/SheetNotes.vue";
import type { HallClock } from "../types";
import type { Activity } from "../useTest";
import TallyArea from "./TallyArea.vue";
import { useTally } from "./useTally";

const props = defineProps<{ activity: Activity; clock?: HallClock | null }>();
const tallying = useTally(
  () => props.activity,
  () => props.clock ?? null,
);
const { test, state, said, areas, isOn, again } = tallying;
const { query, board, sheet } = test;
const asking = ref(false);

function askKeep() {
  if (again.value.length) asking.value = true;
  else tallying.keep();
}
useEventListener("keydown", (event) => {
  const target = event.target as HTMLElement;
  if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
  if (target.closest("input,select,textarea,.v-overlay")) return;
  const place = /^(?:Digit|Numpad)([1-6])$/.exec(event.code)?.[1];
  const pupilId = state.value.pupils[Number(place) - 1];
  if (!place || !pupilId) return;
  event.preventDefault();
  if (event.shiftKey) tallying.takeBack(pupilId);
  else tallying.add(pupilId);
});
</script>

<template>
  <LoadState :query="query">
    <section v-if="board" class="tally">
      <div class="line top">
        <v-btn
          size="x-large"
          variant="outlined"
          :disabled="!tallying.canUndo.value"
          @click="tallying.undo"
        >
          Undo
        </v-btn>
        <v-btn
          size="x-large"
          color="primary"
          :disabled="!state.taps.length || isOn"
          @click="askKeep"
        >
          Keep these
        </v-btn>
        <FormsLine :test="test" />
        <span class="quiet">
          Tap counts one; swipe left takes it back. <kbd>1</kbd>–<kbd>6</kbd>,
          <kbd>Shift</kbd> takes back.
        </span>
        <strong role="status">{{ said }}</strong>
      </div>
      <SheetNotes :sheet="sheet" />
      <p v-if="!areas.length" class="board">
        Everybody has a score. Choose somebody again in the grid, or type there.
      </p>
      <ol class="areas">
        <TallyArea
          v-for="(row, place) in areas"
          :key="row.child.pupil_id"
          :tallying="tallying"
          :row="row"
          :place="place"
        />
      </ol>
      <Confirm
        v-model="asking"
        title="Some have a score already"
        :words="`What was tallied now takes the place of the score of ${again.map((row) => row.child.name).join(', ')}; the earlier entry stays on record as corrected.`"
        yes="Keep the new ones"
        @yes="((asking = false), tallying.keep())"
      />
    </section>
  </LoadState>
</template>

<style scoped>
.top {
  margin-bottom: 10px;
}
.areas {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 12px;
}
@media (max-width: 700px) {
  .areas {
    grid-template-columns: repeat(2, 1fr);
  }
}
</style>
