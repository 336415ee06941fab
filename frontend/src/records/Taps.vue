<script setup lang="ts">
/**
 * Hold and finish line: everybody starts together; a tap takes the time of a child as the form goes
 * or the line is crossed. Laps are counted, a wrong tap goes on, somebody unknown is named later.
 */
import { useRafFn } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import Confirm from "../parts/Confirm.vue";
import LoadState from "../parts/LoadState.vue";
import StateMark from "../parts/StateMark.vue";
import { useUndoKey } from "../parts/useUndoKey";
import { play, wake } from "../lessons/sound";
import { now } from "../parts/timeSource";
import { useLesson } from "../lessons/useLesson";
import { useOwnClock } from "../lessons/useOwnClock";
import { useWakeLock } from "../lessons/useWakeLock";
import { useSession } from "../people/session";
import ConditionsLine from "./ConditionsLine.vue";
import { GATE_TROUBLES, simulatedGate, type GateTrouble } from "./devices";
import Refused from "./Refused.vue";
import * as taps from "./taps";
import { useGate } from "./useGate";
import { useCapture, type CaptureRow } from "./useCapture";

const { activity } = useLesson();
const activityId = activity().id;
const { query, board, rows, put, outbox, again } = useCapture(activityId);
const lock = useWakeLock();
const tryNumber = ref(1);
const key = computed(() => `lauf.taps.${activityId}.${tryNumber.value}`);
const own = useOwnClock("taps", tryNumber);
const state = ref<taps.Taps>(taps.NONE);
const at = ref(now());
const typed = ref("");
const problem = ref("");
const asking = ref<"again" | "end" | null>(null);
/** Somebody who crossed and is being named. */
const naming = ref<number | null>(null);
const confirming = computed({
  get: () => asking.value !== null,
  set: (open) => {
    if (!open) asking.value = null;
  },
});

const holds = computed(() => board.value?.better === "up");
const laps = computed(() => state.value.laps ?? (holds.value ? 1 : (board.value?.laps ?? 1)));
const unknown = computed(() => state.value.taps.filter((one) => one.pupilId === null));
const clock = computed(() =>
  own.goAt.value === null ? "0.0" : taps.asTyped(Math.max(0, at.value - own.goAt.value)),
);
const going = computed(
  () => rows.value.filter((one) => one.state === "empty" && !isDone(one)).length,
);

watch(
  key,
  (name) => {
    try {
      state.value = JSON.parse(localStorage.getItem(name) ?? "") as taps.Taps;
    } catch {
      state.value = taps.NONE;
    }
    follow();
  },
  { immediate: true },
);
// A clock begun on another device, or again, has taps of its own.
watch(own.goAt, () => follow());
function follow() {
  if (own.goAt.value !== null && own.goAt.value !== state.value.started) {
    state.value = taps.start(own.goAt.value, state.value.laps);
  }
}
useRafFn(() => {
  at.value = now();
});

