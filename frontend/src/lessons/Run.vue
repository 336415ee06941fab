<script setup lang="ts">
import { mdiVolumeHigh, mdiVolumeOff } from "@mdi/js";
import { useEventListener, useIntervalFn, useRafFn } from "@vueuse/core";
import { computed, onBeforeUnmount, ref } from "vue";
import { useRoute } from "vue-router";
import { v4 as newId } from "uuid";
import Confirm from "../parts/Confirm.vue";
import * as clock from "../sheet/run";
import { play, switched, turn, wake } from "../parts/sound";
import { now } from "../parts/timeSource";
import { useLesson } from "./useLesson";
import { useRuns } from "../sheet/useRun";
import { useLitScreen } from "../parts/useLitScreen";

const route = useRoute();
const { lesson, activity } = useLesson();
const test = activity();
const kept = useRuns(
  test.id,
  computed(() => activity().runs),
);

const waves = Array.from({ length: test.waves }, (_, index) => index + 1);
/** The first wave that has not been worked, so that a reload comes back to the right one. */
function nextWave(): number {
  return waves.find((n) => !clock.currentRun(kept.runs.value, n)?.ended) ?? waves.length;
}
const wave = ref(nextWave());
const at = ref(now());
const sound = ref(switched("sound", true));
const flash = ref("");
const spoken = ref("");
const asking = ref(false);
let heard = -1;
let heardRun = "";

const run = computed(() => clock.currentRun(kept.runs.value, wave.value));
const passedMs = computed(() => (run.value ? clock.offset(run.value, at.value) : 0));
const live = computed(() => run.value !== null && run.value.ended === "");
const paused = computed(() => live.value && run.value?.paused_ms != null);
const working = computed(() => passedMs.value >= test.go_ms);
const shown = computed(() => {
  if (!run.value) return test.seconds ?? 0;
  if (run.value.ended) return 0;
  return Math.max(0, clock.secondsShown(passedMs.value, test.go_ms, test.total_ms));
});
const share = computed(() =>
  run.value
    ? Math.min(1, Math.max(0, (passedMs.value - test.go_ms) / (test.total_ms - test.go_ms)))
    : 0,
);
const state = computed(() => {
  if (!run.value) return `Wave ${wave.value} of ${test.waves}`;
  if (run.value.ended === "early") return `Stopped after ${run.value.worked_seconds} s`;
  if (run.value.ended === "complete") return "Stop";
  if (paused.value) return "Paused";
  return flash.value || (working.value ? "Work" : "Get ready");
});
const done = computed(() => Boolean(run.value?.ended));
const last = computed(() => wave.value === waves.length);
const lock = useLitScreen();

function look() {
  at.value = now();
  const current = run.value;
  if (!test.seconds || !current || current.ended || current.paused_ms != null) return;
  const offset = clock.offset(current, at.value);
  if (heardRun !== current.id) {
    // Taken up after a reload: what has passed is not called again.
    heardRun = current.id;
    heard = offset < 500 ? -1 : offset;
  }
  const cues = clock.passed(test.cues, heard, offset);
  heard = offset;
  const cue = cues.at(-1);
  if (cue) {
    flash.value = cue.kind === "last" || cue.kind === "count" ? "" : cue.say;
    spoken.value = cue.say;
    play(cue.kind);
  }
  if (offset >= test.total_ms) {
    kept.keep(clock.end(current, "complete", at.value, test.go_ms));
    lock.release();
  }
}
useRafFn(look);
// A hidden tab gets no animation frames; the stop still has to be called.
useIntervalFn(look, 200);
onBeforeUnmount(() => {
  lock.release();
});

