<script setup lang="ts">
/**
 * The progressive 20 m shuttle run: beeps, stage and shuttle, and the drop-outs. A tap says that a
 * child missed the line at the last beep; two in a row end the run.
 */
import { useQuery } from "@tanstack/vue-query";
import { useEventListener, useIntervalFn, useRafFn } from "@vueuse/core";
import { computed, onBeforeUnmount, ref } from "vue";
import { answer, client } from "../api/client";
import { playIn, wake } from "../lessons/sound";
import { now } from "../parts/timeSource";
import { useLesson } from "../lessons/useLesson";
import { useOwnClock } from "../lessons/useOwnClock";
import { useWakeLock } from "../lessons/useWakeLock";
import Confirm from "../parts/Confirm.vue";
import LoadState from "../parts/LoadState.vue";
import StateMark from "../parts/StateMark.vue";
import { useUndoKey } from "../parts/useUndoKey";
import Refused from "./Refused.vue";
import * as shuttle from "./shuttle";
import { useCapture, type CaptureRow } from "./useCapture";

/** From the press to the start: time to toe the line. */
const READY_MS = 5_000;
const AHEAD_MS = 900;

const { activity } = useLesson();
const activityId = activity().id;
const { query, board, rows, put, outbox, again } = useCapture(activityId);
const sheet = useQuery({
  queryKey: ["beeps", activityId],
  queryFn: () =>
    answer(
      client.GET("/api/activities/{activity_id}/beeps", {
        params: { path: { activity_id: activityId } },
      }),
    ),
  staleTime: Infinity,
});
const beeps = computed(() => sheet.data.value?.beeps ?? []);
const lock = useWakeLock();
const key = `lauf.shuttle.${activityId}`;
const run = ref<shuttle.Run>(kept());
const own = useOwnClock("beeps");
const past = ref<{ run: shuttle.Run; pupilId: string }[]>([]);
const at = ref(now());
const asking = ref<"again" | "end" | null>(null);
const wave = ref(0);
const typed = ref("");
const problem = ref("");
const ahead = new Map<number, () => void>();

function kept(): shuttle.Run {
  try {
    return JSON.parse(localStorage.getItem(key) ?? "") as shuttle.Run;
  } catch {
    return shuttle.NONE;
  }
}
function keep(after: shuttle.Run) {
  run.value = after;
  localStorage.setItem(key, JSON.stringify(after));
}
own.follow(
  () => run.value.startedAt,
  (startedAt) => keep({ startedAt, runners: {} }),
);
const ms = computed(() => (run.value.startedAt === null ? 0 : at.value - run.value.startedAt));
const last = computed(() => shuttle.lastBeep(beeps.value, ms.value));
const on = computed(() => shuttle.current(beeps.value, ms.value));
const share = computed(() => {
  const from = last.value < 0 ? 0 : (beeps.value[last.value]?.at_ms ?? 0);
  const to = on.value?.at_ms ?? 1;
  return Math.min(1, Math.max(0, (ms.value - from) / Math.max(1, to - from)));
});
const shown = computed(() =>
  rows.value.filter((one) => wave.value === 0 || one.wave === wave.value),
);
const running = computed(() => shown.value.filter((one) => !score(one)).length);
const ended = computed(
  () => run.value.startedAt !== null && shown.value.length > 0 && !running.value,
);
const confirming = computed({
  get: () => asking.value !== null,
  set: (open) => {
    if (!open) asking.value = null;
  },
});

function look() {
  at.value = now();
  if (run.value.startedAt === null || ended.value) {
    hush();
    return;
  }
  // Tones go to the sound card ahead of time: a busy page does not delay them.
  for (let place = last.value + 1; place < beeps.value.length; place += 1) {
    const beep = beeps.value[place]!;
    if (beep.at_ms - ms.value > AHEAD_MS) break;
    if (ahead.has(place)) continue;
    const nextStage = beeps.value[place + 1]?.stage !== beep.stage;
    const takeBack = playIn(nextStage ? "next_stage" : "beep", beep.at_ms - ms.value);
    if (takeBack) ahead.set(place, takeBack);
  }
}
function hush() {
  for (const takeBack of ahead.values()) takeBack();
  ahead.clear();
}
useRafFn(look);
useIntervalFn(look, 200);
onBeforeUnmount(() => {
  hush();
  lock.release();
});

