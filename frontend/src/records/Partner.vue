<script setup lang="ts">
/** One works, the partner counts: the partner says the score, one pair after the other. */
import { computed, ref, watch } from "vue";
import { useLesson } from "../lessons/useLesson";
import LoadState from "../parts/LoadState.vue";
import { vFocus } from "../parts/focus";
import StateMark from "../parts/StateMark.vue";
import { useUndoKey } from "../parts/useUndoKey";
import CapturePad from "./CapturePad.vue";
import { quickProblem } from "./check";
import Refused from "./Refused.vue";
import { useCapture, type CaptureRow } from "./useCapture";

const { activity } = useLesson();
const { query, board, rows, put, outbox, again } = useCapture(activity().id);
const active = ref(0);
const typed = ref("");
const problem = ref("");
const sayers = ref(new Map<string, string>());
const steps = ref<{ pupilId: string; before: string | null }[]>([]);

/** Those who worked first, then their partners. */
const turns = computed(() => [...rows.value].sort((a, b) => a.wave - b.wave));
const row = computed<CaptureRow | undefined>(() => turns.value[active.value]);
const reasonKeys = computed(() => board.value?.reasons.map((reason) => reason.key) ?? []);
const done = computed(() => rows.value.filter((one) => one.state !== "empty").length);

/** Neighbours in the list are partners; an odd one out is counted by the one before. */
function sayer(one: CaptureRow): CaptureRow | undefined {
  const chosen = sayers.value.get(one.child.pupil_id);
  if (chosen) return rows.value.find((each) => each.child.pupil_id === chosen);
  const at = rows.value.findIndex((each) => each.child.pupil_id === one.child.pupil_id);
  return rows.value[at ^ 1] ?? rows.value[at - 1];
}
let placed = false;
watch(
  () => rows.value.length,
  (length) => {
    if (!length || placed) return;
    placed = true;
    const empty = turns.value.findIndex((one) => one.state === "empty");
    go(Math.max(0, empty));
  },
  { immediate: true },
);
function go(index: number) {
  active.value = Math.min(turns.value.length - 1, Math.max(0, index));
  typed.value = "";
  problem.value = "";
}
function save(text = typed.value) {
  const one = row.value;
  if (!one || !board.value) return;
  const entry = text.trim();
  if (!entry) {
    go(active.value + 1);
    return;
  }
  const wrong = quickProblem(entry, board.value.quick_check, reasonKeys.value);
  if (wrong) {
    problem.value = `${wrong} ${board.value.accepted}`;
    return;
  }
  steps.value.push({ pupilId: one.child.pupil_id, before: one.shown || null });
  enter(one, entry, false);
  go(active.value + 1);
}
function enter(one: CaptureRow, entry: string, withdrawn: boolean) {
  put(one.child.pupil_id, 1, {
    typed: entry,
    variant: one.variant,
    wave: one.wave,
    why: one.state === "empty" ? "" : withdrawn ? "undone" : "said again",
    withdrawn,
    counted_by: withdrawn ? null : (sayer(one)?.child.pupil_id ?? null),
  });
}
function undo() {
  const step = steps.value.pop();
  const index = turns.value.findIndex((one) => one.child.pupil_id === step?.pupilId);
  const one = turns.value[index];
  if (!step || !one) return;
  if (step.before === null) enter(one, "", true);
  else enter(one, step.before, false);
  go(index);
}
function onPad(key: string) {
  if (key === "save") save();
  else if (key === "undo") undo();
  else if (key === "back") typed.value = typed.value.slice(0, -1);
  else if (reasonKeys.value.includes(key)) save(key);
  else if (key.length === 1) typed.value += key;
}
function onKey(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const at = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (event.key === "Enter") save();
  else if (at) go(active.value + at);
  else if (!typed.value && reasonKeys.value.includes(event.key.toLowerCase()))
    save(event.key.toLowerCase());
  else return;
  event.preventDefault();
}
useUndoKey(undo);
</script>

<template>
  <LoadState :query="query">
    <section v-if="board && row" class="partner">
      <div class="ask board">
        <p class="line">
          <span class="figure sum">{{ done }} / {{ rows.length }}</span>
          <span v-if="board.waves > 1" class="quiet">wave {{ row.wave }}</span>
          <StateMark v-if="row.state !== 'empty'" :state="row.state" />
        </p>
        <h2 class="figure question" data-testid="question">
          {{ sayer(row)?.child.name ?? "You" }}, how many did <em>{{ row.child.name }}</em> do?
        </h2>
        <label class="line">
          Said by
          <select
            class="field tall"
            :value="sayer(row)?.child.pupil_id"
            @change="
              sayers = new Map(sayers).set(
                row.child.pupil_id,
                ($event.target as HTMLSelectElement).value,
              )
            "
          >
            <option
              v-for="one in rows.filter((each) => each !== row)"
              :key="one.child.pupil_id"
              :value="one.child.pupil_id"
            >
              {{ one.child.name }}
            </option>
          </select>
        </label>
        <label class="labelled">
          Score of {{ row.child.name }}
          <input
            :key="row.child.pupil_id"
            v-model="typed"
            v-focus
            class="field said"
            inputmode="none"
            autocomplete="off"
            :placeholder="row.shown || '–'"
            @keydown="onKey"
          />
        </label>
        <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
        <div class="line">
          <v-btn size="large" variant="outlined" :disabled="active === 0" @click="go(active - 1)">
            Back
          </v-btn>
          <v-btn
            size="large"
            variant="outlined"
            :disabled="active >= turns.length - 1"
            @click="go(active + 1)"
          >
            Later
          </v-btn>
        </div>
        <Refused :rows="rows" :outbox="outbox" :again="again" />
      </div>
      <CapturePad
        :name="row.child.name"
        :typed="typed"
        :kind="board.kind"
        :of="board.of ?? null"
        :reasons="board.reasons"
        variant=""
        :wave="null"
        try-words=""
        problem=""
        @press="onPad"
        @type="typed = $event"
      />
    </section>
  </LoadState>
</template>

<style scoped>
.partner {
  display: grid;
  grid-template-columns: 1fr minmax(300px, 380px);
  gap: 18px;
  align-items: start;
}
.ask {
  display: grid;
  gap: 14px;
}
.sum {
  font-size: 1.6rem;
}
.question {
  font-size: clamp(2rem, 4.6vw, 3.6rem);
  line-height: 1.05;
}
.question em {
  font-style: normal;
  color: var(--pennant);
}
.tall {
  min-height: 48px;
}
.said {
  font-size: 2.4rem;
  max-width: 6em;
  min-height: 64px;
}
@media (max-width: 800px) {
  .partner {
    grid-template-columns: 1fr;
  }
}
</style>
