<script setup lang="ts">
/**
 * A rep target while it is on: choose the movement, type what a child has done of it since the last
 * time, and see total, rung and the pace still needed. Reps add up; the warm-up's are carried in once.
 */
import { useQuery } from "@tanstack/vue-query";
import { useDebounceFn, useIntervalFn } from "@vueuse/core";
import { computed, nextTick, ref, useTemplateRef, watch } from "vue";
import { answer, client, type Schemas } from "../api/client";
import * as conductor from "../lessons/conductor";
import { now } from "../parts/timeSource";
import { useConductor } from "../lessons/useConductor";
import { useLesson } from "../lessons/useLesson";
import { useOwnClock } from "../lessons/useOwnClock";
import LoadState from "../parts/LoadState.vue";
import StateMark from "../parts/StateMark.vue";
import { useUndoKey } from "../parts/useUndoKey";
import Refused from "./Refused.vue";
import { asTyped, parts, withReps, type Parts } from "./total";
import { useCapture } from "./useCapture";

type Child = Schemas["TargetChild"];

const { activity } = useLesson();
const activityId = activity().id;
const { query: lanes, rows, put, outbox, again } = useCapture(activityId);
const lead = useConductor();
/** The clock of this target, where no conductor runs. */
const own = useOwnClock("target");
const startedAt = own.goAt;
const at = ref(now());
useIntervalFn(() => (at.value = now()), 1_000);

const block = computed(() =>
  lead.plan.value?.blocks.findIndex((one) => one.activity_id === activityId),
);
/** Seconds worked so far: of the conductor's clock where it has come to this block. */
const elapsed = computed(() => {
  const work = lead.plan.value?.segments.find(
    (one) => one.block === block.value && one.phase === "work",
  );
  if (lead.state.value && work) {
    const place = conductor.offset(lead.state.value, at.value);
    return Math.max(0, Math.floor((Math.min(place, work.to_ms) - work.from_ms) / 1000));
  }
  return startedAt.value ? Math.max(0, Math.floor((at.value - startedAt.value) / 1000)) : 0;
});
const query = useQuery({
  queryKey: ["target", activityId],
  queryFn: () =>
    answer(
      client.GET("/api/activities/{activity_id}/target", {
        params: { path: { activity_id: activityId }, query: { elapsed: elapsed.value } },
      }),
    ),
  refetchInterval: () => (outbox.waiting.value ? false : 5_000),
});
const page = query.data;
const refresh = useDebounceFn(() => query.refetch(), 400);
watch(
  () => outbox.waiting.value,
  (waiting) => {
    if (!waiting) void refresh();
  },
);
const movement = ref(0);
const active = ref(0);
const typed = ref("");
const problem = ref("");
const steps = ref<{ pupilId: string; before: string }[]>([]);
const field = useTemplateRef<HTMLInputElement[]>("field");

const children = computed(() => page.value?.children ?? []);
const names = computed(() => page.value?.names ?? []);
const carries = computed(() => page.value?.carries ?? "");
const left = computed(() => Math.max(0, (page.value?.seconds ?? 0) - elapsed.value));

function rowOf(child: Child) {
  return rows.value.find((one) => one.child.pupil_id === child.pupil_id);
}
/** What stands for a child: its entry on the way, else the one that was acknowledged last. The
 * page of sums comes a moment later: reps are never added to it. */
