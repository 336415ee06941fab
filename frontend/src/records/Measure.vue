<script setup lang="ts">
/**
 * One child after the other at the tape: the standing mark once, then a mark for each try; or one
 * length a try. A fall is jumped again.
 */
import { computed, nextTick, ref, useTemplateRef, watch } from "vue";
import { useLesson } from "../lessons/useLesson";
import Lane from "../parts/Lane.vue";
import LoadState from "../parts/LoadState.vue";
import StateMark from "../parts/StateMark.vue";
import { useUndoKey } from "../parts/useUndoKey";
import { quickProblem } from "./check";
import ConditionsLine from "./ConditionsLine.vue";
import Refused from "./Refused.vue";
import { useCapture, type TryCell } from "./useCapture";

const { activity } = useLesson();
const activityId = activity().id;
const { query, board, rows, put, outbox, again } = useCapture(activityId);
const active = ref(0);
const standing = ref(new Map<string, string>());
const typed = ref<Record<number, string>>({});
const problem = ref("");
const steps = ref<{ pupilId: string; tryNumber: number; before: string | null }[]>([]);
const standingField = useTemplateRef<HTMLInputElement>("standingField");
const tryFields = useTemplateRef<HTMLInputElement[]>("tryFields");

const row = computed(() => rows.value[active.value]);
const twoMarks = computed(() => board.value?.kind === "marks");
const done = computed(() => rows.value.filter((one) => one.state !== "empty").length);

/** The standing mark of a child: typed now, else the one its earlier try was measured from. */
const mark = computed({
  get: () => {
    const id = row.value?.child.pupil_id ?? "";
    const own = standing.value.get(id);
    if (own !== undefined) return own;
    const before = row.value?.tries.map(entryOf).find((text) => / /.test(text));
    return before?.split(/\s+/)[0] ?? "";
  },
  set: (text) => {
    if (row.value) standing.value = new Map(standing.value).set(row.value.child.pupil_id, text);
  },
});
function entryOf(cell: TryCell): string {
  if (cell.pending && !cell.pending.refusal) return cell.pending.body.typed ?? "";
  return cell.score?.typed ?? "";
}
let placed = false;
watch(
  () => rows.value.length,
  (length) => {
    if (!length || placed) return;
    placed = true;
    go(
      Math.max(
        0,
        rows.value.findIndex((one) => one.state === "empty"),
      ),
    );
  },
  { immediate: true },
);
function go(index: number) {
  active.value = Math.min(rows.value.length - 1, Math.max(0, index));
  typed.value = {};
  problem.value = "";
  void nextTick(() => {
    if (twoMarks.value && !mark.value) standingField.value?.focus();
    else focusTry(row.value?.tries.find((one) => one.state === "empty")?.number ?? 1);
  });
}
function focusTry(number: number) {
  tryFields.value?.[number - 1]?.focus();
}
function save(number: number, text = typed.value[number] ?? "") {
  const one = row.value;
  const entry = text.trim();
  if (!one || !board.value) return;
  const isReason = board.value.reasons.some((reason) => reason.key === entry.toLowerCase());
  if (!entry) {
    onwards(number);
    return;
  }
  if (twoMarks.value && !isReason && !mark.value.trim()) {
    problem.value = "Measure the standing mark first.";
    standingField.value?.focus();
    return;
  }
  const whole = twoMarks.value && !isReason ? `${mark.value.trim()} ${entry}` : entry;
  const keys = board.value.reasons.map((reason) => reason.key);
  const wrong = quickProblem(whole, board.value.quick_check, keys);
  if (wrong) {
    problem.value = `${wrong} ${board.value.accepted}`;
    return;
  }
  const cell = one.tries.find((each) => each.number === number);
  const before = cell && cell.state !== "empty" ? entryOf(cell) : null;
  steps.value.push({ pupilId: one.child.pupil_id, tryNumber: number, before });
  enter(number, whole, before !== null);
  typed.value = { ...typed.value, [number]: "" };
  problem.value = "";
  onwards(number);
}
function enter(number: number, entry: string, again: boolean) {
  const one = row.value;
  if (!one) return;
  put(one.child.pupil_id, number, {
    typed: entry,
    variant: one.variant,
    wave: one.wave,
    why: again ? "measured again" : "",
    withdrawn: entry === "",
  });
}
/** To the next try of this child, or to the next child after the last. */
function onwards(number: number) {
  const tries = row.value?.tries.length ?? 1;
  if (number < tries) focusTry(number + 1);
  else if (active.value < rows.value.length - 1) go(active.value + 1);
}
function undo() {
  const step = steps.value.pop();
  if (!step) return;
  const index = rows.value.findIndex((one) => one.child.pupil_id === step.pupilId);
  if (index < 0) return;
  go(index);
  enter(step.tryNumber, step.before ?? "", step.before !== null);
}
useUndoKey(undo);
</script>