function start() {
  wake();
  lock.hold();
  flash.value = "";
  kept.keep(clock.startRun(newId(), wave.value, now()));
}
function togglePause() {
  const current = run.value;
  if (!current) return;
  wake();
  const change = current.paused_ms == null ? clock.pause : clock.resume;
  kept.keep(change(current, now()));
  if (current.paused_ms == null) lock.release();
  else lock.hold();
}
function stopEarly() {
  if (!run.value || !live.value) return;
  kept.keep(clock.end(run.value, working.value ? "early" : "restarted", now(), test.go_ms));
  lock.release();
  play("stop");
}
function restart() {
  asking.value = false;
  if (run.value) kept.keep(clock.end(run.value, "restarted", now(), test.go_ms));
  lock.release();
}
function toggleSound() {
  sound.value = !sound.value;
  turn("sound", sound.value);
}
function following() {
  wave.value = Math.min(waves.length, wave.value + 1);
  flash.value = "";
}

useEventListener("keydown", (event) => {
  const target = event.target as HTMLElement;
  if (event.ctrlKey || event.metaKey || event.altKey || target.closest("input,textarea,dialog")) {
    return;
  }
  if (!test.seconds) return;
  if (event.key === " ") {
    if (target.closest("button")) return; // the pressed button does it
    event.preventDefault();
    if (!run.value) start();
    else if (live.value) togglePause();
    else if (!last.value) following();
  } else if (event.key === "s") stopEarly();
  else if (event.key === "r" && run.value) asking.value = true;
  else if (event.key === "m") toggleSound();
});
</script>

<template>
  <section class="run" :class="{ live }">
    <aside v-if="!live" class="brief">
      <div v-if="lesson?.medical_notes.length" class="board notes">
        <h2>Before you start</h2>
        <ul>
          <li v-for="note in lesson.medical_notes" :key="note.pupil_id">
            <strong>{{ note.name }}</strong> {{ note.note }}
          </li>
        </ul>
      </div>
      <div class="board">
        <h2>Say</h2>
        <ol>
          <li v-for="line in test.say" :key="line">{{ line }}</li>
        </ol>
        <h2>Counts</h2>
        <ul>
          <li v-for="line in test.counts" :key="line">{{ line }}</li>
        </ul>
        <h2>Does not count</h2>
        <ul>
          <li v-for="line in test.does_not_count" :key="line">{{ line }}</li>
        </ul>
      </div>
      <div class="board care">
        <h2>Take care</h2>
        <ul>
          <li v-for="line in test.cautions" :key="line">{{ line }}</li>
        </ul>
      </div>
    </aside>
    <div v-if="!test.seconds" class="hall board">
      <p class="state figure">{{ test.test }}</p>
      <p>
        This test ends by itself and has no clock of its own: take each score as the child ends.
      </p>
      <p class="controls mt-4">
        <v-btn
          v-if="test.kind === 'time'"
          color="primary"
          size="x-large"
          :to="{ name: 'tap', query: route.query }"
        >
          Start everybody, tap as they end
        </v-btn>
        <v-btn color="primary" size="x-large" :to="{ name: 'list', query: route.query }">
          Take the scores
        </v-btn>
      </p>
    </div>
    <div v-else class="hall">
      <div class="waves" role="group" aria-label="Waves">
        <button
          v-for="n in waves"
          :key="n"
          type="button"
          :aria-pressed="n === wave"
          :disabled="live && n !== wave"
          @click="wave = n"
        >
          Wave {{ n }}
          <span v-if="clock.currentRun(kept.runs.value, n)?.ended === 'complete'">✓ done</span>
          <span v-else-if="clock.currentRun(kept.runs.value, n)?.ended === 'early'">
            ✓ {{ clock.currentRun(kept.runs.value, n)?.worked_seconds }} s
          </span>
        </button>
        <v-btn
          :icon="sound ? mdiVolumeHigh : mdiVolumeOff"
          variant="text"
          :aria-label="sound ? 'Sound is on' : 'Sound is off'"
          @click="toggleSound"
        />
      </div>
      <p class="state figure" :class="{ flash: flash }" data-testid="state">{{ state }}</p>
      <p class="digits figure" :class="{ work: live && working }" data-testid="clock">
        {{ shown }}
      </p>
      <p class="sr-only" role="status" aria-live="assertive">{{ spoken }}</p>
      <div class="track" aria-hidden="true">
        <span class="runner" :style="{ left: `${share * 100}%` }" />
        <span class="half" />
      </div>
      <div class="controls">
        <v-btn v-if="!run" color="primary" size="x-large" @click="start">
          Start wave {{ wave }}
        </v-btn>
        <template v-if="live">
          <v-btn color="primary" size="x-large" @click="togglePause">
            {{ paused ? "Go on" : "Pause" }}
          </v-btn>
          <v-btn variant="outlined" size="x-large" @click="stopEarly">
            {{ working ? "Stop early" : "Cancel" }}
          </v-btn>
        </template>
        <template v-if="done">
          <v-btn v-if="!last" color="primary" size="x-large" @click="following">
            Swap: wave {{ wave + 1 }}
          </v-btn>
          <v-btn v-else color="primary" size="x-large" :to="{ name: 'list', query: route.query }">
            Take the scores
          </v-btn>
        </template>
        <v-btn v-if="run" variant="outlined" size="x-large" @click="asking = true">Restart</v-btn>
      </div>
      <p v-if="run?.ended === 'early'" class="quiet said">
        Scores of this wave are kept as made in {{ run.worked_seconds }} s and are not compared with
        {{ test.seconds }} s.
      </p>
      <p v-if="kept.problem.value" role="alert" class="said">{{ kept.problem.value }}</p>
      <p class="keys quiet no-print">
        <kbd>Space</kbd> start, pause, go on · <kbd>S</kbd> stop early · <kbd>R</kbd> restart ·
        <kbd>M</kbd> sound
      </p>
    </div>
    <Confirm
      v-model="asking"
      title="Start this wave again?"
      words="The clock goes back to the beginning. That it was started before stays on record; scores are not touched."
      yes="Start again"
      @yes="restart"
    />
  </section>
