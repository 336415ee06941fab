<script setup lang="ts">
/** The progressive shuttle run, called and taken on one screen. */
import { useEventListener } from "@vueuse/core";
import { computed, ref } from "vue";
import Confirm from "../../parts/Confirm.vue";
import LoadState from "../../parts/LoadState.vue";
import FormsLine from "../parts/FormsLine.vue";
import SheetNotes from "../parts/SheetNotes.vue";
import type { Activity } from "../useTest";
import BeepsTiles from "./BeepsTiles.vue";
import BeepsTrack from "./BeepsTrack.vue";
import { useBeeps } from "./useBeeps";

const props = defineProps<{ activity: Activity }>();
const beeping = useBeeps(() => props.activity);
const { test, run, presses, wave, problem, on, countdown, shown, running, ended } = beeping;
const { query, board } = test;
const asking = ref<"again" | "end" | null>(null);
const typed = ref("");
const stage = computed(() => {
  if (ended.value) return "End";
  return countdown.value || `${on.value?.stage}.${on.value?.shuttle}`;
});

function byNumber() {
  const text = typed.value.trim();
  typed.value = problem.value = "";
  const row = shown.value.find((one) => String(one.child.number) === text);
  if (!row) problem.value = `There is no child ${text || "without a number"} here.`;
  else if (beeping.score(row)) problem.value = `${row.child.name} is out already.`;
  else beeping.tap(row);
}
function confirmed() {
  if (asking.value === "end") beeping.endAll();
  else beeping.start();
  asking.value = null;
}
useEventListener("keydown", (event) => {
  const target = event.target as HTMLElement;
  if (event.key !== " " || run.value.startedAt !== null) return;
  if (target.closest("button,input,select,.v-overlay")) return;
  event.preventDefault();
  beeping.start();
});
</script>

<template>
  <LoadState :query="query">
    <section v-if="board && on" class="run">
      <div class="hall-top">
        <p class="figure digits" data-testid="stage">{{ stage }}</p>
        <div class="stack">
          <p class="figure speed">
            Stage {{ on.stage }} · {{ on.speed }} km/h ·
            <span data-testid="running">{{ running }} running</span>
          </p>
          <BeepsTrack :beeping="beeping" />
          <div class="line">
            <v-btn
              v-if="run.startedAt === null"
              color="primary"
              size="x-large"
              @click="beeping.start"
            >
              Start
            </v-btn>
            <template v-else>
              <v-btn
                size="x-large"
                variant="outlined"
                :disabled="!presses.length"
                @click="beeping.undo"
              >
                Undo
              </v-btn>
              <v-btn v-if="!ended" size="x-large" variant="outlined" @click="asking = 'end'">
                All stop
              </v-btn>
              <v-btn size="x-large" variant="text" @click="asking = 'again'">Start again</v-btn>
            </template>
            <label v-if="board.waves > 1" class="line">
              Running
              <select v-model.number="wave" class="field">
                <option :value="0">everybody</option>
                <option v-for="n in board.waves" :key="n" :value="n">wave {{ n }}</option>
              </select>
            </label>
            <form v-if="run.startedAt !== null" class="line" @submit.prevent="byNumber">
              <label class="line">
                Number
                <input
                  v-model="typed"
                  class="field num"
                  inputmode="numeric"
                  autocomplete="off"
                  aria-label="Number of the child who missed the line"
                />
              </label>
            </form>
            <FormsLine :test="test" />
          </div>
        </div>
      </div>
      <p class="quiet">
        Tap a child who misses the line: a warning first, out at the second in a row. No maximal run
        for an unwell child; taking part is optional. Stop for pain, dizziness, chest tightness or
        wheeze.
      </p>
      <SheetNotes :sheet="test.sheet">
        <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
      </SheetNotes>
      <BeepsTiles :beeping="beeping" />
      <Confirm
        :model-value="asking !== null"
        :title="asking === 'end' ? 'Does everybody stop?' : 'Start everybody again?'"
        :words="
          asking === 'end'
            ? 'Who still runs keeps the last line made.'
            : 'The beeps begin anew. Scores that were taken stay; new ones are kept beside them.'
        "
        :yes="asking === 'end' ? 'All stop' : 'Start again'"
        @update:model-value="asking = null"
        @yes="confirmed"
      />
    </section>
  </LoadState>
</template>

<style scoped>
.digits {
  font-size: clamp(5rem, 15vw, 11rem);
  min-width: 2.1em;
}
.speed {
  font-size: 1.8rem;
}
.num {
  width: 84px;
}
</style>