function start() {
  wake();
  void lock.hold();
  hush();
  asking.value = null;
  past.value = [];
  for (const n of [3, 2, 1]) playIn("count", READY_MS - n * 1000);
  playIn("go", READY_MS);
  keep({ startedAt: own.start(READY_MS), runners: {} });
}
function score(one: CaptureRow): string | null {
  return shuttle.runner(run.value, one.child.pupil_id).score;
}
function warned(one: CaptureRow): boolean {
  return shuttle.isWarned(shuttle.runner(run.value, one.child.pupil_id), last.value);
}
function send(one: CaptureRow, entry: string, withdrawn = false) {
  put(one.child.pupil_id, 1, {
    typed: entry,
    variant: withdrawn ? "" : one.variant,
    wave: withdrawn ? null : one.wave,
    why: withdrawn ? "wrong tap" : "",
    withdrawn,
  });
}
/** After a tap: who is out by it is entered, who is no longer is taken back. */
function apply(one: CaptureRow, after: shuttle.Run) {
  const before = score(one);
  keep(after);
  const is = score(one);
  if (is && is !== before) send(one, is);
  else if (before && !is) send(one, "", true);
}
function change(one: CaptureRow, after: shuttle.Run) {
  if (after === run.value) return;
  past.value = [...past.value.slice(-60), { run: run.value, pupilId: one.child.pupil_id }];
  apply(one, after);
}
function tap(one: CaptureRow) {
  change(
    one,
    shuttle.miss(run.value, beeps.value, one.child.pupil_id, now() - run.value.startedAt!),
  );
}
function stops(one: CaptureRow) {
  change(
    one,
    shuttle.stop(run.value, beeps.value, one.child.pupil_id, now() - run.value.startedAt!),
  );
}
function goesOn(one: CaptureRow) {
  change(one, shuttle.goesOn(run.value, one.child.pupil_id));
}
function undo() {
  const step = past.value.at(-1);
  if (!step) return;
  past.value = past.value.slice(0, -1);
  const one = rows.value.find((row) => row.child.pupil_id === step.pupilId);
  if (one) apply(one, step.run);
}
function endAll() {
  asking.value = null;
  for (const one of shown.value) if (!score(one)) stops(one);
  own.stop();
  hush();
  lock.release();
}
function byNumber() {
  const text = typed.value.trim();
  typed.value = "";
  problem.value = "";
  const one = shown.value.find((row) => String(row.child.number) === text);
  if (!one) problem.value = `There is no child ${text || "without a number"} here.`;
  else if (score(one)) problem.value = `${one.child.name} is out already.`;
  else tap(one);
}
useUndoKey(undo);
useEventListener("keydown", (event) => {
  if (
    event.key === " " &&
    run.value.startedAt === null &&
    !(event.target as HTMLElement).closest("button,input,select")
  ) {
    event.preventDefault();
    start();
  }
});
</script>