function keep(after: taps.Taps) {
  state.value = after;
  localStorage.setItem(key.value, JSON.stringify(after));
}
function setLaps(number: number) {
  const whole = board.value?.laps;
  problem.value = "";
  // A few metres beyond the last whole lap are run on with it: one lap fewer fits too.
  if (whole && number !== whole && number !== whole - 1) {
    problem.value = `The distance is ${whole} laps of this course: change its length for others.`;
    return;
  }
  keep({ ...state.value, laps: number >= 1 && number <= 200 ? Math.floor(number) : null });
}
function isDone(one: CaptureRow): boolean {
  return taps.finished(state.value, one.child.pupil_id, laps.value);
}
function start() {
  wake();
  void lock.hold();
  play("go");
  asking.value = null;
  keep(taps.start(own.start(), state.value.laps));
}
function send(one: CaptureRow, entry: string) {
  put(one.child.pupil_id, tryNumber.value, {
    typed: entry,
    variant: one.variant,
    wave: one.wave,
    why: "",
    withdrawn: false,
    run_id: own.run.value?.id ?? null,
  });
}
function takeBack(one: CaptureRow) {
  put(one.child.pupil_id, tryNumber.value, {
    typed: "",
    variant: "",
    wave: null,
    why: "wrong tap",
    withdrawn: true,
  });
}
/** After a change: who has finished by it is entered, who has no longer is taken back. */
function apply(after: taps.Taps) {
  const before = state.value;
  keep(after);
  for (const one of rows.value) {
    const id = one.child.pupil_id;
    const was = taps.finished(before, id, laps.value);
    const is = taps.finished(after, id, laps.value);
    const entry = taps.entryOf(after, id);
    if (is && (!was || entry !== taps.entryOf(before, id))) send(one, entry);
    else if (was && !is) takeBack(one);
  }
}
function tapOn(one: CaptureRow) {
  problem.value = "";
  if (naming.value !== null) {
    if (isDone(one)) problem.value = `${one.child.name} has a time already.`;
    else apply(taps.name(state.value, naming.value, one.child.pupil_id));
    naming.value = null;
    return;
  }
  apply(taps.tap(state.value, one.child.pupil_id, laps.value, now()));
}
function tapUnknown() {
  keep(taps.tap(state.value, null, laps.value, now()));
}
function undo() {
  if (state.value.taps.length) apply(taps.undo(state.value));
}
function goOn(one: CaptureRow) {
  apply(taps.resume(state.value, one.child.pupil_id));
}
function byNumber() {
  const text = typed.value.trim();
  const moment = now();
  typed.value = "";
  problem.value = "";
  if (!text) {
    keep(taps.tap(state.value, null, laps.value, moment));
    return;
  }
  const one = rows.value.find((row) => String(row.child.number) === text);
  if (!one) {
    problem.value = `There is no child ${text}: type a number from 1 to ${rows.value.length}.`;
    typed.value = text;
    return;
  }
  apply(taps.tap(state.value, one.child.pupil_id, laps.value, moment));
}
/** Who has not finished keeps the laps that were run. */
function endAll() {
  asking.value = null;
  lock.release();
  play("stop");
  own.stop();
  for (const one of rows.value) {
    const run = taps.lapsOf(state.value, one.child.pupil_id).length;
    if (!isDone(one) && run && board.value?.laps) send(one, `${run} laps`);
  }
}
function last(one: CaptureRow): string {
  const mine = taps.lapsOf(state.value, one.child.pupil_id);
  return mine.length ? taps.asTyped(mine.at(-1) ?? 0) : "";
}
const session = useSession();
const gateOn = ref(false);
const gateTrouble = ref<GateTrouble>("none");
const gate = useGate(
  activityId,
  simulatedGate(activityId, () => gateTrouble.value),
  gateOn,
  () => state.value.started,
  // A gate's passage is a tap at the gate's own time; the time source counts from the start.
  (pupilId, ms) =>
    apply(taps.tap(state.value, pupilId, laps.value, (state.value.started ?? 0) + ms)),
);
useUndoKey(undo);
</script>

