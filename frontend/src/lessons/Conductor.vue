<script setup lang="ts">
/** Runs the whole plan: calls, times, rests; hands hardly needed. */
import { mdiAccountVoice, mdiVolumeHigh, mdiVolumeOff } from "@mdi/js";
import { useQueryClient } from "@tanstack/vue-query";
import { useEventListener } from "@vueuse/core";
import { computed, nextTick, onBeforeUnmount, ref, useTemplateRef } from "vue";
import { answer, client } from "../api/client";
import { useTests } from "../catalogue/useTests";
import Confirm from "../parts/Confirm.vue";
import LoadState from "../parts/LoadState.vue";
import { wayFor } from "../sheet/ways";
import * as conductor from "./conductor";
import DoneRecord from "../parts/DoneRecord.vue";
import HallClock from "./HallClock.vue";
import { wake } from "../parts/sound";
import { useConductor } from "./useConductor";
import { useLesson } from "./useLesson";

const { lesson } = useLesson();
const lessonId = lesson.value?.id ?? "";
const lead = useConductor();
const { query, plan, state, unsent, flash, spoken, place, sound, voice, lock } = lead;
const queries = useQueryClient();
const asking = ref(false);
const confirmingWall = ref<"names" | "scores" | null>(null);
const swapping = ref(false);
const instead = ref("");
const problem = ref("");
const insteadField = useTemplateRef<HTMLInputElement>("insteadField");
lead.openHere.value += 1;
onBeforeUnmount(() => (lead.openHere.value -= 1));

const paused = computed(() => state.value?.paused_ms != null);
const live = computed(() => state.value !== null && !state.value.ended);
const current = computed(() =>
  plan.value ? plan.value.segments[conductor.segmentAt(plan.value, place.value)] : undefined,
);
const block = computed(() => plan.value?.blocks[current.value?.block ?? -1]);
const taken = computed(() => {
  const one = lesson.value?.activities.find((each) => each.id === block.value?.activity_id);
  return one && { name: wayFor(one.kind), query: { activity: one.id } };
});
/** Which of the lesson's pulse checks this is, from 0. */
const pulseCheck = computed(() => {
  const blocks = plan.value?.blocks ?? [];
  const at = blocks.findIndex((one) => one === block.value);
  return blocks.slice(0, at).filter((one) => one.kind === "pulse").length;
});
const stale = computed(
  () =>
    state.value !== null &&
    live.value &&
    query.data.value !== undefined &&
    (query.data.value.newer_plan || state.value.plan_revision !== query.data.value.plan_revision),
);
const tests = useTests(swapping);
const stations = computed(() => block.value?.rotation?.stations ?? null);
const station = ref("");
const isTest = computed(() => block.value?.kind === "test");

