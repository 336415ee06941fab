<script setup lang="ts">
/** A battery as one grid: children down, tests across, filled over several days. */
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { useDebounceFn } from "@vueuse/core";
import { computed, nextTick, onBeforeUnmount, ref, useTemplateRef, watch } from "vue";
import { v4 as newId } from "uuid";
import { answer, client, type Schemas } from "../api/client";
import { now } from "../parts/timeSource";
import { useLesson, useOpenRun } from "../lessons/useLesson";
import LoadState from "../parts/LoadState.vue";
import { useUndoKey } from "../parts/useUndoKey";
import StateMark from "../parts/StateMark.vue";
import { shortDay } from "../parts/words";
import { quickProblem } from "../records/check";
import { useOutbox, type Pending } from "../records/outbox";

type Grid = Schemas["BatteryGrid"];

const { lesson } = useLesson();
const lessonId = lesson.value?.id ?? "";
const queries = useQueryClient();
const outbox = useOutbox();
const openRun = useOpenRun();
const comparedWith = ref<string | undefined>(undefined);
const key = computed(() => ["grid", lessonId, comparedWith.value ?? ""]);
const query = useQuery({
  queryKey: key,
  queryFn: () =>
    answer(
      client.GET("/api/lessons/{lesson_id}/grid", {
        params: {
          path: { lesson_id: lessonId },
          query: comparedWith.value ? { compared_with: comparedWith.value } : {},
        },
      }),
    ),
  placeholderData: (old) => old,
  refetchInterval: () => (outbox.waiting.value ? false : 20_000),
});
const grid = query.data;
const children = computed(() => grid.value?.children ?? []);
const tests = computed(() => grid.value?.tests ?? []);
const active = ref({ row: 0, column: 0 });
/** After a save: down the class (one test), or along one child's tests. */
const along = ref(false);
const typed = ref("");
const problem = ref<{
  message: string;
  accepted: string;
  choices: { typed: string; words: string }[];
} | null>(null);
const chosen = ref(new Map<string, string>());
const steps = ref<{ pupilId: string; column: number; before: string | null; variant: string }[]>(
  [],
);
const field = useTemplateRef<HTMLInputElement[]>("field");

const refresh = useDebounceFn(() => query.refetch(), 500);
const stop = outbox.onSaved((pending, answered) => {
  const column = tests.value.findIndex((one) => one.activity_id === pending.at);
  if (pending.kind !== "attempt" || column < 0) return;
  const child = answered as Schemas["Child"];
  queries.setQueryData<Grid>(
    key.value,
    (old) =>
      old && {
        ...old,
        children: old.children.map((one) =>
          one.pupil_id === child.pupil_id
            ? {
                ...one,
                cells: one.cells.map((cell, place) =>
                  place === column ? { ...cell, score: child.score, head: child.head } : cell,
                ),
              }
            : one,
        ),
      },
  );
  void refresh();
});
onBeforeUnmount(stop);

const waiting = computed(() => {
  const found = new Map<string, Pending>();
  for (const entry of outbox.mine.value) {
    if (entry.kind === "attempt") found.set(`${entry.body.pupil_id} ${entry.at}`, entry);
  }
  return found;
});
function pendingOf(row: number, column: number): Pending | null {
  const child = children.value[row];
  const test = tests.value[column];
  return (child && test && waiting.value.get(`${child.pupil_id} ${test.activity_id}`)) ?? null;
}
function scoreOf(row: number, column: number) {
  return children.value[row]?.cells[column]?.score ?? null;
}
function shown(row: number, column: number): string {
  const pending = pendingOf(row, column);
  if (pending) return pending.body.withdrawn ? "" : (pending.body.typed ?? "");
  const score = scoreOf(row, column);
  return score ? score.shown + (score.estimate ? " ~" : "") : "";
}
function state(row: number, column: number) {
  const pending = pendingOf(row, column);
  if (pending) return outbox.stateOf(pending);
  return scoreOf(row, column) ? "saved" : "empty";
}
/** Growing is neither better nor worse: height and weight carry no mark. */
function isBetter(cell: Schemas["GridCell"], column: number): boolean {
  return ["better", "reached_the_top"].includes(cell.verdict) && !tests.value[column]?.private;
}
const test = computed(() => tests.value[active.value.column] ?? null);
const child = computed(() => children.value[active.value.row] ?? null);
const cell = computed(() => child.value?.cells[active.value.column] ?? null);
const reasonKeys = computed(() => test.value?.reasons.map((one) => one.key) ?? []);
const filled = computed(() =>
  children.value.reduce((sum, one) => sum + one.cells.filter((each) => each.score).length, 0),
);
const variant = computed(() => {
  const codes = test.value?.variants.map((one) => one.code) ?? [];
  if (!codes.length) return "";
  const own = chosen.value.get(`${child.value?.pupil_id} ${test.value?.activity_id}`);
  return (
    own ??
    cell.value?.score?.variant ??
    chosen.value.get(test.value?.activity_id ?? "") ??
    codes.at(-1) ??
    ""
  );
});

