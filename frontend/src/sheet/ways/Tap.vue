<script setup lang="ts">
/** Everybody on one clock: a tap takes the time. */
import { ref } from "vue";
import Confirm from "../../parts/Confirm.vue";
import LoadState from "../../parts/LoadState.vue";
import ConditionsLine from "../parts/ConditionsLine.vue";
import FormsLine from "../parts/FormsLine.vue";
import SheetNotes from "../parts/SheetNotes.vue";
import type { Activity, Row } from "../useTest";
import GateLine from "./GateLine.vue";
import TapControls from "./TapControls.vue";
import RunningClock from "./RunningClock.vue";
import TapTiles from "./TapTiles.vue";
import * as taps from "./taps";
import { useTap } from "./useTap";

const props = defineProps<{ activity: Activity; standIns: boolean }>();
const tapping = useTap(() => props.activity);
const { test, own, state, problem, holds, cap, unknown } = tapping;
const { query, board, sheet } = test;
const asking = ref<"again" | "end" | null>(null);
/** Somebody who crossed and is being named. */
const naming = ref<number | null>(null);
const capped = ref(false);

function tapOn(row: Row) {
  problem.value = "";
  if (naming.value === null) {
    tapping.tap(row.child.pupil_id);
    return;
  }
  if (tapping.isDone(row)) problem.value = `${row.child.name} has a time already.`;
  else tapping.name(naming.value, row);
  naming.value = null;
}
function confirmed() {
  if (asking.value === "end") tapping.endAll();
  else tapping.start();
  asking.value = null;
}
</script>

<template>
  <LoadState :query="query">
    <section v-if="board" class="taps">
      <div class="hall-top">
        <RunningClock :go-at="own.goAt.value" :cap="cap" @capped="capped = $event" />
        <TapControls :tapping="tapping" :capped="capped" @ask="asking = $event" />
      </div>
      <SheetNotes :sheet="sheet">
        <p v-if="problem || own.problem.value" role="alert" class="problem">
          {{ problem || own.problem.value }}
        </p>
        <p v-if="unknown.length" class="unknown" role="status">
          <strong>Who was it?</strong>
          <button
            v-for="one in unknown"
            :key="one.id"
            type="button"
            class="tag strong"
            :aria-pressed="naming === one.id"
            @click="naming = naming === one.id ? null : one.id"
          >
            {{ taps.asTyped(one.at) }}
          </button>
          <span v-if="naming !== null">Now tap the child.</span>
        </p>
      </SheetNotes>
      <GateLine
        v-if="standIns && !holds && state.started !== null"
        :activity-id="activity.id"
        :started-at="state.started"
        @passed="tapping.tap"
      />
      <div class="line">
        <ConditionsLine :board="board" :child="null" :own="{}" />
        <FormsLine :test="test" />
      </div>
      <TapTiles :tapping="tapping" :naming="naming" @tap="tapOn" />
      <Confirm
        :model-value="asking !== null"
        :title="asking === 'end' ? 'Is everybody in?' : 'Start everybody again?'"
        :words="
          asking === 'end'
            ? 'Who has not finished keeps the laps that were run.'
            : 'The clock goes back to nought. Times that were taken stay; new ones are kept beside them.'
        "
        :yes="asking === 'end' ? 'All in' : 'Start again'"
        @update:model-value="asking = null"
        @yes="confirmed"
      />
    </section>
  </LoadState>
</template>

<style scoped src="./tap.css"></style>
