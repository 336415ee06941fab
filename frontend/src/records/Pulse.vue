<script setup lang="ts">
/**
 * Everyone's pulse: beats typed down the class, moment after moment. The conversion, what it
 * resolves, and what is odd about it come from the rules.
 */
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { useDebounceFn } from "@vueuse/core";
import { computed, nextTick, onBeforeUnmount, reactive, ref, useTemplateRef, watch } from "vue";
import { v4 as newId } from "uuid";
import { useRoute } from "vue-router";
import { answer, client, type Schemas } from "../api/client";
import { now } from "../parts/timeSource";
import { useSession } from "../people/session";
import { useLesson } from "../lessons/useLesson";
import LoadState from "../parts/LoadState.vue";
import { useUndoKey } from "../parts/useUndoKey";
import StateMark from "../parts/StateMark.vue";
import Belts from "./Belts.vue";
import PulseCount from "./PulseCount.vue";
import PulsePlot from "./PulsePlot.vue";
import { useOutbox, type Pending } from "./outbox";

type Child = Schemas["PulseChild"];
type Column = Schemas["PulseColumn"];

const { lesson } = useLesson();
const lessonId = lesson.value?.id ?? "";
const queries = useQueryClient();
const outbox = useOutbox();
const formula = ref<"tanaka" | "220">("tanaka");
const key = computed(() => ["pulse", lessonId, formula.value]);
const query = useQuery({
  queryKey: key,
  queryFn: () =>
    answer(
      client.GET("/api/lessons/{lesson_id}/pulse", {
        params: { path: { lesson_id: lessonId }, query: { formula: formula.value } },
      }),
    ),
  placeholderData: (old) => old,
  refetchInterval: () => (outbox.waiting.value ? false : 20_000),
});
const page = query.data;

/** Moments that were added here and have no reading yet. */
const added = ref<Column[]>([]);
const session = useSession();
const route = useRoute();
const belts = ref(false);
const columns = computed<Column[]>(() => {
  const known = page.value?.columns ?? [];
  const there = new Set(known.map((one) => one.position));
  return [...known, ...added.value.filter((one) => !there.has(one.position))];
});
const position = ref(0);
const column = computed(() => columns.value.find((one) => one.position === position.value));
const seconds = ref(10);
const waited = ref(60);
const active = ref(0);
const typed = ref("");
const problem = ref<{ message: string; accepted: string } | null>(null);
const adding = reactive({ open: false, label: "" });
const steps = ref<{ child: Child; position: number; before: string | null }[]>([]);
const field = useTemplateRef<HTMLInputElement[]>("field");

const refresh = useDebounceFn(() => query.refetch(), 600);
const stop = outbox.onSaved((pending, child) => {
  if (pending.kind !== "pulse" || pending.at !== lessonId) return;
  queries.setQueryData<Schemas["PulsePage"]>(
    key.value,
    (old) =>
      old && {
        ...old,
        children: old.children.map((one) =>
          one.pupil_id === child.pupil_id ? (child as Child) : one,
        ),
      },
  );
  void refresh();
});
onBeforeUnmount(stop);

const waiting = computed(() => {
  const found = new Map<string, Pending>();
  for (const entry of outbox.mine.value) {
    if (entry.kind === "pulse" && entry.at === lessonId) {
      found.set(`${entry.body.pupil_id} ${entry.body.position}`, entry);
    }
  }
  return found;
});
function reading(child: Child, at: number) {
  return child.readings.find((one) => one.position === at) ?? null;
}
function pendingOf(child: Child, at: number): Pending | null {
  return waiting.value.get(`${child.pupil_id} ${at}`) ?? null;
}
function shown(child: Child, at: number): string {
  const pending = pendingOf(child, at);
  if (pending) return pending.body.withdrawn ? "" : (pending.body.typed ?? "");
  return reading(child, at)?.shown ?? "";
}
function state(child: Child, at: number) {
  const pending = pendingOf(child, at);
  if (pending) return outbox.stateOf(pending);
  const kept = reading(child, at);
  return kept && !kept.taken_back ? "saved" : "empty";
}
function flags(child: Child) {
  return child.readings.flatMap((one) => one.flags.map((flag) => ({ ...flag, reading: one })));
}