<template>
  <LoadState :query="query">
    <section v-if="board && row" class="stack">
      <ConditionsLine :board="board" :child="null" :own="{}" />
      <div class="board one">
        <div class="line">
          <v-btn size="x-large" variant="outlined" :disabled="active === 0" @click="go(active - 1)">
            Back
          </v-btn>
          <h2 class="figure name" data-testid="child">{{ row.child.name }}</h2>
          <span v-if="row.child.medical_note" class="note">✚ {{ row.child.medical_note }}</span>
          <span class="space" />
          <span class="figure sum">{{ done }} / {{ rows.length }}</span>
          <v-btn size="x-large" variant="outlined" :disabled="!steps.length" @click="undo">
            Undo
          </v-btn>
          <v-btn
            size="x-large"
            color="primary"
            :disabled="active >= rows.length - 1"
            @click="go(active + 1)"
          >
            Next child
          </v-btn>
        </div>
        <div class="fields">
          <label v-if="twoMarks" class="labelled">
            Standing mark, {{ board.unit }}
            <input
              ref="standingField"
              v-model="mark"
              class="field large"
              inputmode="decimal"
              autocomplete="off"
              @keydown.enter.prevent="focusTry(1)"
            />
          </label>
          <label v-for="cell in row.tries" :key="cell.number" class="labelled">
            {{
              twoMarks ? `Mark at the top, try ${cell.number}` : `Try ${cell.number}, ${board.unit}`
            }}
            <input
              ref="tryFields"
              v-model="typed[cell.number]"
              class="field large"
              inputmode="decimal"
              autocomplete="off"
              :placeholder="cell.shown || '–'"
              @keydown.enter.prevent="save(cell.number)"
            />
            <span class="line">
              <StateMark v-if="cell.state !== 'empty'" :state="cell.state" />
              <b class="figure shown">{{ cell.shown }}</b>
              <v-btn size="large" variant="text" @click="save(cell.number, 'v')">Fell</v-btn>
              <v-btn size="large" variant="outlined" @click="save(cell.number)">Keep</v-btn>
            </span>
          </label>
          <p class="best">
            <span class="quiet">{{ board.merge }} of {{ board.tries }}</span>
            <b class="figure" data-testid="best">{{ row.shown || "–" }}</b>
          </p>
        </div>
        <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
        <Lane :lane="row.child.lane" :label="`Lane of ${row.child.name}`" named />
        <p>{{ row.child.words.join(" · ") }}</p>
      </div>
      <Refused :rows="rows" :outbox="outbox" :again="again" />
      <nav class="line" aria-label="Children">
        <button
          v-for="(one, index) in rows"
          :key="one.child.pupil_id"
          type="button"
          class="tag child"
          :aria-current="index === active"
          @click="go(index)"
        >
          {{ one.child.name }} <b v-if="one.shown" class="figure">{{ one.shown }}</b>
        </button>
      </nav>
    </section>
  </LoadState>
</template>

<style scoped>
.one {
  display: grid;
  gap: 14px;
}
.name {
  font-size: clamp(2rem, 4vw, 3.2rem);
  line-height: 1;
}
.note {
  color: var(--pennant);
}
.space {
  flex: 1;
}
.sum {
  font-size: 1.6rem;
}
.fields {
  display: flex;
  flex-wrap: wrap;
  gap: 20px;
  align-items: start;
}
.large {
  font-size: 2.2rem;
  min-height: 64px;
  width: 5.5em;
}
.shown {
  font-size: 1.6rem;
  min-width: 3em;
}
.best {
  display: grid;
}
.best b {
  font-size: 4rem;
  line-height: 0.9;
}
.child {
  min-height: 48px;
  padding: 0 12px;
}
.child[aria-current="true"] {
  background: var(--line);
  color: rgb(var(--v-theme-on-primary));
}
</style>