function start() {
  wake();
  lock.hold();
  lead.forget();
  asking.value = false;
  void lead.start();
}
function togglePause() {
  wake();
  lead.togglePause();
  if (paused.value) lock.release();
  else lock.hold();
}
function moveOn() {
  lead.forget();
  lead.skip();
}
function goBack() {
  lead.forget();
  lead.back();
}
function askSwap() {
  instead.value = "";
  station.value = stations.value?.[0] ?? "";
  problem.value = "";
  swapping.value = true;
  void nextTick(() => insteadField.value?.focus());
}
async function swap() {
  const label = instead.value.trim();
  if (!label) {
    problem.value = "Say what is done instead.";
    return;
  }
  try {
    let activity: string | null = null;
    if (isTest.value) {
      const test = tests.data.value?.find((one) => one.name === label);
      if (!test) {
        problem.value = "Choose a test of the catalogue: its scores need a protocol.";
        return;
      }
      const params = { path: { lesson_id: lessonId } };
      const body = { test_id: test.id };
      const made = await answer(
        client.POST("/api/lessons/{lesson_id}/activities", { params, body }),
      );
      activity = made.id;
      await queries.invalidateQueries({ queryKey: ["lesson", lessonId] });
    }
    lead.swap(label, activity, stations.value ? station.value : undefined);
    swapping.value = false;
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
function show(what: string) {
  if (what === "clock") lead.wall("clock");
  else confirmingWall.value = what as "names" | "scores";
}
useEventListener("keydown", (event) => {
  const target = event.target as HTMLElement;
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  if (target.closest("input,textarea,select,[role=dialog],[role=alertdialog],.v-overlay")) return;
  if (event.key === " ") {
    if (target.closest("button")) return; // the pressed button does it
    event.preventDefault();
    if (live.value) togglePause();
    else if (!state.value) start();
  } else if (!live.value) return;
  else if (event.key === "ArrowRight" || event.key === "n") moveOn();
  else if (event.key === "ArrowLeft" || event.key === "b") goBack();
  else if (event.key === "+") lead.stretch(15_000);
  else if (event.key === "-") lead.stretch(-15_000);
  else if (event.key === "s") askSwap();
  else return;
  event.preventDefault();
});
</script>

<template>
  <LoadState :query="query">
    <section v-if="plan" class="conduct">
      <div v-if="lesson?.medical_notes.length && !live" class="board notes">
        <strong>Before you start:</strong>
        <span v-for="note in lesson.medical_notes" :key="note.pupil_id">
          ✚ {{ note.name }}: {{ note.note }}
        </span>
      </div>
      <p v-if="stale" role="status" class="board">
        The plan was changed after the start; this goes on as it began. Start again to use the new
        plan.
      </p>
      <HallClock :plan="plan" :state="state" :place="place" :flash="flash" />
      <p class="sr-only" role="status" aria-live="assertive">{{ spoken }}</p>
      <div class="controls">
        <v-btn v-if="!state" color="primary" size="x-large" @click="start">
          Start the lesson
        </v-btn>
        <template v-else-if="live">
          <v-btn size="x-large" variant="outlined" @click="goBack">Back</v-btn>
          <v-btn color="primary" size="x-large" @click="togglePause">
            {{ paused ? "Go on" : "Pause" }}
          </v-btn>
          <v-btn size="x-large" variant="outlined" @click="moveOn">Skip</v-btn>
          <v-btn size="x-large" variant="outlined" @click="lead.stretch(-15_000)">− 15 s</v-btn>
          <v-btn size="x-large" variant="outlined" @click="lead.stretch(15_000)">+ 15 s</v-btn>
          <v-btn size="x-large" variant="outlined" @click="askSwap">Swap</v-btn>
        </template>
        <v-btn v-if="state" size="x-large" variant="text" @click="asking = true">
          Start again
        </v-btn>
      </div>
      <div class="controls small">
        <v-btn v-if="taken" color="primary" size="large" :to="taken">
          Take the scores of {{ block?.label }}
        </v-btn>
        <v-btn
          v-if="block?.kind === 'pulse'"
          color="primary"
          size="large"
          :to="{ name: 'pulse', query: { check: pulseCheck } }"
        >
          Write the beats down
        </v-btn>
        <v-btn v-else size="large" variant="outlined" :to="{ name: 'pulse' }">Pulse</v-btn>
        <v-btn
          size="large"
          variant="outlined"
          :href="`/lessons/${lessonId}/projector`"
          target="_blank"
        >
          Projector
        </v-btn>
        <label v-if="live" class="line">
          The wall shows
          <select
            class="field tall"
            :value="state?.wall ?? 'clock'"
            @change="
              show(($event.target as HTMLSelectElement).value);
              ($event.target as HTMLSelectElement).value = state?.wall ?? 'clock';
            "
          >
            <option value="clock">the clock</option>
            <option value="names">names too</option>
            <option value="scores">names and scores</option>
          </select>
        </label>
        <v-btn
          :icon="sound ? mdiVolumeHigh : mdiVolumeOff"
          variant="text"
          :aria-label="sound ? 'Sound is on' : 'Sound is off'"
          @click="sound = !sound"
        />
        <v-btn
          :icon="mdiAccountVoice"
          :variant="voice ? 'outlined' : 'text'"
          :aria-label="voice ? 'Voice is on' : 'Voice is off'"
          :aria-pressed="voice"
          @click="voice = !voice"
        />
        <span v-if="unsent" class="unsent" role="status">
          ◁ kept on this device, not sent yet
        </span>
      </div>
      <p class="quiet keys no-print">
        <kbd>Space</kbd> start, pause, go on · <kbd>→</kbd> skip · <kbd>←</kbd> back · <kbd>+</kbd>
        <kbd>-</kbd> 15 s · <kbd>s</kbd> swap
      </p>
      <DoneRecord
        :lesson-id="lesson?.id ?? ''"
        :revision="state?.revision ?? null"
        :done="state?.done?.length ?? 0"
      />
      <Confirm
        v-model="asking"
        title="Start the whole lesson again?"
        words="The clock goes back to the beginning. Scores and pulses are not touched, and waves already worked keep their clock."
        yes="Start again"
        @yes="start"
      />
      <Confirm
        :model-value="confirmingWall !== null"
        title="Show this to everybody in the hall?"
        :words="
          confirmingWall === 'scores'
            ? 'Names and scores of the test that is on will be on the wall. Weaker children are easily shamed by that.'
            : 'The children’s names will be on the wall.'
        "
        yes="Show it"
        @update:model-value="confirmingWall = null"
        @yes="
          confirmingWall && lead.wall(confirmingWall);
          confirmingWall = null;
        "
      />
      <v-dialog v-model="swapping" max-width="560" aria-label="Swap">
        <form class="board stack" @submit.prevent="swap">
          <h2>Instead of {{ stations ? "a station" : isTest ? block?.label : current?.label }}</h2>
          <label v-if="stations" class="labelled">
            Station
            <select v-model="station" class="field">
              <option v-for="one in stations" :key="one" :value="one">{{ one }}</option>
            </select>
          </label>
          <label class="labelled">
            {{ isTest ? "Test that is done instead, from now on" : "What is done from now on" }}
            <input
              ref="insteadField"
              v-model="instead"
              class="field"
              maxlength="80"
              autocomplete="off"
              :list="isTest ? 'all-tests' : undefined"
            />
          </label>
          <datalist id="all-tests">
            <option v-for="one in tests.data.value" :key="one.id" :value="one.name" />
          </datalist>
          <p class="quiet">
            The clock stays as it is; use + 15 s or Skip to change it. The record says what was
            really done.
          </p>
          <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
          <div class="line">
            <v-btn type="submit" color="primary">Swap</v-btn>
            <v-btn variant="outlined" @click="swapping = false">Not now</v-btn>
          </div>
        </form>
      </v-dialog>
    </section>
  </LoadState>
</template>

<style scoped>
.conduct {
  display: grid;
  gap: 10px;
}
.notes {
  border-left: 6px solid var(--pennant);
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
}
.controls {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  align-items: center;
  gap: 12px;
}
.tall {
  min-height: 48px;
}
.keys {
  text-align: center;
}
.unsent {
  font-weight: 700;
  color: rgb(var(--v-theme-warning));
}
</style>