const children = computed(() => page.value?.children ?? []);
const done = computed(
  () => children.value.filter((one) => state(one, position.value) !== "empty").length,
);
let placed = false;
watch(
  children,
  (all) => {
    if (!all.length || placed) return;
    placed = true;
    // The pulse check that was asked for, else the first moment that is not taken yet.
    const asked = route.query.check === undefined ? null : columns.value[Number(route.query.check)];
    const open = asked ?? columns.value.find((one) => one.n === 0) ?? columns.value[0];
    choose(open?.position ?? 0);
  },
  { immediate: true },
);
watch(
  () =>
    [...waiting.value.values()]
      .filter((one) => one.refusal)
      .map((one) => one.body.id)
      .join(),
  () => {
    const refused = [...waiting.value.values()].find((one) => one.refusal);
    const index = children.value.findIndex((one) => one.pupil_id === refused?.body.pupil_id);
    if (refused && index >= 0 && !typed.value && refused.body.position === position.value)
      go(index);
  },
);

function firstEmpty(): number {
  const empty = children.value.findIndex((one) => state(one, position.value) === "empty");
  return Math.max(0, empty);
}
function choose(at: number) {
  position.value = at;
  go(firstEmpty());
}
/** What the belts say goes the way of every typed pulse: a rate a minute, and it can be undone. */
function takeBelts(pulses: { pupilId: string; bpm: number }[]) {
  for (const { pupilId, bpm } of pulses) {
    const child = children.value.find((one) => one.pupil_id === pupilId);
    if (!child) continue;
    steps.value.push({ child, position: position.value, before: typedBefore(child) });
    put(child, position.value, { typed: String(bpm), seconds: 60 });
  }
}
function typedBefore(child: Child): string | null {
  if (!shown(child, position.value)) return null;
  return (
    pendingOf(child, position.value)?.body.typed ?? reading(child, position.value)?.typed ?? null
  );
}
function go(index: number) {
  active.value = Math.min(children.value.length - 1, Math.max(0, index));
  typed.value = "";
  problem.value = null;
  const child = children.value[active.value];
  const refused = child && pendingOf(child, position.value);
  if (refused?.refusal) {
    typed.value = refused.body.typed ?? "";
    problem.value = { message: refused.refusal.message, accepted: refused.refusal.accepted };
  }
  void nextTick(() => {
    field.value?.[0]?.focus({ preventScroll: true });
    if (typed.value) field.value?.[0]?.select();
    document.getElementById(`pulse-${active.value}`)?.scrollIntoView({ block: "nearest" });
  });
}
function put(
  child: Child,
  at: number,
  entry: { typed: string; withdrawn?: boolean; confirmed?: boolean; seconds?: number },
) {
  const moment = columns.value.find((one) => one.position === at);
  if (!moment) return;
  const refused = pendingOf(child, at);
  if (refused?.refusal) outbox.dismiss(refused.body.id);
  const mine = outbox.newest(
    "pulse",
    lessonId,
    (body) => body.pupil_id === child.pupil_id && body.position === at,
  );
  outbox.put("pulse", lessonId, {
    id: newId(),
    pupil_id: child.pupil_id,
    position: at,
    moment: moment.moment as "rest",
    label: moment.label,
    waited: moment.moment === "recovery" ? waited.value : null,
    seconds: seconds.value,
    recorded_at: new Date(now()).toISOString(),
    succeeds: mine ?? reading(child, at)?.id ?? null,
    confirmed: false,
    withdrawn: false,
    variant: "",
    try_number: 1,
    why: "",
    sure: false,
    ...entry,
  });
}
function save(text = typed.value) {
  const child = children.value[active.value];
  const entry = text.trim();
  if (!child) return;
  if (!entry) {
    go(active.value + 1);
    return;
  }
  if (!/^(\d{1,4}|[axkrv])$/i.test(entry)) {
    problem.value = {
      message: `“${entry}” is not a number of beats.`,
      accepted: `Type beats counted in ${seconds.value} s, or a absent, x sat out, r did not want to.`,
    };
    return;
  }
  const before = typedBefore(child);
  steps.value.push({ child, position: position.value, before });
  put(child, position.value, { typed: entry });
  if (active.value < children.value.length - 1) go(active.value + 1);
  else typed.value = "";
}
function undo() {
  const step = steps.value.pop();
  if (!step) return;
  const child = children.value.find((one) => one.pupil_id === step.child.pupil_id) ?? step.child;
  put(child, step.position, { typed: step.before ?? "", withdrawn: step.before === null });
  position.value = step.position;
  go(children.value.findIndex((one) => one.pupil_id === step.child.pupil_id));
}
function confirm(child: Child, one: Schemas["PulseRow"]) {
  put(child, one.position, { typed: one.typed, confirmed: true, seconds: one.seconds ?? 10 });
}
function correct(child: Child, one: Schemas["PulseRow"]) {
  position.value = one.position;
  go(children.value.indexOf(child));
}
function addMoment() {
  const last = Math.max(...columns.value.map((one) => one.position));
  const label = adding.label.trim();
  added.value.push({
    position: last + 1,
    moment: "activity",
    label,
    words: label ? `After ${label}` : "After an activity",
    n: 0,
    median: null,
  });
  adding.open = false;
  adding.label = "";
  choose(last + 1);
}
function letGo(child: Child) {
  const refused = pendingOf(child, position.value);
  if (refused) outbox.dismiss(refused.body.id);
  void query.refetch();
  go(active.value);
}
function onKey(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const at = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  const sideways = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
  if (event.key === "Enter") save();
  else if (at) go(active.value + at);
  else if (sideways && !typed.value) {
    const place = columns.value.findIndex((one) => one.position === position.value) + sideways;
    const next = columns.value[place];
    if (next) {
      position.value = next.position;
      go(active.value);
    }
  } else if (event.key === "Escape") {
    typed.value = "";
    problem.value = null;
  } else if (!typed.value && /^[axkrv]$/i.test(event.key)) save(event.key.toLowerCase());
  else return;
  event.preventDefault();
}
useUndoKey(undo);
</script>