function partsOf(child: Child): Parts {
  const cell = rowOf(child)?.tries[0];
  const pending = cell?.pending;
  if (pending && !pending.refusal) return parts(pending.body.typed ?? "");
  return parts(cell?.score?.typed ?? "");
}
function total(child: Child): number {
  const { carried, reps } = partsOf(child);
  return carried + reps.reduce((sum, one) => sum + one, 0);
}
function go(index: number) {
  active.value = Math.min(children.value.length - 1, Math.max(0, index));
  typed.value = "";
  problem.value = "";
  void nextTick(() => {
    field.value?.[0]?.focus({ preventScroll: true });
    document.getElementById(`target-${active.value}`)?.scrollIntoView({ block: "nearest" });
  });
}
let placed = false;
watch(
  () => children.value.length,
  (length) => {
    if (length && !placed) go(0);
    placed = placed || length > 0;
  },
  { immediate: true },
);
function send(child: Child, entry: string) {
  put(child.pupil_id, 1, {
    typed: entry,
    variant: rowOf(child)?.variant ?? "",
    wave: null,
    why: "",
    withdrawn: entry === "",
  });
}
function save() {
  const child = children.value[active.value];
  const text = typed.value.trim();
  if (!child || !rowOf(child)) return;
  if (!text) {
    go(active.value + 1);
    return;
  }
  const carried = /^c(\d{1,4})$/i.exec(text)?.[1];
  if (carried && !carries.value) {
    problem.value = "Nothing is carried in: the plan names no movement for it.";
    return;
  }
  if (!carried && !/^[+-]?\d{1,4}$/.test(text)) {
    problem.value = carries.value
      ? "Type reps to add, −5 to take away, or c40 for 40 carried in."
      : "Type reps to add, or −5 to take five away.";
    return;
  }
  const before = partsOf(child);
  const after = carried
    ? { ...before, carried: Number(carried) }
    : withReps(before, movement.value, Number(text));
  if (!after) {
    problem.value = "That would be less than none of this movement.";
    return;
  }
  steps.value.push({ pupilId: child.pupil_id, before: asTyped(before) });
  send(child, asTyped(after));
  go(active.value + 1);
}
function undo() {
  const step = steps.value.pop();
  const index = children.value.findIndex((one) => one.pupil_id === step?.pupilId);
  const child = children.value[index];
  if (!step || !child) return;
  send(child, step.before);
  go(index);
}
function start() {
  own.start();
}
function onKey(event: KeyboardEvent) {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  const sideways = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
  if (event.key === "Enter") save();
  else if (step) go(active.value + step);
  else if (sideways && !typed.value)
    movement.value = (movement.value + sideways + names.value.length) % names.value.length;
  else return;
  event.preventDefault();
}
useUndoKey(undo);
</script>

<template>
  <LoadState :query="query">
    <section v-if="page && lanes.data.value" class="stack">
      <div class="board line">
        <span class="figure clock" data-testid="left">{{ conductor.clockShown(left) }}</span>
        <v-btn v-if="!lead.state.value && !startedAt" color="primary" size="x-large" @click="start">
          Start the clock
        </v-btn>
        <span class="quiet">left</span>
        <div class="line" role="group" aria-label="Movement">
          <button
            v-for="(name, place) in names"
            :key="name"
            type="button"
            class="tag move"
            :aria-pressed="place === movement"
            @click="movement = place"
          >
            {{ name }}
          </button>
        </div>
        <span v-if="carries" class="quiet">
          <kbd>c40</kbd> carries 40 {{ carries }} in from the warm-up, once
        </span>
        <v-btn size="large" variant="outlined" :disabled="!steps.length" @click="undo">Undo</v-btn>
      </div>
      <Refused :rows="rows" :outbox="outbox" :again="again" />
      <div class="board scroll">
        <table class="plain middle">
          <thead>
            <tr>
              <th scope="col">Child</th>
              <th scope="col">{{ names[movement] }} since last time</th>
              <th scope="col">Total</th>
              <th scope="col">Rung</th>
              <th scope="col">Still needed</th>
              <th scope="col">At this pace</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(child, index) in children" :id="`target-${index}`" :key="child.pupil_id">
              <th scope="row">
                <button type="button" class="pick" @click="go(index)">{{ child.name }}</button>
              </th>
              <td>
                <input
                  v-if="index === active"
                  ref="field"
                  v-model="typed"
                  class="field reps"
                  inputmode="text"
                  autocomplete="off"
                  :aria-label="`Reps of ${child.name}`"
                  @keydown="onKey"
                />
                <span v-else class="quiet">
                  {{
                    partsOf(child)
                      .reps.map((n, at) => `${n} ${names[at] ?? ""}`)
                      .join(", ")
                  }}
                </span>
                <p v-if="index === active && problem" role="alert" class="problem">{{ problem }}</p>
              </td>
              <td class="figure total">
                {{ total(child) || "–" }}
                <StateMark
                  v-if="rowOf(child) && rowOf(child)!.state !== 'empty'"
                  :state="rowOf(child)!.state"
                />
              </td>
              <td>{{ child.rung ?? "–" }}</td>
              <td>
                <template v-if="child.needed">
                  {{ child.needed }} to {{ child.next_rung
                  }}<template v-if="child.a_minute">, {{ child.a_minute }} a minute</template>
                </template>
                <template v-else-if="child.rung">at the top</template>
              </td>
              <td class="figure">{{ child.projected ?? "" }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
  </LoadState>
</template>

<style scoped>
.clock {
  font-size: 3.4rem;
  line-height: 1;
  min-width: 3em;
}
.move {
  min-height: 48px;
  padding: 0 14px;
}
.move[aria-pressed="true"] {
  background: var(--line);
  color: rgb(var(--v-theme-on-primary));
}
.pick {
  min-height: 48px;
  text-align: left;
  font-weight: 700;
}
.reps {
  width: 6em;
  font-size: 1.6rem;
  min-height: 48px;
}
.total {
  font-size: 1.8rem;
  white-space: nowrap;
}
</style>
