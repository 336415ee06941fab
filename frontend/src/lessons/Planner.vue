<script setup lang="ts">
/** A lesson built of blocks against the clock. Every change is kept at once and can be undone. */
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { until, useDebounceFn, useEventListener } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { onBeforeRouteLeave, useRouter } from "vue-router";
import { answer, client, type Schemas } from "../api/client";
import { ask } from "../parts/ask";
import LoadState from "../parts/LoadState.vue";
import { useUndoKey } from "../parts/useUndoKey";
import { useClass } from "../people/useClass";
import BlockEditor from "./BlockEditor.vue";
import { minutes } from "../parts/minutes";
import { useLesson } from "./useLesson";

type Entry = Schemas["BlockEntry"];
type Page = Schemas["PlanPage"];

const { lesson } = useLesson();
const router = useRouter();
const lessonId = lesson.value?.id ?? "";
const params = { path: { lesson_id: lessonId } };
const queries = useQueryClient();
const query = useQuery({
  queryKey: ["plan", lessonId],
  queryFn: () => answer(client.GET("/api/lessons/{lesson_id}/plan", { params })),
  staleTime: Infinity,
});
const page = ref<Page | null>(null);
const draft = ref<Entry[]>([]);
const past = ref<Entry[][]>([]);
const open = ref<number | null>(null);
const problem = ref("");
const saving = ref(false);
const unsaved = ref(false);
const proposal = ref<{ title: string; page: Page } | null>(null);
const dragged = ref<number | null>(null);
const retestAt = ref("");
const template = ref("");
const templateName = ref("");
const kept = ref("");
const templates = useQuery({
  queryKey: ["templates"],
  queryFn: () => answer(client.GET("/api/templates")),
});
const chosen = computed(() => templates.data.value?.find((one) => one.code === template.value));
const childNames = useClass(lesson.value?.class_id ?? "");

function entry(row: Schemas["BlockRow"]): Entry {
  const { id, kind, label, test_id, activity_id, settings } = row;
  return { ...settings, id, kind, label, test_id, activity_id };
}
watch(
  () => query.data.value,
  (found) => {
    if (!found || page.value) return;
    page.value = found;
    draft.value = found.blocks.map(entry);
  },
  { immediate: true },
);
/** What the server says of each block: nothing yet of a test that is still to be chosen. */
const rows = computed(() => {
  let at = 0;
  let place = 0;
  return draft.value.map((one) => {
    const block = isWhole(one) ? page.value?.blocks[place] : undefined;
    const row = { block, start: at, warnings: block ? warningsOf(place) : [] };
    if (block) place += 1;
    at += block?.seconds ?? 0;
    return row;
  });
});
const share = computed(() =>
  page.value ? Math.min(1.25, page.value.total_seconds / (page.value.minutes * 60)) : 0,
);
function warningsOf(index: number) {
  return page.value?.warnings.filter((one) => one.block === index) ?? [];
}

/** A test block is kept once its test is chosen. */
function isWhole(one: Entry) {
  return one.kind !== "test" || Boolean(one.test_id);
}
const whole = computed(() => draft.value.every(isWhole));
/** Keep the plan as it stands. One at a time: what was changed meanwhile is sent after it. */
async function send() {
  if (!page.value || saving.value || !unsaved.value || !whole.value) return;
  saving.value = true;
  let kept: Page = page.value;
  try {
    while (unsaved.value && whole.value) {
      const sent = draft.value;
      const body = { based_on: kept.revision, blocks: sent };
      kept = await answer(client.PUT("/api/lessons/{lesson_id}/plan", { params, body }));
      page.value = kept;
      queries.setQueryData(["plan", lessonId], kept);
      if (draft.value !== sent) continue;
      // What the server has made of it: the id of a new block, the activity of a new test.
      draft.value = sent.map((one, index) => ({
        ...one,
        id: kept.blocks[index]?.id ?? null,
        activity_id: kept.blocks[index]?.activity_id ?? null,
      }));
      unsaved.value = false;
    }
    problem.value = "";
    await queries.invalidateQueries({ queryKey: ["timeline", lessonId] });
    await queries.invalidateQueries({ queryKey: ["lesson", lessonId] });
  } catch (error) {
    problem.value = (error as Error).message;
  } finally {
    saving.value = false;
  }
}
const keep = useDebounceFn(send, 450);
useEventListener(window, "beforeunload", (event) => {
  if (unsaved.value) event.preventDefault();
});
/** Going to another screen waits a moment for the last change, and leaves none behind unasked. */
onBeforeRouteLeave(async () => {
  void send();
  await until(saving).toBe(false, { timeout: 3_000 });
  return (
    !unsaved.value ||
    ask({
      title: "Leave the last change behind?",
      words: "It is not kept yet: the server could not be reached, or a block lacks its test.",
      yes: "Leave it behind",
    })
  );
});

