<script setup lang="ts">
/**
 * Up to six children counted at once by tapping large areas. A swipe to the left or Shift and the
 * number takes one back. Nothing is a score before it is kept; who was not tapped stays blank.
 */
import { useEventListener, useRafFn } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { play, wake } from "../lessons/sound";
import { now } from "../parts/timeSource";
import { useLesson } from "../lessons/useLesson";
import { useOwnClock } from "../lessons/useOwnClock";
import { useWakeLock } from "../lessons/useWakeLock";
import Confirm from "../parts/Confirm.vue";
import LoadState from "../parts/LoadState.vue";
import StateMark from "../parts/StateMark.vue";
import { useUndoKey } from "../parts/useUndoKey";
import Refused from "./Refused.vue";
import * as tally from "./tally";
import { useCapture } from "./useCapture";

const READY_MS = 3_000;
const SWIPE_PX = 60;

const { activity } = useLesson();
const one = activity();
const { query, board, rows, put, outbox, again } = useCapture(one.id);
const lock = useWakeLock();
const key = `lauf.tally.${one.id}`;
const own = useOwnClock("tally");
const state = ref<tally.Tally>(kept());
const at = ref(now());
const choosing = ref<number | null>(null);
const asking = ref(false);
const said = ref("");
let pressed: { pupilId: string; x: number } | null = null;
let swiped = false;
let counted = 0;

function kept(): tally.Tally {
  try {
    return JSON.parse(localStorage.getItem(key) ?? "") as tally.Tally;
  } catch {
    return tally.begin([]);
  }
}
function keep(after: tally.Tally) {
  state.value = after;
  localStorage.setItem(key, JSON.stringify(after));
}
const seconds = computed(() => one.seconds ?? 0);
const areas = computed(() =>
  state.value.pupils.flatMap((id) => rows.value.filter((row) => row.child.pupil_id === id)),
);
const left = computed(() => {
  if (state.value.goAt === null) return null;
  const passed = at.value - state.value.goAt;
  if (passed < 0) return Math.ceil(-passed / 1000);
  return Math.max(0, Math.ceil((state.value.seconds * 1000 - passed) / 1000));
});
const stopped = computed(
  () => state.value.goAt !== null && at.value >= state.value.goAt + state.value.seconds * 1000,
);
const ready = computed(() => state.value.goAt !== null && at.value < state.value.goAt);

/** The next ones without a score, those of the first wave first. */
function next(): string[] {
  const empty = rows.value.filter((row) => row.state === "empty");
  const wave = Math.min(...empty.map((row) => row.wave));
  return empty.filter((row) => row.wave === wave).map((row) => row.child.pupil_id);
}
watch(
  () => rows.value.length,
  (length) => {
    if (length && !state.value.pupils.length) keep(tally.begin(next(), seconds.value));
  },
  { immediate: true },
);
own.follow(
  () => state.value.goAt,
  (goAt) => keep({ ...state.value, taps: [], goAt, seconds: seconds.value }),
);
useRafFn(() => {
  const before = at.value;
  at.value = now();
  const go = state.value.goAt;
  if (go === null) return;
  const cue = (moment: number) => before < moment && at.value >= moment;
  const stop = go + state.value.seconds * 1000;
  if (cue(go)) play("go");
  else if (cue(stop)) {
    play("stop");
    lock.release();
  } else if ([3, 2, 1].some((n) => cue(go - n * 1000))) play("count");
  else if ([5, 4, 3, 2, 1].some((n) => cue(stop - n * 1000))) play("last");
});

function start() {
  wake();
  void lock.hold();
  play("count");
  keep({ ...state.value, taps: [], goAt: own.start(READY_MS), seconds: seconds.value });
}
function add(pupilId: string) {
  const after = tally.tap(state.value, pupilId, now());
  said.value = after === state.value ? "The clock does not run: that does not count." : "";
  keep(after);
}
function takeBack(pupilId?: string) {
  keep(tally.undo(state.value, pupilId));
  said.value = "";
}
function onDown(event: PointerEvent, pupilId: string) {
  pressed = { pupilId, x: event.clientX };
  swiped = false;
}
function onMove(event: PointerEvent) {
  if (!pressed || swiped || pressed.x - event.clientX < SWIPE_PX) return;
  swiped = true;
  takeBack(pressed.pupilId);
}
function onUp(pupilId: string) {
  if (pressed?.pupilId === pupilId && !swiped) {
    counted = performance.now();
    add(pupilId);
  }
  pressed = null;
}
/** Keyboards and readers press without a pointer. */
function onClick(pupilId: string) {
  if (performance.now() - counted > 600 && !swiped) add(pupilId);
}
function choose(place: number, pupilId: string) {
  choosing.value = null;
  keep(tally.replace(state.value, place, pupilId));
}
function save() {
  asking.value = false;
  for (const row of areas.value) {
    const number = tally.count(state.value, row.child.pupil_id);
    if (!number) continue;
    put(row.child.pupil_id, 1, {
      typed: String(number),
      variant: row.variant,
      wave: row.wave,
      why: row.state === "empty" ? "" : "tallied again",
      withdrawn: false,
    });
  }
  own.stop();
  const done = new Set(state.value.taps);
  const following = next().filter((id) => !done.has(id));
  said.value = `${done.size} kept.`;
  keep(tally.begin(following, seconds.value));
}
function askSave() {
  const again = areas.value.some(
    (row) => row.state !== "empty" && tally.count(state.value, row.child.pupil_id),
  );
  if (again) asking.value = true;
  else save();
}
useUndoKey(() => takeBack());
useEventListener("keydown", (event) => {
  const target = event.target as HTMLElement;
  if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
  if (target.closest("input,select,textarea,.v-overlay")) return;
  const place = /^(?:Digit|Numpad)([1-6])$/.exec(event.code)?.[1];
  const pupilId = state.value.pupils[Number(place) - 1];
  if (!place || !pupilId) return;
  event.preventDefault();
  if (event.shiftKey) takeBack(pupilId);
  else add(pupilId);
});
</script>