</template>

<style scoped>
.run {
  display: grid;
  grid-template-columns: minmax(320px, 5fr) 7fr;
  gap: 20px;
}
.run.live {
  grid-template-columns: 1fr;
}
.brief {
  display: grid;
  gap: 12px;
  align-content: start;
}
.brief h2 {
  font-size: 1.3rem;
}
.brief h2:not(:first-child) {
  margin-top: 10px;
}
.brief ol,
.brief ul {
  padding-left: 20px;
}
.notes {
  border-left: 6px solid var(--pennant);
}
.notes ul {
  list-style: "✚ ";
}
.hall {
  text-align: center;
  align-self: start;
  position: sticky;
  top: 12px;
}
.waves {
  display: flex;
  justify-content: center;
  gap: 8px;
}
.waves button:not(.v-btn) {
  min-height: 48px;
  min-width: 120px;
  border: 2px solid var(--rule);
  border-radius: 4px;
  font-weight: 700;
}
.waves button[aria-pressed="true"] {
  border-color: var(--line);
  border-width: 3px;
}
.state {
  font-size: clamp(2.2rem, 6vw, 4.4rem);
  min-height: 1.1em;
  margin-top: 10px;
}
.state.flash {
  color: var(--pennant);
}
.digits {
  font-size: clamp(9rem, 30vw, 21rem);
  line-height: 0.86;
  font-variant-numeric: tabular-nums;
  color: var(--chalk);
}
.digits.work {
  color: var(--ink);
}
.run.live .digits {
  font-size: clamp(11rem, 46vh, 30rem);
}
.track {
  position: relative;
  height: 34px;
  margin: 18px 20px;
  border-top: 3px solid var(--line);
  border-bottom: 3px solid var(--line);
}
.track .half {
  position: absolute;
  left: 50%;
  top: 0;
  bottom: 0;
  border-left: 3px solid var(--line);
}
.track .runner {
  position: absolute;
  top: 4px;
  width: 20px;
  height: 20px;
  margin-left: -10px;
  background: var(--pennant);
  border-radius: 3px;
}
.controls {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  gap: 12px;
}
.said {
  margin-top: 12px;
}
.keys {
  margin-top: 18px;
}
@media (max-width: 860px) {
  .run {
    grid-template-columns: 1fr;
  }
  .hall {
    order: -1;
    position: static;
  }
  .keys {
    display: none;
  }
}
</style>
