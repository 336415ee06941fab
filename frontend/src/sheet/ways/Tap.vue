<script setup lang="ts">
/** Everybody on one clock: a tap takes the time. */
import { computed, ref } from "vue";
import Confirm from "../../parts/Confirm.vue";
import LoadState from "../../parts/LoadState.vue";
import ConditionsLine from "../parts/ConditionsLine.vue";
import FormsLine from "../parts/FormsLine.vue";
import SheetNotes from "../parts/SheetNotes.vue";
import type { Activity, Row } from "../useTest";
import GateLine from "./GateLine.vue";
import RunningClock from "./RunningClock.vue";
import TapTiles from "./TapTiles.vue";
import * as taps from "./taps";
import { useTap } from "./useTap";

const props = defineProps<{ activity: Activity; standIns: boolean }>();
const tapping = useTap(() => props.activity);
const { test, go, own, state, presses, problem, holds, laps, cap, unknown, left } = tapping;
const { query, board, rows, sheet } = test;
const typed = ref("");
const asking = ref<"again" | "end" | null>(null);
/** Somebody who crossed and is being named. */
const naming = ref<number | null>(null);
const capped = ref(false);
const going = computed(() => left.value.length);
const goes = computed(() => Math.max(1, ...rows.value.map((row) => row.cells.length)));

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
function byNumber() {
  const text = typed.value.trim();
  typed.value = problem.value = "";
  const row = rows.value.find((one) => String(one.child.number) === text);
  if (text && !row) {
    problem.value = `There is no child ${text}: type a number from 1 to ${rows.value.length}.`;
    typed.value = text;
  } else tapping.tap(row?.child.pupil_id ?? null);
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
        <div class="stack">
          <div class="line">
            <v-btn
              v-if="state.started === null"
              color="primary"
              size="x-large"
              @click="tapping.start"
            >
              Start everybody
            </v-btn>
            <template v-else>
              <v-btn
                v-if="capped && going"
                color="primary"
                size="x-large"
                @click="tapping.allReached"
              >
                All {{ going }} left reached {{ board.cap_typed }} s
              </v-btn>
              <v-btn
                size="x-large"
                variant="outlined"
                :disabled="!presses.length"
                @click="tapping.undo"
              >
                Undo
              </v-btn>
              <v-btn size="x-large" variant="outlined" @click="tapping.tap(null)">Somebody</v-btn>
              <v-btn v-if="!holds" size="x-large" variant="outlined" @click="asking = 'end'">
                All in
              </v-btn>
              <v-btn size="x-large" variant="text" @click="asking = 'again'">Start again</v-btn>
            </template>
          </div>
          <div class="line">
            <label v-if="!holds" class="line">
              Laps
              <input
                :value="laps"
                class="field num"
                type="number"
                min="1"
                max="200"
                :disabled="state.taps.length > 0"
                @change="tapping.setLaps(Number(($event.target as HTMLInputElement).value))"
              />
            </label>
            <label v-if="goes > 1" class="line">
              Try
              <select v-model.number="go" class="field">
                <option v-for="n in goes" :key="n" :value="n">{{ n }}</option>
              </select>
            </label>
            <form v-if="state.started !== null" class="line" @submit.prevent="byNumber">
              <label class="line">
                Number
                <input
                  v-model="typed"
                  class="field num"
                  inputmode="numeric"
                  autocomplete="off"
                  aria-label="Number of the child who is in"
                />
              </label>
              <span class="quiet"><kbd>Enter</kbd> takes the time; empty for somebody</span>
            </form>
            <strong class="figure left" data-testid="going">{{ going }} going</strong>
          </div>
          <p v-if="problem || own.problem.value" role="alert" class="problem">
            {{ problem || own.problem.value }}
          </p>
        </div>
      </div>
      <SheetNotes :sheet="sheet" />
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
      <p v-if="unknown.length" class="board unknown" role="status">
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