<template>
  <LoadState :query="query">
    <section v-if="board" class="tally">
      <div class="line top">
        <span v-if="left !== null" class="figure digits" data-testid="clock">
          {{ ready ? `in ${left}` : left }}
        </span>
        <v-btn
          v-if="seconds"
          size="x-large"
          :color="left === null ? 'primary' : undefined"
          @click="start"
        >
          {{ left === null ? `Start ${seconds} s` : "Start again" }}
        </v-btn>
        <v-btn size="x-large" variant="outlined" :disabled="!state.taps.length" @click="takeBack()">
          Undo
        </v-btn>
        <v-btn
          size="x-large"
          :color="left === null || stopped ? 'primary' : undefined"
          :disabled="!state.taps.length || ready || (left !== null && !stopped)"
          @click="askSave"
        >
          Keep these
        </v-btn>
        <span class="quiet">
          Tap counts one; swipe left takes it back. <kbd>1</kbd>–<kbd>6</kbd>,
          <kbd>Shift</kbd> takes back.
        </span>
        <strong role="status">{{ said }}</strong>
      </div>
      <Refused :rows="rows" :outbox="outbox" :again="again" />
      <p v-if="!areas.length" class="board">
        Everybody has a score. Choose somebody again in the grid, or type there.
      </p>
      <ol class="areas">
        <li v-for="(row, place) in areas" :key="row.child.pupil_id">
          <button
            type="button"
            class="area"
            :class="{ still: !ready && left !== null && stopped }"
            @pointerdown="onDown($event, row.child.pupil_id)"
            @pointermove="onMove"
            @pointerup="onUp(row.child.pupil_id)"
            @pointercancel="pressed = null"
            @click="onClick(row.child.pupil_id)"
          >
            <span class="figure count">{{ tally.count(state, row.child.pupil_id) }}</span>
            <span class="name"
              ><kbd aria-hidden="true">{{ place + 1 }}</kbd> {{ row.child.name }}</span
            >
          </button>
          <div class="under">
            <v-btn size="large" variant="text" @click="takeBack(row.child.pupil_id)">
              − 1<span class="sr-only"> for {{ row.child.name }}</span>
            </v-btn>
            <v-btn
              size="large"
              variant="text"
              :aria-expanded="choosing === place"
              @click="choosing = choosing === place ? null : place"
            >
              Somebody else
            </v-btn>
            <StateMark v-if="row.state !== 'empty'" :state="row.state" />
            <span v-if="row.shown" class="quiet">has {{ row.shown }}</span>
          </div>
          <select
            v-if="choosing === place"
            class="field tall"
            :aria-label="`Who is counted instead of ${row.child.name}`"
            @change="choose(place, ($event.target as HTMLSelectElement).value)"
          >
            <option value="">choose a child</option>
            <option
              v-for="other in rows.filter((r) => !state.pupils.includes(r.child.pupil_id))"
              :key="other.child.pupil_id"
              :value="other.child.pupil_id"
            >
              {{ other.child.name }} {{ other.shown }}
            </option>
          </select>
        </li>
      </ol>
      <Confirm
        v-model="asking"
        title="Some have a score already"
        words="What was tallied now takes its place; the earlier entry stays on record as corrected."
        yes="Keep the new ones"
        @yes="save"
      />
    </section>
  </LoadState>
</template>

<style scoped>
.top {
  margin-bottom: 10px;
}
.digits {
  font-size: 4rem;
  line-height: 0.9;
  min-width: 2.2em;
}
.areas {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 12px;
}
.area {
  width: 100%;
  height: clamp(120px, calc((100vh - 480px) / 2), 300px);
  border: 3px solid var(--line);
  border-radius: 8px;
  background: var(--board);
  color: var(--ink);
  display: grid;
  align-content: center;
  justify-items: center;
  touch-action: pan-y;
  user-select: none;
}
.area:active {
  background: var(--rule);
}
.area.still {
  border-color: var(--rule);
}
.count {
  font-size: clamp(4rem, 13vh, 9rem);
  line-height: 0.9;
}
.name {
  font-weight: 700;
  font-size: 1.15rem;
}
.under {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px;
}
.tall {
  min-height: 48px;
  width: 100%;
}
@media (max-width: 700px) {
  .areas {
    grid-template-columns: repeat(2, 1fr);
  }
}
</style>