<template>
  <LoadState :query="query">
    <section v-if="board && on" class="run">
      <div class="hall-top">
        <p class="figure digits" data-testid="stage">
          {{ ended ? "End" : ms < 0 ? Math.ceil(-ms / 1000) : `${on.stage}.${on.shuttle}` }}
        </p>
        <div class="stack">
          <p class="figure speed">
            Stage {{ on.stage }} · {{ on.speed }} km/h ·
            <span data-testid="running">{{ running }} running</span>
          </p>
          <div class="track" aria-hidden="true">
            <span
              class="runner"
              :style="{ left: `${(last % 2 === 0 ? 1 - share : share) * 100}%` }"
            />
          </div>
          <div class="line">
            <v-btn v-if="run.startedAt === null" color="primary" size="x-large" @click="start">
              Start
            </v-btn>
            <template v-else>
              <v-btn size="x-large" variant="outlined" :disabled="!past.length" @click="undo">
                Undo
              </v-btn>
              <v-btn v-if="!ended" size="x-large" variant="outlined" @click="asking = 'end'">
                All stop
              </v-btn>
              <v-btn size="x-large" variant="text" @click="asking = 'again'">Start again</v-btn>
            </template>
            <label v-if="board.waves > 1" class="line">
              Running
              <select v-model.number="wave" class="field tall">
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
          </div>
          <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
        </div>
      </div>
      <p class="quiet">
        Tap a child who misses the line: a warning first, out at the second in a row. No maximal run
        for an unwell child; taking part is optional. Stop for pain, dizziness, chest tightness or
        wheeze.
      </p>
      <Refused :rows="rows" :outbox="outbox" :again="again" />
      <ul class="tiles">
        <li v-for="one in shown" :key="one.child.pupil_id">
          <button
            type="button"
            class="tile"
            :class="{ warned: warned(one), done: score(one) }"
            :disabled="run.startedAt === null || last < 0 || score(one) !== null"
            @click="tap(one)"
          >
            <span class="number figure">{{ one.child.number }}</span>
            <span class="name">
              <span v-if="one.child.medical_note" class="note" :title="one.child.medical_note">
                ✚<span class="sr-only">medical note: {{ one.child.medical_note }}</span>
              </span>
              {{ one.child.name }}
            </span>
            <span v-if="score(one) || warned(one) || one.shown" class="figure result">
              <template v-if="score(one)">{{ score(one) }}</template>
              <template v-else-if="warned(one)">! warned</template>
              <template v-else>{{ run.startedAt === null ? one.shown : "" }}</template>
            </span>
          </button>
          <span class="after">
            <StateMark v-if="score(one)" :state="one.state" />
            <v-btn
              v-if="score(one)"
              size="large"
              variant="text"
              :aria-label="`${one.child.name} runs on`"
              @click="goesOn(one)"
            >
              runs on
            </v-btn>
            <v-btn
              v-else-if="run.startedAt !== null && ms > 0"
              size="large"
              variant="text"
              :aria-label="`${one.child.name} stops`"
              @click="stops(one)"
            >
              stops
            </v-btn>
          </span>
        </li>
      </ul>
      <Confirm
        v-model="confirming"
        :title="asking === 'end' ? 'Does everybody stop?' : 'Start everybody again?'"
        :words="
          asking === 'end'
            ? 'Who still runs keeps the last line made.'
            : 'The beeps begin anew. Scores that were taken stay until they are taken anew.'
        "
        :yes="asking === 'end' ? 'All stop' : 'Start again'"
        @yes="asking === 'end' ? endAll() : start()"
      />
    </section>
  </LoadState>
</template>

<style scoped>
.digits {
  font-size: clamp(5rem, 15vw, 11rem);
  min-width: 2.1em;
}
.tiles {
  margin-top: 8px;
}
.tile {
  min-height: 52px;
}
.speed {
  font-size: 1.8rem;
}
.track {
  position: relative;
  height: 26px;
  border-left: 6px solid var(--line);
  border-right: 6px solid var(--line);
  background: linear-gradient(var(--rule), var(--rule)) center / 100% 2px no-repeat;
}
.runner {
  position: absolute;
  top: 2px;
  width: 22px;
  height: 22px;
  margin-left: -11px;
  background: var(--pennant);
  border-radius: 3px;
}
.tall {
  min-height: 48px;
}
.num {
  width: 84px;
  min-height: 48px;
}
.tiles li:has(.warned) {
  border: 5px double var(--pennant);
}
.tiles li:has(.done) {
  background: transparent;
  border-style: dashed;
}
.after {
  display: flex;
  align-items: center;
  justify-content: end;
  min-height: 48px;
}
</style>