<template>
  <LoadState :query="query">
    <section v-if="page" class="stack">
      <div class="board setting">
        <div class="line">
          <span class="figure sum">{{ done }} / {{ children.length }}</span>
          <label class="line">
            Counted for
            <select v-model.number="seconds" class="field">
              <option v-for="one in page.seconds" :key="one" :value="one">
                {{ one === 60 ? "60 s, or beats a minute" : `${one} s` }}
              </option>
            </select>
          </label>
          <span class="quiet">one beat is {{ 60 / seconds }} a minute</span>
          <label v-if="column?.moment === 'recovery'" class="line">
            after
            <input v-model.number="waited" class="field num" type="number" min="0" /> s of rest
          </label>
          <PulseCount :seconds="seconds" @done="go(firstEmpty())" />
          <span class="space" />
          <v-btn variant="text" @click="undo">Undo</v-btn>
          <v-btn
            v-if="session.standIns"
            variant="outlined"
            :aria-pressed="belts"
            @click="belts = !belts"
          >
            Belts
          </v-btn>
          <v-btn variant="outlined" @click="adding.open = !adding.open">Add a moment</v-btn>
        </div>
        <form v-if="adding.open" class="line mt-2" @submit.prevent="addMoment">
          <label class="line">
            After <input v-model="adding.label" class="field" placeholder="star jumps" autofocus />
          </label>
          <v-btn type="submit" color="primary">Add it</v-btn>
        </form>
        <Belts
          v-if="belts"
          class="mt-2"
          :lesson-id="lessonId"
          :children="children"
          :moment="column?.moment ?? 'rest'"
          @take="takeBelts"
        />
      </div>
      <PulsePlot :columns="columns" :most="page.most" />
      <div class="board scroll">
        <table class="plain pulses">
          <thead>
            <tr>
              <th scope="col">Child</th>
              <th v-for="one in columns" :key="one.position" scope="col">
                <button
                  type="button"
                  class="moment"
                  :aria-pressed="one.position === position"
                  @click="choose(one.position)"
                >
                  {{ one.words }}
                </button>
              </th>
              <th scope="col">What it says</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(child, index) in children" :id="`pulse-${index}`" :key="child.pupil_id">
              <th scope="row" class="name">
                {{ child.name }}
                <span v-if="child.medical_note" class="note" :title="child.medical_note">✚</span>
              </th>
              <td
                v-for="one in columns"
                :key="one.position"
                class="figure cell"
                :class="{ here: one.position === position }"
                @click="
                  position = one.position;
                  go(index);
                "
              >
                <input
                  v-if="index === active && one.position === position"
                  ref="field"
                  v-model="typed"
                  class="field beats"
                  inputmode="numeric"
                  autocomplete="off"
                  :aria-label="`Beats of ${child.name}, ${one.words}`"
                  :aria-invalid="problem !== null"
                  :placeholder="shown(child, one.position) || '–'"
                  @keydown="onKey"
                />
                <template v-else>{{ shown(child, one.position) || "–" }}</template>
                <StateMark
                  v-if="state(child, one.position) !== 'empty'"
                  :state="state(child, one.position)"
                />
              </td>
              <td class="words">
                <p v-if="index === active && problem" role="alert" class="problem">
                  {{ problem.message }} {{ problem.accepted }}
                  <v-btn
                    v-if="pendingOf(child, position)?.refusal"
                    size="small"
                    variant="outlined"
                    @click="letGo(child)"
                  >
                    Let it go
                  </v-btn>
                </p>
                <p v-for="flag in flags(child)" :key="flag.reading.id + flag.code" class="flag">
                  <strong>{{ flag.reading.shown }}?</strong> {{ flag.words }}
                  <v-btn size="small" color="primary" @click.stop="confirm(child, flag.reading)">
                    It is right
                  </v-btn>
                  <v-btn size="small" variant="outlined" @click.stop="correct(child, flag.reading)">
                    Correct it
                  </v-btn>
                </p>
                {{ child.words.join(" · ") }}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="board care">
        {{ page.caution }}
        <label class="line mt-2">
          Estimated maximum
          <select v-model="formula" class="field">
            <option value="tanaka">208 − 0.7 × age (Tanaka 2001)</option>
            <option value="220">220 − age (common practice)</option>
          </select>
        </label>
      </p>
    </section>
  </LoadState>
</template>

<style scoped>
.sum {
  font-size: 1.7rem;
}
.space {
  flex: 1;
}
.num {
  width: 84px;
}
.moment {
  min-height: 48px;
  padding: 0 8px;
  font-weight: 700;
  text-align: left;
  border-bottom: 4px solid transparent;
  line-height: 1.1;
}
.moment[aria-pressed="true"] {
  border-bottom-color: var(--pennant);
}
.name {
  white-space: nowrap;
  border-bottom-width: 1px;
}
.note {
  color: var(--pennant);
}
.pulses td {
  vertical-align: middle;
}
.cell {
  font-size: 1.4rem;
  min-width: 96px;
  cursor: pointer;
}
.cell.here {
  background: rgba(var(--v-theme-chalk), 0.12);
}
.beats {
  width: 76px;
  font-size: 1.6rem;
  min-height: 44px;
  text-align: right;
}
.words {
  min-width: 320px;
  font-size: 0.95rem;
}
.flag {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
.care {
  border-left: 6px solid var(--pennant);
}
</style>