let placed = false;
watch(
  grid,
  (now) => {
    if (!now || placed) return;
    placed = true;
    // The first test that is not complete, at its first empty child.
    for (let column = 0; column < now.tests.length; column++) {
      const row = now.children.findIndex((one) => !one.cells[column]?.score);
      if (row >= 0) {
        go(row, column);
        return;
      }
    }
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
    if (!refused || typed.value) return;
    const row = children.value.findIndex((one) => one.pupil_id === refused.body.pupil_id);
    const column = tests.value.findIndex((one) => one.activity_id === refused.at);
    if (row >= 0 && column >= 0) go(row, column);
  },
);

function go(row: number, column: number) {
  active.value = {
    row: Math.min(children.value.length - 1, Math.max(0, row)),
    column: Math.min(tests.value.length - 1, Math.max(0, column)),
  };
  typed.value = "";
  problem.value = null;
  const refused = pendingOf(active.value.row, active.value.column);
  if (refused?.refusal) {
    typed.value = refused.body.typed ?? "";
    problem.value = refused.refusal;
  }
  void nextTick(() => {
    const input = field.value?.[0];
    input?.focus({ preventScroll: true });
    if (typed.value) input?.select();
    input?.scrollIntoView({ block: "nearest", inline: "nearest" });
  });
}
function advance() {
  const { row, column } = active.value;
  if (along.value) {
    if (column < tests.value.length - 1) go(row, column + 1);
    else if (row < children.value.length - 1) go(row + 1, 0);
    else typed.value = "";
  } else if (row < children.value.length - 1) go(row + 1, column);
  else if (column < tests.value.length - 1) go(0, column + 1);
  else typed.value = "";
}
function put(
  row: number,
  column: number,
  entry: { typed: string; withdrawn: boolean; variant: string; why: string; sure: boolean },
) {
  const who = children.value[row];
  const what = tests.value[column];
  if (!who || !what) return;
  const there = pendingOf(row, column);
  if (there?.refusal) outbox.dismiss(there.body.id);
  const mine = outbox.newest("attempt", what.activity_id, (body) => body.pupil_id === who.pupil_id);
  outbox.put("attempt", what.activity_id, {
    id: newId(),
    pupil_id: who.pupil_id,
    try_number: 1,
    wave: null,
    conditions: {},
    recorded_at: new Date(now()).toISOString(),
    succeeds: there?.refusal?.current?.id ?? mine ?? who.cells[column]?.head ?? null,
    run_id: openRun(what.activity_id, what.kind),
    ...entry,
  });
}
function save(text = typed.value, sure = false) {
  const entry = text.trim();
  if (!entry) {
    advance();
    return;
  }
  const what = test.value;
  const who = child.value;
  if (!what || !who) return;
  const wrong = quickProblem(entry, what.quick_check, reasonKeys.value);
  if (wrong) {
    problem.value = { message: wrong, accepted: what.accepted, choices: [] };
    return;
  }
  const { row, column } = active.value;
  const before = pendingOf(row, column)?.body.typed ?? scoreOf(row, column)?.typed ?? null;
  steps.value.push({ pupilId: who.pupil_id, column, before, variant: variant.value });
  put(row, column, {
    typed: entry,
    withdrawn: false,
    variant: variant.value,
    why: before ? "typed again" : "",
    sure,
  });
  advance();
}
function undo() {
  const step = steps.value.pop();
  const row = children.value.findIndex((one) => one.pupil_id === step?.pupilId);
  if (!step || row < 0) return;
  put(row, step.column, {
    typed: step.before ?? "",
    withdrawn: step.before === null,
    variant: step.before === null ? "" : step.variant,
    why: "undone",
    sure: true, // it was kept before
  });
  go(row, step.column);
}
function letGo() {
  const refused = pendingOf(active.value.row, active.value.column);
  if (refused) outbox.dismiss(refused.body.id);
  void query.refetch();
  go(active.value.row, active.value.column);
}
function onKey(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const { row, column } = active.value;
  const letter = event.key.toLowerCase();
  const empty = !typed.value;
  const other = test.value?.variants.find((one) => one.key === letter);
  if (event.key === "Enter") save();
  else if (event.key === "ArrowDown") go(row + 1, column);
  else if (event.key === "ArrowUp") go(row - 1, column);
  else if (event.key === "ArrowRight" && empty) go(row, column + 1);
  else if (event.key === "ArrowLeft" && empty) go(row, column - 1);
  else if (event.key === "Escape") {
    typed.value = "";
    problem.value = null;
  } else if (empty && reasonKeys.value.includes(letter)) save(letter);
  else if (empty && other && child.value && test.value) {
    const codes = new Map(chosen.value);
    codes.set(`${child.value.pupil_id} ${test.value.activity_id}`, other.code);
    chosen.value = codes.set(test.value.activity_id, other.code);
  } else return;
  event.preventDefault();
}
useUndoKey(undo);
</script>