<template>
  <LoadState :query="query">
    <section v-if="board" class="taps">
      <div class="hall-top">
        <p class="figure digits" data-testid="clock">{{ clock }}</p>
        <div class="stack">
          <div class="line">
            <v-btn v-if="state.started === null" color="primary" size="x-large" @click="start">
              Start everybody
            </v-btn>
            <template v-else>
              <v-btn size="x-large" variant="outlined" :disabled="!state.taps.length" @click="undo">
                Undo
              </v-btn>
              <v-btn size="x-large" variant="outlined" @click="tapUnknown">Somebody</v-btn>
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
                @change="setLaps(Number(($event.target as HTMLInputElement).value))"
              />
            </label>
            <label v-if="board.tries > 1" class="line">
              Try
              <select v-model.number="tryNumber" class="field">
                <option v-for="n in board.tries" :key="n" :value="n">{{ n }}</option>
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
          <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
        </div>
      </div>
      <Refused :rows="rows" :outbox="outbox" :again="again" />
      <div v-if="session.standIns && !holds && state.started !== null" class="board line gate">
        <v-btn size="large" variant="outlined" :aria-pressed="gateOn" @click="gateOn = !gateOn">
          {{ gateOn ? "Gate off" : "Gate on" }}
        </v-btn>
        <label class="line">
          Simulated gate:
          <select
            v-model="gateTrouble"
            class="field tall"
            aria-label="How the simulated gate behaves"
          >
            <option v-for="one in GATE_TROUBLES" :key="one.code" :value="one.code">
              {{ one.words }}
            </option>
          </select>
        </label>
        <span v-if="gate.passages.value" role="status">
          {{ gate.passages.value }} passages
          <template v-if="gate.leftOut.value.length">
            · left out: {{ gate.leftOut.value.join("; ") }}
          </template>
        </span>
        <span v-if="gate.problem.value" role="alert" class="problem">{{ gate.problem.value }}</span>
      </div>
      <ConditionsLine :board="board" :child="null" :own="{}" />
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
      <ul class="tiles">
        <li v-for="one in rows" :key="one.child.pupil_id" :class="{ done: isDone(one) }">
          <button
            type="button"
            class="tile"
            :disabled="state.started === null || (isDone(one) && naming === null)"
            @click="tapOn(one)"
          >
            <span class="number figure">{{ one.child.number }}</span>
            <span class="name">
              <span v-if="one.child.medical_note" class="note" :title="one.child.medical_note">
                ✚<span class="sr-only">medical note: {{ one.child.medical_note }}</span>
              </span>
              {{ one.child.name }}
            </span>
            <span v-if="!isDone(one)" class="figure result">{{ last(one) || one.shown }}</span>
            <span v-if="laps > 1" class="quiet lap">
              {{ taps.lapsOf(state, one.child.pupil_id).length }} / {{ laps
              }}<template v-if="!isDone(one) && taps.lapsOf(state, one.child.pupil_id).length"
                >, {{ laps - taps.lapsOf(state, one.child.pupil_id).length }} to go<br />
                lap {{ taps.asTyped(taps.lastLap(state, one.child.pupil_id)) }}</template
              >
            </span>
          </button>
          <span v-if="isDone(one)" class="after">
            <b class="figure result">{{ last(one) || one.shown }}</b>
            <StateMark class="kept" :state="one.state" />
            <v-btn
              size="large"
              variant="text"
              :aria-label="`${one.child.name} goes on`"
              @click="goOn(one)"
            >
              goes on
            </v-btn>
          </span>
        </li>
      </ul>
      <Confirm
        v-model="confirming"
        :title="asking === 'end' ? 'Is everybody in?' : 'Start everybody again?'"
        :words="
          asking === 'end'
            ? 'Who has not finished keeps the laps that were run.'
            : 'The clock goes back to nought. Times that were taken stay until they are taken anew.'
        "
        :yes="asking === 'end' ? 'All in' : 'Start again'"
        @yes="asking === 'end' ? endAll() : start()"
      />
    </section>
  </LoadState>
</template>

<style scoped>
.digits {
  font-size: clamp(4rem, 11vw, 8rem);
  min-width: 3.1em;
}
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
.num {
  width: 88px;
}
.gate {
  padding: 6px 12px;
  margin-bottom: 8px;
}
.tall {
  min-height: 48px;
}
.left {
  font-size: 1.6rem;
}
.unknown {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  border-color: var(--pennant);
  margin-bottom: 10px;
}
.unknown .tag {
  min-height: 48px;
  padding: 0 14px;
}
.unknown .tag[aria-pressed="true"] {
  background: var(--line);
  color: rgb(var(--v-theme-on-primary));
}
.lap {
  grid-column: 2;
}
.done .name {
  padding-right: 12px;
}
.after {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding-left: 10px;
}
.after .v-btn {
  padding: 0 6px;
}
.kept {
  position: absolute;
  top: 4px;
  right: 4px;
}
</style>