/** Every change goes through here, so that every change can be undone. */
function change(blocks: Entry[]) {
  past.value = [...past.value.slice(-40), draft.value];
  draft.value = blocks;
  unsaved.value = true;
  void keep();
}
function undo() {
  const before = past.value.at(-1);
  if (!before) return;
  past.value = past.value.slice(0, -1);
  draft.value = before;
  unsaved.value = true;
  void keep();
}
function move(from: number, to: number) {
  if (to < 0 || to >= draft.value.length || from === to) return;
  const blocks = [...draft.value];
  const [one] = blocks.splice(from, 1);
  if (one) blocks.splice(to, 0, one);
  if (open.value === from) open.value = to;
  change(blocks);
}
function add(kind: Schemas["KindRow"]) {
  const blocks = [...draft.value];
  const made = { ...kind.defaults, kind: kind.kind as Entry["kind"], label: kind.words };
  // A cool-down and what follows it stay at the end.
  const tail = blocks.findIndex((one) => one.kind === "cool_down" || one.kind === "report");
  const place = ["cool_down", "report"].includes(kind.kind) || tail < 0 ? blocks.length : tail;
  blocks.splice(place, 0, { ...made, label: kind.kind === "test" ? "" : made.label });
  open.value = place;
  change(blocks);
}
function replace(index: number, one: Entry) {
  change(draft.value.map((old, place) => (place === index ? one : old)));
}
function remove(index: number) {
  open.value = null;
  change(draft.value.filter((_, place) => place !== index));
}
async function propose(what: "order" | "fit", title: string) {
  problem.value = "";
  try {
    const body = { based_on: page.value?.revision ?? 0, blocks: draft.value };
    const said =
      what === "order"
        ? await answer(client.POST("/api/lessons/{lesson_id}/plan/order", { params, body }))
        : await answer(client.POST("/api/lessons/{lesson_id}/plan/fit", { params, body }));
    const same =
      JSON.stringify(said.blocks.map(entry)) === JSON.stringify(page.value?.blocks.map(entry));
    if (same) problem.value = what === "order" ? "The order is good already." : "All fits already.";
    else proposal.value = { title, page: said };
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
function takeProposal() {
  if (proposal.value) change(proposal.value.page.blocks.map(entry));
  proposal.value = null;
  open.value = null;
}
async function useTemplate() {
  problem.value = "";
  try {
    const body = { code: template.value };
    const said = await answer(
      client.POST("/api/lessons/{lesson_id}/plan/template", { params, body }),
    );
    proposal.value = { title: chosen.value?.name ?? "From a template", page: said };
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
async function saveTemplate() {
  kept.value = "";
  problem.value = "";
  try {
    const body = { name: templateName.value };
    const said = await answer(client.POST("/api/lessons/{lesson_id}/template", { params, body }));
    queries.setQueryData(["templates"], said);
    kept.value = `“${templateName.value.trim()}” is a template now.`;
    templateName.value = "";
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
async function removeTemplate() {
  const one = chosen.value;
  const question = {
    title: `Take “${one?.name}” away?`,
    words: "The template goes for good; lessons made from it stay.",
    yes: "Take it away",
  };
  if (!one || !(await ask(question))) return;
  try {
    const path = { code: one.code };
    const said = await answer(client.DELETE("/api/templates/{code}", { params: { path } }));
    queries.setQueryData(["templates"], said);
    template.value = "";
  } catch (error) {
    problem.value = (error as Error).message;
  }
}
async function copy() {
  try {
    const body = { starts_at: new Date(retestAt.value).toISOString() };
    const made = await answer(client.POST("/api/lessons/{lesson_id}/copy", { params, body }));
    await router.push({ name: "plan", params: { lessonId: made.id } });
  } catch (error) {
    problem.value = (error as Error).message || "Choose the day and time of the retest.";
  }
}
useUndoKey(undo, { besideFields: true });
function onRowKey(event: KeyboardEvent, index: number) {
  if (!event.altKey) return;
  const to = { ArrowUp: index - 1, ArrowDown: index + 1 }[event.key];
  if (to === undefined) return;
  event.preventDefault();
  move(index, to);
}
function print() {
  window.print();
}
</script>

<template>
  <LoadState :query="query">
    <section v-if="page" class="planner">
      <div class="main">
        <div
          class="bar"
          role="img"
          :aria-label="`${minutes(page.total_seconds)} of ${page.minutes} minutes`"
        >
          <span
            class="fill"
            :class="{ over: page.left_seconds < 0 }"
            :style="{ width: `${(share / 1.25) * 100}%` }"
          />
          <span class="end" :style="{ left: '80%' }" />
        </div>
        <p class="sum">
          <b class="figure" data-testid="total">{{ minutes(page.total_seconds) }}</b> of
          {{ page.minutes }} min planned;
          <strong v-if="page.left_seconds >= 0">{{ minutes(page.left_seconds) }} left</strong>
          <strong v-else class="problem">{{ minutes(-page.left_seconds) }} too long</strong>
          <span class="quiet no-print" role="status">
            {{
              saving
                ? " · keeping…"
                : !whole
                  ? " · choose the new test, then it is kept"
                  : unsaved
                    ? " · not kept yet"
                    : " · kept"
            }}
          </span>
        </p>
        <ol class="blocks">
          <li
            v-for="(block, index) in draft"
            :key="index"
            class="board block"
            :class="{ open: open === index, dragged: dragged === index }"
            draggable="true"
            @dragstart="dragged = index"
            @dragend="dragged = null"
            @dragover.prevent
            @drop.prevent="dragged !== null && move(dragged, index)"
            @keydown="onRowKey($event, index)"
          >
            <span class="at figure">{{ minutes(rows[index]?.start ?? 0) }}</span>
            <button
              type="button"
              class="title"
              :aria-expanded="open === index"
              @click="open = open === index ? null : index"
            >
              <strong class="figure">{{
                block.label || rows[index]?.block?.label || "Choose a test"
              }}</strong>
              <span class="quiet">{{ rows[index]?.block?.why }}</span>
            </button>
            <span class="length figure">{{ minutes(rows[index]?.block?.seconds ?? 0) }}</span>
            <span class="acts no-print">
              <v-btn
                size="small"
                variant="text"
                :aria-label="`Move ${block.label} up`"
                :disabled="index === 0"
                @click="move(index, index - 1)"
                >↑</v-btn
              >
              <v-btn
                size="small"
                variant="text"
                :aria-label="`Move ${block.label} down`"
                :disabled="index === draft.length - 1"
                @click="move(index, index + 1)"
                >↓</v-btn
              >
              <v-btn
                size="small"
                variant="text"
                :aria-label="`Take ${block.label} out`"
                @click="remove(index)"
                >×</v-btn
              >
            </span>
            <p v-for="one in rows[index]?.warnings" :key="one.words" class="warning">
              ? {{ one.words }}
            </p>
            <p v-if="block.kind === 'stations' && open !== index" class="warning plain no-print">
              <RouterLink :to="{ name: 'stations', params: { block: index } }">
                Groups, rounds and cards
              </RouterLink>
            </p>
            <BlockEditor
              v-if="open === index"
              class="editor no-print"
              :entry="block"
              @change="replace(index, $event)"
            />
          </li>
        </ol>
        <div v-if="problem" class="line">
          <p role="alert" class="problem">{{ problem }}</p>
          <v-btn v-if="unsaved && !saving" variant="outlined" @click="send">Try again</v-btn>
        </div>
        <div class="line no-print" role="group" aria-label="Add a block">
          <b>Add</b>
          <button
            v-for="kind in page.kinds"
            :key="kind.kind"
            type="button"
            class="tag add"
            @click="add(kind)"
          >
            {{ kind.words }}
          </button>
        </div>
      </div>
      <aside class="stack">
        <div class="stack no-print">
          <v-btn color="primary" size="large" :to="{ name: 'conduct' }">Conduct this lesson</v-btn>
          <div class="line">
            <v-btn variant="outlined" :disabled="!past.length" @click="undo">Undo</v-btn>
            <v-btn variant="outlined" @click="propose('order', 'A good order')"
              >Put in a good order</v-btn
            >
            <v-btn variant="outlined" @click="propose('fit', 'Fitted to the time')"
              >Fit to the time</v-btn
            >
            <v-btn variant="outlined" @click="print">Print</v-btn>
          </div>
        </div>
        <section v-if="page.warnings.some((one) => one.block < 0)" class="board told">
          <h2>Mind</h2>
          <p v-for="one in page.warnings.filter((w) => w.block < 0)" :key="one.words">
            {{ one.words }}
          </p>
        </section>
        <section class="board">
          <h2>For {{ page.children }} children</h2>
          <p v-if="!page.kit.length" class="quiet">No kit for the tests in it.</p>
          <ul class="kit">
            <li v-for="item in page.kit" :key="item.item">
              <b class="figure">{{ item.number }} ×</b> {{ item.item }}
            </li>
          </ul>
          <p>
            Helpers: <b class="figure">{{ page.helpers }}</b>
          </p>
          <p v-if="page.bottleneck">
            Takes longest: <strong>{{ page.bottleneck }}</strong>.
          </p>
          <p v-if="page.saves">{{ page.saves }}</p>
        </section>
        <section class="board no-print">
          <h2>Templates</h2>
          <div class="line">
            <select v-model="template" class="field choose" aria-label="Template">
              <option value="">choose one</option>
              <option v-for="one in templates.data.value" :key="one.code" :value="one.code">
                {{ one.name }} ({{ one.minutes }} min{{ one.own ? ", own" : "" }})
              </option>
            </select>
            <v-btn variant="outlined" :disabled="!template" @click="useTemplate">Use it</v-btn>
            <v-btn v-if="chosen?.mine" variant="text" @click="removeTemplate">Take away</v-btn>
          </div>
          <form class="line mt-2" @submit.prevent="saveTemplate">
            <input
              v-model="templateName"
              class="field choose"
              maxlength="60"
              placeholder="Name"
              aria-label="Name of the template"
            />
            <v-btn type="submit" variant="outlined" :disabled="!templateName.trim()">
              Keep as template
            </v-btn>
          </form>
          <p v-if="kept" role="status" class="quiet">{{ kept }}</p>
        </section>
        <section class="board no-print">
          <h2>Retest</h2>
          <p class="quiet">The same blocks, protocols and conditions on another day.</p>
          <div class="line mt-2">
            <input
              v-model="retestAt"
              type="datetime-local"
              class="field"
              aria-label="Day and time of the retest"
            />
            <v-btn variant="outlined" :disabled="!retestAt" @click="copy">Copy the lesson</v-btn>
          </div>
        </section>
        <section class="print-only">
          <h2>Children</h2>
          <ol class="listed">
            <li v-for="one in childNames.data.value?.pupils" :key="one.id">{{ one.name }}</li>
          </ol>
          <p v-for="note in lesson?.medical_notes" :key="note.pupil_id">
            ✚ {{ note.name }}: {{ note.note }}
          </p>
        </section>
      </aside>
      <v-dialog
        :model-value="proposal !== null"
        :aria-label="proposal?.title"
        max-width="640"
        @update:model-value="proposal = null"
      >
        <div v-if="proposal" class="board">
          <h2>{{ proposal.title }}</h2>
          <ol class="proposed">
            <li v-for="(block, index) in proposal.page.blocks" :key="index">
              <strong>{{ block.label }}</strong> {{ minutes(block.seconds) }}
              <span v-if="page.blocks[index]?.label !== block.label" class="tag"
                >was {{ page.blocks[index]?.label }}</span
              >
              <span v-else-if="page.blocks[index]?.seconds !== block.seconds" class="tag"
                >was {{ minutes(page.blocks[index]?.seconds ?? 0) }}</span
              >
            </li>
          </ol>
          <p>{{ minutes(proposal.page.total_seconds) }} in all.</p>
          <div class="line mt-2">
            <v-btn color="primary" autofocus @click="takeProposal">Take it</v-btn>
            <v-btn variant="outlined" @click="proposal = null">Not now</v-btn>
          </div>
        </div>
      </v-dialog>
    </section>
  </LoadState>
</template>

<style scoped>
.planner {
  display: grid;
  grid-template-columns: minmax(0, 8fr) minmax(0, 4fr);
  gap: 18px;
  align-items: start;
}
.bar {
  position: relative;
  height: 26px;
  border-top: 3px solid var(--line);
  border-bottom: 3px solid var(--line);
}
.fill {
  position: absolute;
  inset: 3px auto 3px 0;
  background: var(--line);
}
.fill.over {
  background: var(--pennant);
}
.end {
  position: absolute;
  top: -8px;
  bottom: -8px;
  border-left: 4px solid var(--ink);
}
.sum {
  margin: 6px 0 10px;
}
.sum b {
  font-size: 1.6rem;
}
.blocks {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 6px;
  margin-bottom: 12px;
}
.block {
  display: grid;
  grid-template-columns: 70px 1fr 70px auto;
  align-items: center;
  gap: 0 12px;
  padding: 4px 12px;
}
.block.open {
  border-color: var(--line);
}
.block.dragged {
  opacity: 0.5;
}
.at {
  color: var(--chalk);
  font-size: 1.2rem;
}
.title {
  text-align: left;
  min-height: 48px;
  color: inherit;
}
.title strong {
  font-size: 1.35rem;
  margin-right: 10px;
}
.length {
  font-size: 1.4rem;
  text-align: right;
}
.acts {
  white-space: nowrap;
}
.acts .v-btn {
  min-width: 40px;
}
.warning {
  grid-column: 2 / -1;
  color: rgb(var(--v-theme-warning));
  font-weight: 700;
}
.warning.plain {
  font-weight: 400;
}
.choose {
  flex: 1;
  min-width: 0;
}
.listed {
  columns: 2;
}
.editor {
  grid-column: 1 / -1;
}
.add {
  min-height: 44px;
  padding: 0 12px;
  background: var(--board);
}
.told {
  border-left: 6px solid var(--pennant);
}
.kit {
  list-style: none;
  padding: 0;
}
.kit b {
  font-size: 1.3rem;
}
.proposed {
  padding-left: 24px;
  margin: 8px 0;
}
.print-only {
  display: none;
}
@media (max-width: 860px) {
  .planner {
    grid-template-columns: 1fr;
  }
}
@media (max-width: 600px) {
  .block {
    grid-template-columns: 52px 1fr 60px;
  }
  .acts {
    grid-column: 2 / -1;
  }
}
/* The whole plan with the children's list on one page. */
@media print {
  .planner {
    gap: 8px;
    font-size: 0.85rem;
    line-height: 1.3;
  }
  .bar {
    display: none;
  }
  .sum {
    margin: 0 0 4px;
  }
  .blocks {
    gap: 0;
    margin: 0;
  }
  .block {
    padding: 2px 0;
    border-width: 0 0 1px;
    border-radius: 0;
    break-inside: avoid;
  }
  .at,
  .title strong,
  .length {
    font-size: 0.95rem;
  }
  .title {
    min-height: 0;
  }
  aside {
    grid-template-columns: 1fr 1fr;
    gap: 8px;
  }
  aside .board {
    padding: 4px 10px;
    border-width: 1px;
  }
  aside .told {
    border-left-width: 6px;
  }
  aside h2 {
    font-size: 1.1rem;
    margin: 0;
  }
  .kit {
    columns: 2;
  }
  .kit b {
    font-size: 0.95rem;
  }
  .print-only {
    display: block;
    grid-column: 1 / -1;
  }
  .listed {
    columns: 4;
    margin-bottom: 4px;
  }
}
</style>
