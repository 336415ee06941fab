<script setup lang="ts">
/** Runs the whole plan: calls, times, rests; hands hardly needed. */
import { mdiAccountVoice, mdiVolumeHigh, mdiVolumeOff } from "@mdi/js";
import { useEventListener, useIntervalFn, useRafFn } from "@vueuse/core";
import { computed, onBeforeUnmount, ref } from "vue";
import Confirm from "../parts/Confirm.vue";
import LoadState from "../parts/LoadState.vue";
import * as conductor from "./conductor";
import HallClock from "./HallClock.vue";
import { play, speak, wake } from "./sound";
import { now } from "./timeSource";
import { useConductor } from "./useConductor";
import { useLesson } from "./useLesson";
import { useWakeLock } from "./useWakeLock";

const { lesson } = useLesson();
const lessonId = lesson.value?.id ?? "";
const lead = useConductor(lessonId);
const { query, plan, state, unsent } = lead;
const lock = useWakeLock();
const at = ref(now());
const sound = ref(localStorage.getItem("lauf.sound") !== "off");
const voice = ref(localStorage.getItem("lauf.voice") === "on");
const flash = ref("");
const spoken = ref("");
const asking = ref(false);
let heard: number | null = null;
let heardRun = "";

const place = computed(() => (state.value ? conductor.offset(state.value, at.value) : 0));
const paused = computed(() => state.value?.paused_ms != null);
const live = computed(() => state.value !== null && !state.value.ended);
const current = computed(() =>
  plan.value ? plan.value.segments[conductor.segmentAt(plan.value, place.value)] : undefined,
);
const block = computed(() => plan.value?.blocks[current.value?.block ?? -1]);
const stale = computed(
  () =>
    state.value !== null &&
    live.value &&
    query.data.value !== undefined &&
    state.value.plan_revision !== query.data.value.plan_revision,
);

function look() {
  at.value = now();
  const one = state.value;
  if (!one || one.ended || one.paused_ms != null || !plan.value) return;
  const to = conductor.offset(one, at.value);
  if (heardRun !== one.run_id || heard === null) {
    // Taken up after a reload: what has passed is not called again.
    heardRun = one.run_id;
    heard = to < 500 ? -1 : to;
  }
  if (to < heard) heard = to - 1; // went back
  const cues = conductor.passed(plan.value, heard, to);
  const from = heard;
  heard = to;
  const cue = cues.at(-1);
  if (cue) {
    flash.value = ["last", "count", "go"].includes(cue.kind) ? "" : cue.say;
    spoken.value = cue.say;
    if (sound.value) play(cue.kind);
    if (voice.value && cue.kind !== "last") speak(cue.say);
  } else if (flash.value && !conductor.passed(plan.value, to - 2_500, to).length) flash.value = "";
  lead.record(from, to);
  if (to >= plan.value.total_ms) lock.release();
}
useRafFn(look);
// A hidden tab gets no animation frames; the stop still has to be called.
useIntervalFn(look, 200);
onBeforeUnmount(() => lock.release());

function start() {
  wake();
  void lock.hold();
  flash.value = "";
  heard = null;
  asking.value = false;
  lead.start();
}
function togglePause() {
  wake();
  lead.togglePause();
  if (paused.value) lock.release();
  else void lock.hold();
}
function moveOn() {
  heard = null;
  flash.value = "";
  lead.skip();
}
function goBack() {
  heard = null;
  flash.value = "";
  lead.back();
}
function toggle(what: "sound" | "voice") {
  const one = what === "sound" ? sound : voice;
  one.value = !one.value;
  localStorage.setItem(`lauf.${what}`, one.value ? "on" : "off");
}
useEventListener("keydown", (event) => {
  const target = event.target as HTMLElement;
  if (event.ctrlKey || event.metaKey || event.altKey || target.closest("input,textarea,dialog")) {
    return;
  }
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
        </template>
        <v-btn v-if="state" size="x-large" variant="text" @click="asking = true">
          Start again
        </v-btn>
      </div>
      <div class="controls small">
        <v-btn
          v-if="block?.activity_id"
          variant="outlined"
          :to="{ name: 'capture', query: { activity: block.activity_id } }"
        >
          Take the scores of {{ block.label }}
        </v-btn>
        <v-btn variant="outlined" :to="{ name: 'pulse' }">Pulse</v-btn>
        <v-btn variant="outlined" :href="`/lessons/${lessonId}/projector`" target="_blank">
          Projector
        </v-btn>
        <v-btn
          :icon="sound ? mdiVolumeHigh : mdiVolumeOff"
          variant="text"
          :aria-label="sound ? 'Sound is on' : 'Sound is off'"
          @click="toggle('sound')"
        />
        <v-btn
          :icon="mdiAccountVoice"
          :variant="voice ? 'outlined' : 'text'"
          :aria-label="voice ? 'Voice is on' : 'Voice is off'"
          :aria-pressed="voice"
          @click="toggle('voice')"
        />
        <span v-if="unsent" class="unsent" role="status">
          ◁ kept on this device, not sent yet
        </span>
      </div>
      <p class="quiet keys no-print">
        <kbd>Space</kbd> start, pause, go on · <kbd>→</kbd> skip · <kbd>←</kbd> back · <kbd>+</kbd>
        <kbd>-</kbd> 15 s
      </p>
      <Confirm
        v-model="asking"
        title="Start the whole lesson again?"
        words="The clock goes back to the beginning. Scores and pulses are not touched, and waves already worked keep their clock."
        yes="Start again"
        @yes="start"
      />
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
.keys {
  text-align: center;
}
.unsent {
  font-weight: 700;
  color: rgb(var(--v-theme-warning));
}
</style>