<template>
  <LoadState :query="query">
    <section v-if="grid" class="stack">
      <div class="line">
        <span class="figure sum" data-testid="filled">
          {{ filled }} / {{ children.length * tests.length }}
        </span>
        <span class="line" role="group" aria-label="After a score">
          <button type="button" class="tag choice" :aria-pressed="!along" @click="along = false">
            down the class
          </button>
          <button type="button" class="tag choice" :aria-pressed="along" @click="along = true">
            along one child
          </button>
        </span>
        <label v-if="grid.sittings.length" class="line">
          Compared with
          <select v-model="comparedWith" class="field">
            <option :value="undefined">the sitting before</option>
            <option v-for="one in grid.sittings" :key="one.id" :value="one.id">
              {{ shortDay(one.on) }}
            </option>
          </select>
        </label>
        <span class="space" />
        <v-btn variant="text" @click="undo">Undo</v-btn>
      </div>
      <div v-if="test && child" class="board now">
        <strong class="figure">{{ test.test }}</strong>
        <span>{{ child.name }}</span>
        <span v-if="test.variants.length > 1" class="line">
          <span
            v-for="one in test.variants"
            :key="one.code"
            :class="{ chosen: one.code === variant }"
          >
            <kbd>{{ one.key.toUpperCase() }}</kbd> {{ one.name }}
          </span>
        </span>
        <span v-if="cell?.score" class="quiet">
          {{ [cell.rung, cell.change].filter(Boolean).join(" · ") }}
        </span>
        <span v-else-if="cell?.then" class="quiet">earlier {{ cell.then }}</span>
        <span v-if="!problem" class="quiet accepted">{{ test.accepted }}</span>
        <p v-else role="alert" class="problem" data-testid="problem">
          {{ problem.message }} {{ problem.accepted }}
          <v-btn
            v-for="one in problem.choices"
            :key="one.typed"
            size="small"
            variant="outlined"
            @click="save(one.typed)"
          >
            {{ one.words }}
          </v-btn>
          <v-btn
            v-if="pendingOf(active.row, active.column)?.refusal?.sure"
            size="small"
            variant="outlined"
            @click="save(typed, true)"
          >
            It is right
          </v-btn>
          <v-btn
            v-if="pendingOf(active.row, active.column)?.refusal"
            size="small"
            variant="outlined"
            @click="letGo"
          >
            Let it go
          </v-btn>
        </p>
      </div>
      <div class="board scroll sheet">
        <table class="plain grid">
          <thead>
            <tr>
              <th scope="col" class="name">Child</th>
              <th
                v-for="(one, column) in tests"
                :key="one.activity_id"
                scope="col"
                :class="{ here: column === active.column }"
              >
                <RouterLink :to="{ name: 'capture', query: { activity: one.activity_id } }">
                  {{ one.test }}
                </RouterLink>
                <span class="quiet count">{{ one.recorded }} / {{ children.length }}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="(one, row) in children"
              :key="one.pupil_id"
              :class="{ here: row === active.row }"
            >
              <th scope="row" class="name">
                <RouterLink :to="{ name: 'pupil', params: { pupilId: one.pupil_id } }">{{
                  one.name
                }}</RouterLink>
              </th>
              <td
                v-for="(each, column) in one.cells"
                :key="each.activity_id"
                class="cell"
                :class="{ here: column === active.column }"
                :title="[each.rung, each.change].filter(Boolean).join(', ')"
                @click="go(row, column)"
              >
                <input
                  v-if="row === active.row && column === active.column"
                  ref="field"
                  v-model="typed"
                  class="field figure"
                  autocomplete="off"
                  autocapitalize="off"
                  spellcheck="false"
                  maxlength="40"
                  :aria-label="`${tests[column]?.test} of ${one.name}`"
                  :aria-invalid="problem !== null"
                  :placeholder="shown(row, column) || '–'"
                  @keydown="onKey"
                />
                <template v-else>
                  <span class="figure value">{{ shown(row, column) || "–" }}</span>
                  <span v-if="isBetter(each, column)" class="move" aria-label="better">▲</span>
                  <span
                    v-else-if="each.verdict === 'lower' && !tests[column]?.private"
                    class="move"
                    aria-label="lower than then"
                    >▽</span
                  >
                  <span
                    v-else-if="each.verdict === 'moved_up'"
                    class="move"
                    aria-label="moved up a variant"
                    >⇧</span
                  >
                </template>
                <StateMark
                  v-if="['saving', 'waiting', 'refused'].includes(state(row, column))"
                  :state="state(row, column)"
                />
              </td>
            </tr>
          </tbody>
          <tfoot>
            <tr>
              <th scope="row" class="name">Middle now (then)</th>
              <td v-for="one in tests" :key="one.activity_id">
                <b class="figure value">{{ one.median ?? "–" }}</b>
                <span v-if="one.median_then" class="quiet"> ({{ one.median_then }})</span>
                <p v-if="one.middle_half" class="quiet">{{ one.middle_half }}</p>
              </td>
            </tr>
            <tr>
              <th scope="row" class="name">Change</th>
              <td v-for="one in tests" :key="one.activity_id" class="change">
                <template v-if="one.mean_change">
                  {{ one.private ? "" : `▲ ${one.better} · ${one.steady} steady · ▽ ${one.lower}; `
                  }}{{ one.private ? "" : one.mean_change }}
                </template>
                <p v-if="one.chance && !one.private" class="quiet">an arrow: {{ one.chance }}</p>
                <p v-if="one.misfit" class="quiet">{{ one.misfit }}</p>
              </td>
            </tr>
          </tfoot>
        </table>
      </div>
      <p class="quiet">
        ▲ better than day-to-day variation explains, ▽ lower, no mark steady or nothing to compare.
        Arrows move; Ctrl Z undoes.
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
.choice {
  min-height: 44px;
  padding: 0 12px;
}
.choice[aria-pressed="true"] {
  border-color: var(--line);
  font-weight: 700;
}
.now {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 2px 18px;
  min-height: 76px;
  border-left: 6px solid var(--line);
}
.now > strong {
  font-size: 1.4rem;
}
.accepted {
  width: 100%;
}
.chosen {
  font-weight: 700;
  text-decoration: underline;
}
.sheet {
  padding: 0 12px 8px;
  max-height: 66vh;
  overflow: auto;
}
.grid {
  border-collapse: separate;
  border-spacing: 0;
}
.grid th,
.grid td {
  vertical-align: middle;
  padding: 4px 10px 4px 6px;
}
.grid thead th {
  position: sticky;
  top: 0;
  z-index: 2;
  background: var(--board);
  vertical-align: bottom;
  line-height: 1.1;
  min-width: 96px;
  padding-top: 10px;
}
.grid thead th a {
  color: var(--ink);
  text-decoration: none;
}
.grid thead th.here {
  border-bottom: 4px solid var(--pennant);
}
.count {
  display: block;
  font-weight: 400;
}
.name {
  position: sticky;
  left: 0;
  z-index: 1;
  background: var(--board);
  white-space: nowrap;
  border-bottom: 1px solid var(--rule) !important;
}
.grid thead .name {
  z-index: 3;
}
.name a {
  color: var(--ink);
  text-decoration: none;
}
tr.here .name {
  font-weight: 700;
}
tr:not(.here) th.name[scope="row"] {
  font-weight: 400;
}
.cell {
  cursor: pointer;
  height: 44px;
  white-space: nowrap;
}
.cell.here {
  background: rgba(var(--v-theme-chalk), 0.1);
}
.cell .field {
  width: 104px;
  min-height: 42px;
  font-size: 1.3rem;
}
.value {
  font-size: 1.25rem;
}
.move {
  margin-left: 3px;
}
.change {
  font-size: 0.86rem;
  min-width: 130px;
}
</style>
